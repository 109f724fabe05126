"""Cells that people write, rows that they add, take out and put back."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row, RowChange, RowDid
from jotgate.core.records.trail import Action
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Register
from jotgate.core.registers.edits import Edit, Refused, differences, edited, new_row
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import there, where_of
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.registers import history, registers, rows


@dataclass(frozen=True)
class CellsWritten:
    """The rows as they are by now, those that were added last in the order in which they were
    given, and what was refused. Nothing was written where `taken` is false."""

    taken: bool
    rows: tuple[Row, ...]
    refused: tuple[Refused, ...]


@dataclass(frozen=True)
class Writing:
    """Cells of rows that are there, and rows to add, which are counted from -1 down in what is
    refused. With `partly` what fits is written where something else does not. `zone` is the time
    zone in which moments are written."""

    edits: Sequence[Edit]
    added: Sequence[Mapping[str, Cell | None]]
    partly: bool
    zone: str | None = None


async def write(context: Context, account: Account, id: UUID, given: Writing) -> CellsWritten:
    """Raises NotAllowed, NotFound."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id, "register")
        register = there(await registers.shared(conn, id))
        where = await where_of(context, conn, given.zone)
        known = await rows.locked(conn, id, {edit.row for edit in given.edits})
        found = edited(
            register.columns, {row: one.values for row, one in known.items()}, given.edits, where
        )
        refused = list(found.refused)
        new: list[dict[str, Cell]] = []
        for position, one in enumerate(given.added, 1):
            made = new_row(register.columns, -position, one, where)
            refused += made.refused
            new.append(made.rows[-position])
        if refused and not given.partly:
            return CellsWritten(False, (), tuple(refused))
        await put_cells(conn, account, known, found.rows, now)
        added = await _add(conn, account, register, new, now)
    changed = [_with(known[row], cells) for row, cells in found.rows.items()]
    return CellsWritten(True, (*changed, *added), tuple(refused))


def _with(row: Row, cells: Mapping[str, Cell]) -> Row:
    return Row(row.id, dict(cells), row.entry_number, row.filed, row.about)


async def put_cells(
    conn: Connection,
    account: Account,
    known: Mapping[int, Row],
    changed: Mapping[int, Mapping[str, Cell]],
    now: datetime,
) -> None:
    """Store the whole new cells of rows, which are locked and `known` as they were, and note what
    changed."""
    await rows.put_many(conn, changed)
    changes = [
        _change(row, "changed", account, now, known[row].values, cells)
        for row, cells in changed.items()
    ]
    await history.note_changes(conn, changes)


def _change(
    row: int,
    did: RowDid,
    account: Account,
    now: datetime,
    before: Mapping[str, Cell],
    after: Mapping[str, Cell],
) -> RowChange:
    return RowChange(row, now, did, account.id, "", None, *differences(before, after))


async def _add(
    conn: Connection,
    account: Account,
    register: Register,
    new: Sequence[Mapping[str, Cell]],
    now: datetime,
) -> list[Row]:
    made = []
    for cells in new:
        id = await rows.file(conn, register.id, register.revision, cells, None, None, now)
        assert id is not None, "its columns are locked"
        made.append(Row(id, dict(cells), None, now))
    changes = [_change(one.id, "filed", account, now, {}, one.values) for one in made]
    await history.note_changes(conn, changes)
    return made


async def remove(
    context: Context, account: Account, id: UUID, ids: Sequence[int], back: bool
) -> list[Row]:
    """Take rows out of a register, or put them back: those that were moved. The trail says how
    many. Raises NotAllowed, NotFound."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id, "register")
        there(await registers.shared(conn, id))
        found = await rows.locked(conn, id, set(ids), removed=back)
        if not found:
            return []
        await rows.set_removed(conn, found.keys(), None if back else now)
        did: RowDid = "restored" if back else "removed"
        changes = [_change(row, did, account, now, {}, {}) for row in found]
        await history.note_changes(conn, changes)
        action: Action = "rows_restored" if back else "rows_removed"
        await note(context, conn, account.id, action, register_id=id, count=len(found))
    return [_with(one, one.values) for one in found.values()]
