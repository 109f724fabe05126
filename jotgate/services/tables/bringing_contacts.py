"""What the worker does to bring contacts in: every row read and compared, then all written."""

import asyncio
from collections.abc import AsyncIterator
from dataclasses import asdict
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.contacts.bringing import RowRead, Rows
from jotgate.core.contacts.contact import Origin
from jotgate.core.formats.table_in import Row
from jotgate.core.records.work import UploadedTable, Work
from jotgate.services.context import Context
from jotgate.services.staff.contacts.lists import made
from jotgate.services.tables import tables
from jotgate.services.tables.rows_wrong import RowsWrong
from jotgate.services.trail import note
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.contacts import brought, contacts, lists

MOST_TOLD = 200
"""Rows of each sort that are told one by one; the others are counted."""

GONE = RowsWrong([Fault(code="gone", at="table", message="The table is no longer there.")])
NO_LIST = RowsWrong([Fault(code="gone", at="list", message="The list is no longer there.")])
NOT_LOOKED_AT = RowsWrong(
    [Fault(code="gone", at="table", message="Have the table looked at again, then bring it in.")]
)


class _Looking:
    """Reads the rows of one table, chunk by chunk. `wrong` are those that cannot be contacts."""

    def __init__(self, context: Context, rows: Rows) -> None:
        self.context, self._rows = context, rows
        self.read = 0
        self.wrong: list[RowRead] = []
        self.wrong_count = 0

    async def each(
        self, table: UploadedTable, work_id: UUID
    ) -> AsyncIterator[tuple[UUID, RowRead]]:
        async for rows in tables.chunks(self.context, table):
            for one in await asyncio.to_thread(self._of_rows, rows):
                if one.wrong:
                    self.wrong_count += 1
                    if len(self.wrong) < MOST_TOLD:
                        self.wrong.append(one)
                else:
                    yield self.context.ids.id(), one
            async with self.context.single.connect() as conn:
                await work.advance(conn, work_id, self.read, self.context.clock.now())

    def _of_rows(self, rows: list[Row]) -> list[RowRead]:
        begun = self.read
        self.read += len(rows)
        return [self._rows.read(begun + at, row) for at, row in enumerate(rows, 1)]


async def table_of(conn: Connection, one: Work) -> UploadedTable:
    """The table that work is about. Raises RowsWrong."""
    found = await work.table(conn, UUID(one.arguments["table_id"]))
    if found is None:
        raise GONE
    return found


async def look(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Look at the rows of a table, in the transaction of `conn`; what was found. Raises
    RowsWrong."""
    table = await table_of(conn, one)
    columns = {int(at): str(key) for at, key in one.arguments["columns"]}
    looking = _Looking(context, Rows(columns, await contacts.fields(conn)))
    await brought.put(conn, table.id, looking.each(table, one.id))
    seen = await brought.look(conn, table.id)
    told = await brought.told(conn, table.id, MOST_TOLD)
    return {
        **asdict(seen),
        "wrong": looking.wrong_count,
        "rows": [asdict(row) for row in told],
        "faults": [{"number": row.number, "message": row.wrong} for row in looking.wrong],
    }


async def bring(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Write the rows of a table that was looked at. Raises RowsWrong."""
    said, table = one.arguments, await table_of(conn, one)
    list_id = said["list_id"] and UUID(said["list_id"])
    if list_id is not None and await lists.name_of(conn, list_id) is None:
        raise NO_LIST
    if said["new_list"]:
        list_id = await made(context, conn, one.account_id, said["new_list"])
    origin = Origin(context.clock.now(), f"the table {table.name}")
    added, changed = await brought.write(conn, table.id, said["known"] == "update", list_id, origin)
    if not added and not changed and not await brought.was_looked_at(conn, table.id):
        raise NOT_LOOKED_AT
    await brought.forget(conn, [table.id])
    await note(context, conn, one.account_id, "contacts_brought", added=added, changed=changed)
    return {"added": added, "changed": changed, "list_id": list_id and str(list_id)}
