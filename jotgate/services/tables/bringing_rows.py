"""What the worker does to bring the rows of a table into a register: all of them or none."""

import asyncio
from collections.abc import AsyncIterator
from dataclasses import asdict
from datetime import datetime
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.formats.rows_in import RegisterRows, UnfitCell
from jotgate.core.formats.table_in import Row
from jotgate.core.records.dispatch import RowChange
from jotgate.core.records.work import UploadedTable, Work
from jotgate.core.registers.cells import Cell
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import where_of
from jotgate.services.tables import tables
from jotgate.services.tables.rows_wrong import RowsWrong
from jotgate.services.trail import note
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.registers import history, registers, rows

MOST_TOLD = 200
"""Cells that do not fit are told one by one up to this many; all are counted."""

NO_TABLE = RowsWrong([Fault(code="gone", at="table", message="The table is no longer there.")])
NO_REGISTER = RowsWrong(
    [Fault(code="gone", at="register", message="The register is no longer there.")]
)
OTHER_COLUMNS = RowsWrong(
    [
        Fault(
            code="changed",
            at="register",
            message="Its columns were changed meanwhile. Say again what each column holds.",
        )
    ]
)

Cells = dict[str, Cell]


class _Reading:
    """Reads a table, piece by piece, and counts what does not fit."""

    def __init__(self, context: Context, reader: RegisterRows, work_id: UUID) -> None:
        self._context, self._reader, self._work_id = context, reader, work_id
        self.read = self.unfit = 0
        self.told: list[UnfitCell] = []

    async def each(self, table: UploadedTable) -> AsyncIterator[list[Cells]]:
        async for some in tables.chunks(self._context, table):
            yield await asyncio.to_thread(self._of_rows, some)
            async with self._context.single.connect() as conn:
                await work.advance(conn, self._work_id, self.read, self._context.clock.now())

    def _of_rows(self, some: list[Row]) -> list[Cells]:
        found = []
        for row in some:
            self.read += 1
            cells, unfit = self._reader.read(self.read, row)
            self.unfit += len(unfit)
            self.told += unfit[: MOST_TOLD - len(self.told)]
            found.append(cells)
        return found


async def bring(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Add the rows of a table, in the transaction of `conn`. Where cells do not fit nothing is
    added, unless what was asked for says to leave them empty. Raises RowsWrong."""
    said = one.arguments
    table = await work.table(conn, UUID(said["table_id"]))
    register = await registers.shared(conn, UUID(said["register_id"]))
    if table is None:
        raise NO_TABLE
    if register is None:
        raise NO_REGISTER
    if register.revision != said["revision"]:
        raise OTHER_COLUMNS
    matching = {int(at): str(key) for at, key in said["columns"]}
    where = await where_of(context, conn, said["zone"])
    reading = _Reading(context, RegisterRows(matching, register.columns, where), one.id)
    now = context.clock.now()
    added = 0
    async with conn.begin_nested() as kept:
        async for some in reading.each(table):
            if said["partly"] or not reading.unfit:
                added += await _add(conn, one.account_id, register.id, some, now)
        if reading.unfit and not said["partly"]:
            added = 0
            await kept.rollback()
    if added:
        at = register.id
        await note(context, conn, one.account_id, "rows_brought", register_id=at, count=added)
    return {
        "added": added,
        "unfit": reading.unfit,
        "told": [asdict(cell) for cell in reading.told],
    }


async def _add(
    conn: Connection, account_id: UUID, register_id: UUID, some: list[Cells], now: datetime
) -> int:
    ids = await rows.add_many(conn, register_id, some, now)
    changes = [
        RowChange(id, now, "filed", account_id, "", None, {}, cells)
        for id, cells in zip(ids, some, strict=True)
    ]
    await history.note_many(conn, changes)
    return len(ids)
