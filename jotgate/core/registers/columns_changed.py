"""Columns of a register that become others, and what that makes of the cells under them."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from jotgate.core.common.errors import Fault
from jotgate.core.items import Computed
from jotgate.core.publishing.cross_check_faults import formula_faults
from jotgate.core.registers.cells import Cell, NotFit, Where, read_cell
from jotgate.core.registers.columns import Column
from jotgate.core.registers.values import column_items, with_computed
from jotgate.core.registers.words import cell_words

MOST_TOLD = 20
"""Cells that do not fit are told one by one up to this many; all are counted."""


@dataclass(frozen=True)
class Unfit:
    """A cell that cannot be kept in what its column becomes."""

    row: int
    column: str
    said: str
    why: str


def column_faults(columns: Sequence[Column]) -> Iterator[Fault]:
    """What is wrong with columns together: keys given twice, formulas of what is not there."""
    keys = [column.key for column in columns]
    doubles = sorted({key for key in keys if keys.count(key) > 1})
    if doubles:
        message = f"More than one column has the key {doubles[0]}. Give each its own."
        yield Fault(code="double_key", at="columns", message=message)
        return
    items = column_items(columns)
    for position, column in enumerate(columns):
        item = items.get(column.key)
        if not isinstance(item, Computed) or column.formula is None:
            continue
        before = {one.key: items[one.key] for one in columns[:position] if one.key in items}
        after = {
            one.key: items[one.key]
            for one in columns[position + 1 :]
            if one.key in items and one.formula is None
        }
        at = f"columns/{position}"
        if "today" in column.formula.model_dump().values():
            message = f"{column.label}: what is computed from today would change every day."
            yield Fault(code="today", at=at, message=message)
        for found in formula_faults(item, {**before, **after}, at):
            yield found.model_copy(update={"message": f"{column.label}: {found.message}"})


class Becoming:
    """Reads rows of `old` columns as rows of `new` ones, told apart by key."""

    def __init__(self, old: Sequence[Column], new: Sequence[Column], where: Where) -> None:
        self._new, self._where = new, where
        before = {one.key: one for one in old}
        self._changed = [
            (before[one.key], one)
            for one in new
            if one.key in before and _as_read(before[one.key]) != _as_read(one)
        ]
        self.gone = tuple(one.key for one in old if one.key not in {two.key for two in new})
        self._computes = any(one.formula for one in (*old, *new))

    @property
    def touches_cells(self) -> bool:
        return bool(self._changed or self.gone or self._computes)

    def row(self, id: int, cells: Mapping[str, Cell]) -> tuple[dict[str, Cell], list[Unfit]]:
        """The cells as they become, and those that cannot be kept."""
        found = {key: cell for key, cell in cells.items() if key not in self.gone}
        unfit: list[Unfit] = []
        for old, new in self._changed:
            cell = found.pop(old.key, None)
            if cell is None or new.formula is not None:
                continue
            try:
                kept = self._kept(old, new, cell)
            except NotFit as why:
                said = cell_words(old, cell, self._where)
                unfit.append(Unfit(id, new.key, said[:200], str(why)))
                continue
            if kept is not None:
                found[new.key] = kept
        return with_computed(self._new, found), unfit

    def _kept(self, old: Column, new: Column, cell: Cell) -> Cell | None:
        """Codes stay where the options stay; everything else goes by its words."""
        if old.type == new.type == "files":
            return cell
        codes = {one.code for one in new.options}
        each = cell if isinstance(cell, list) else [cell]
        if codes and all(one in codes for one in each):
            return read_cell(new, cell if new.type == "pick_many" or len(each) > 1 else each[0])
        return read_cell(new, cell_words(old, cell, self._where), self._where)


def _as_read(column: Column) -> tuple[object, ...]:
    return column.type, tuple(one.code for one in column.options), column.formula
