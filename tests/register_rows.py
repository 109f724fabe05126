"""The rows of a register as a view shows them."""

from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff.registers import grid


async def rows_of(
    context: Context, account: Account, register_id: UUID, view: TableView | None = None
) -> list[Row]:
    """The newest first, where the view has no other order."""
    order = await grid.order(context, account, register_id, view or TableView())
    found = {row.id: row for row in await grid.read(context, account, register_id, order.ids)}
    return [found[id] for id in order.ids]
