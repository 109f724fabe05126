"""Changes of cells: each is checked by itself, and what does not fit is told in its cell."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from jotgate.core.registers.cells import Cell, NotFit, Where, read_cell
from jotgate.core.registers.columns import Column
from jotgate.core.registers.values import with_computed

Code = Literal["unfit", "changed", "no_row", "no_column"]


@dataclass(frozen=True)
class Edit:
    """What somebody gives for a cell in which `before` stood when they looked at it."""

    row: int
    column: str
    given: Cell | None
    before: Cell | None


@dataclass(frozen=True)
class Refused:
    """An edit that was not made, with why. `now` is what stands in the cell where somebody else
    changed it."""

    row: int
    column: str
    code: Code
    why: str
    now: Cell | None = None


@dataclass
class Edited:
    """The whole new cells of the rows that change, by row, and what was refused."""

    rows: dict[int, dict[str, Cell]] = field(default_factory=dict)
    refused: list[Refused] = field(default_factory=list)


def edited(
    columns: Sequence[Column],
    rows: Mapping[int, Mapping[str, Cell]],
    edits: Sequence[Edit],
    where: Where,
) -> Edited:
    """What `edits` make of `rows`; a cell that is given twice takes what comes last."""
    by_key = {one.key: one for one in columns}
    found = Edited()
    changed: dict[int, dict[str, Cell]] = {}
    for edit in edits:
        row, column = rows.get(edit.row), by_key.get(edit.column)
        if row is None:
            found.refused.append(_refused(edit, "no_row", "This row was removed."))
        elif column is None:
            found.refused.append(_refused(edit, "no_column", "This column is gone."))
        else:
            _edit(edit, column, row, changed, found, where)
    found.rows = {id: with_computed(columns, cells) for id, cells in changed.items()}
    return found


def _refused(edit: Edit, code: Code, why: str, now: Cell | None = None) -> Refused:
    return Refused(edit.row, edit.column, code, why, now)


def _edit(
    edit: Edit,
    column: Column,
    row: Mapping[str, Cell],
    changed: dict[int, dict[str, Cell]],
    found: Edited,
    where: Where,
) -> None:
    try:
        cell = read_cell(column, edit.given, where)
    except NotFit as error:
        found.refused.append(_refused(edit, "unfit", str(error)))
        return
    now = row.get(column.key)
    if cell == now:
        return
    if now != edit.before:
        why = "Somebody else changed this cell meanwhile."
        found.refused.append(_refused(edit, "changed", why, now))
        return
    cells = changed.setdefault(edit.row, dict(row))
    if cell is None:
        cells.pop(column.key, None)
    else:
        cells[column.key] = cell


def new_row(
    columns: Sequence[Column], number: int, given: Mapping[str, Cell | None], where: Where
) -> Edited:
    """The cells of a row that is added; `number` stands for it in what is refused."""
    edits = [Edit(number, key, one, None) for key, one in given.items()]
    found = edited(columns, {number: {}}, edits, where)
    found.rows = {number: found.rows.get(number) or with_computed(columns, {})}
    return found


def differences(
    before: Mapping[str, Cell], after: Mapping[str, Cell]
) -> tuple[dict[str, Cell], dict[str, Cell]]:
    """The cells that are not the same, as they were and as they became; empty ones left out."""
    keys = [key for key in {**before, **after} if before.get(key) != after.get(key)]
    return (
        {key: before[key] for key in keys if key in before},
        {key: after[key] for key in keys if key in after},
    )
