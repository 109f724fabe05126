"""The rows of a register as a table, as a view shows them."""

from collections.abc import AsyncIterator, Sequence
from uuid import UUID

from jotgate.core.formats.table_in import Row
from jotgate.core.records.accounts import Account
from jotgate.core.registers.cells import Where
from jotgate.core.registers.columns import Column
from jotgate.core.registers.words import cell_words
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff.registers import grid
from jotgate.services.staff.registers.registers import read, where_of
from jotgate.services.trail import note
from jotgate.store.registers import ordered

AT_ONCE = 2_000


async def table(
    context: Context, account: Account, id: UUID, view: TableView, zone: str | None
) -> tuple[str, tuple[str, ...], AsyncIterator[list[Row]]]:
    """The name of the register, the names of the columns that are shown, and the rows, some at a
    time; that they were read is in the trail. Raises NotFound, Invalid."""
    register = (await read(context, account, id)).register
    found = await grid.order(context, account, id, view)
    columns = {one.key: one for one in register.columns}
    shown = [columns[key] for key in view.shown(columns)]
    async with context.engine.begin() as conn:
        where = await where_of(context, conn, zone)
        await note(context, conn, account.id, "rows_exported", register_id=id, count=len(found.ids))
    head = ("Row", *(one.label for one in shown))
    return register.name, head, _rows(context, id, shown, found.ids, where)


async def _rows(
    context: Context, id: UUID, shown: Sequence[Column], ids: Sequence[int], where: Where
) -> AsyncIterator[list[Row]]:
    for at in range(0, len(ids), AT_ONCE):
        some = ids[at : at + AT_ONCE]
        async with context.engine.connect() as conn:
            found = {row.id: row for row in await ordered.read(conn, id, some)}
        yield [
            [str(row), *(cell_words(one, found[row].values.get(one.key), where) for one in shown)]
            for row in some
            if row in found
        ]
