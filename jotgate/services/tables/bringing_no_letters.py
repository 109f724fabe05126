"""What the worker does with a table of addresses that must not be written to."""

import asyncio
from collections.abc import Callable, Sequence

from jotgate.core.contacts.fields import NotFit, readings
from jotgate.core.formats.table_in import Row
from jotgate.core.records.work import Work
from jotgate.services.context import Context
from jotgate.services.tables import tables
from jotgate.services.tables.bringing_contacts import MOST_TOLD, table_of
from jotgate.services.trail import note
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs


def _addresses(
    rows: Sequence[Row], column: int, read: Callable[[str], str], begun: int
) -> tuple[set[str], list[tuple[int, str]]]:
    """The addresses in a column, and what stands there that is none, by its number."""
    found, wrong = set(), []
    for number, row in enumerate(rows, begun + 1):
        written = row[column].strip()
        try:
            if written:
                found.add(read(written))
        except NotFit:
            wrong.append((number, written[:80]))
    return found, wrong


async def bring(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Have no letter go to the addresses of a table, in the transaction of `conn`. What is no
    address is left out and told. Raises RowsWrong."""
    table, column = await table_of(conn, one), int(one.arguments["column"])
    read, now = readings(())["email"], context.clock.now()
    said, begun, added = f"the table {table.name}", 0, 0
    wrong: list[tuple[int, str]] = []
    async for rows in tables.chunks(context, table):
        found, unfit = await asyncio.to_thread(_addresses, rows, column, read, begun)
        begun += len(rows)
        wrong += unfit
        added += await opt_outs.add_many(conn, found, now, said)
        await contacts.mark_out(conn, found, now)
        async with context.single.connect() as told:
            await work.advance(told, one.id, begun, now)
    await note(context, conn, one.account_id, "opted_out", state="brought", count=added)
    rows_wrong = [{"number": number, "written": text} for number, text in wrong[:MOST_TOLD]]
    return {"stopped": added, "wrong": len(wrong), "rows": rows_wrong}
