"""A table as rows of a register: what its columns hold, and its rows read one by one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.formats.table_in import Row, folded, matched
from jotgate.core.registers.cells import Cell, NotFit, Where, read_cell
from jotgate.core.registers.columns import Column, ColumnType
from jotgate.core.registers.values import with_computed

WRITTEN: tuple[ColumnType, ...] = (
    "number",
    "date",
    "date_time",
    "time",
    "yes_no",
    "email",
    "web_address",
)
"""The types that are proposed where every cell fits, the first that does."""

FEW = 12
"""A column of at most so many different words, each of them there several times, is picked from."""

LONG = 120
"""Characters from which a text is a long one."""


def proposed_columns(names: Sequence[str], rows: Sequence[Row]) -> list[Column]:
    """Columns for a register that is made from a table, with types by what its first rows hold."""
    taken: set[str] = set()
    found = []
    for at, name in enumerate(names):
        label = " ".join(name.split())[:80] or f"Column {at + 1}"
        key = key_from(label, taken, "column")
        taken.add(key)
        cells = [row[at] for row in rows if at < len(row) and row[at].strip()]
        more = _proposed(cells)
        found.append(Column.model_validate({"key": key, "label": label, **more}))
    return found


def _proposed(cells: Sequence[str]) -> dict[str, Any]:
    if not cells:
        return {}
    for type in WRITTEN:
        if all(_fits(type, cell) for cell in cells) and not _is_other(type, cells):
            return {"type": type}
    if any(len(cell) > LONG or "\n" in cell for cell in cells):
        return {"type": "long_text"}
    words = dict.fromkeys(" ".join(cell.split()) for cell in cells)
    if len(words) <= FEW and len(cells) >= 3 * len(words) and max(map(len, words)) <= 80:
        return {"type": "pick_one", "options": _options(words)}
    return {}


def _fits(type: ColumnType, cell: str) -> bool:
    try:
        return read_cell(Column(key="c", label="C", type=type), cell) is not None
    except NotFit:
        return False


def _is_other(type: ColumnType, cells: Sequence[str]) -> bool:
    """Whether these only happen to fit: digits with zeros in front, as telephone numbers and keys
    have them; ones and noughts that would read as yes and no; words that a browser could open."""
    if type == "yes_no":
        return all(cell.strip() in ("0", "1") for cell in cells)
    if type == "web_address":
        return not all("://" in cell for cell in cells)
    led = [cell.strip() for cell in cells if cell.strip()[:1] in ("0", "+")]
    return type == "number" and any(len(one) > 1 and one[1].isdigit() for one in led)


def _options(words: Mapping[str, object]) -> list[dict[str, str]]:
    taken: set[str] = set()
    found = []
    for label in words:
        code = key_from(label, taken, "option")
        taken.add(code)
        found.append({"code": code, "label": label})
    return found


def proposed_matching(names: Sequence[str], columns: Sequence[Column]) -> dict[int, str]:
    """By the number of a column of the table, from 0, the column of a register that it is."""
    known = {}
    for column in columns:
        if column.formula is None and column.type != "files":
            known[folded(column.label)] = known[folded(column.key)] = column.key
    return matched(names, known)


@dataclass(frozen=True)
class UnfitCell:
    """A cell of a table that does not fit; `number` counts rows from 1."""

    number: int
    column: str
    said: str
    why: str


class RegisterRows:
    """Reads the rows of a table whose columns, by number, are those of a register by key."""

    def __init__(
        self, matching: Mapping[int, str], columns: Sequence[Column], where: Where
    ) -> None:
        known = {one.key: one for one in columns}
        self._columns = [(at, known[key]) for at, key in matching.items() if key in known]
        self._all, self._where = columns, where

    def read(self, number: int, row: Row) -> tuple[dict[str, Cell], list[UnfitCell]]:
        """The cells of a row without those that do not fit, and those."""
        cells: dict[str, Cell] = {}
        unfit = []
        for at, column in self._columns:
            try:
                cell = read_cell(column, row[at], self._where)
            except NotFit as why:
                unfit.append(UnfitCell(number, column.label, row[at][:200], str(why)))
                continue
            if cell is not None:
                cells[column.key] = cell
        return with_computed(self._all, cells), unfit
