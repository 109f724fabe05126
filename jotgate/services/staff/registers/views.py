"""Views of a register that people keep under a name."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.registers.views import RowView, SavedView
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import there
from jotgate.services.staff.rights import needs
from jotgate.store.base import Connection
from jotgate.store.registers import registers

MOST = 100
"""Views of one register at most, everybody's together."""


@dataclass(frozen=True)
class ViewGiven:
    """`for_all` needs the right to change the register."""

    name: str
    view: RowView
    for_all: bool


async def keep(
    context: Context, account: Account, id: UUID, view_id: UUID | None, given: ViewGiven
) -> SavedView:
    """Save a view, over the one `view_id` where that is given. Raises NotAllowed, NotFound, Invalid
    for a name that is taken."""
    now = context.clock.now()
    owner = None if given.for_all else account.id
    try:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write" if given.for_all else "read", id, "register")
            there(await registers.shared(conn, id))
            if view_id is None:
                if len(await registers.views_of(conn, id, account.id)) >= MOST:
                    raise Invalid(f"There are {MOST} views already. Delete one first.")
                made = SavedView(context.ids.id(), id, owner, given.name, given.view, now)
                await registers.add_view(conn, made)
                return made
            before = await _own(conn, account, id, view_id)
            kept = SavedView(view_id, id, owner, given.name, given.view, before.made)
            await registers.put_view(conn, kept)
            return kept
    except AlreadyThere:
        message = f"There is a view named {given.name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None


async def _own(conn: Connection, account: Account, id: UUID, view_id: UUID) -> SavedView:
    """A view that `account` may change."""
    found = await registers.view(conn, id, view_id)
    if found is None or found.account_id not in (None, account.id):
        raise NotFound("There is no such view.")
    if found.account_id is None:
        await needs(conn, account, "write", id, "register")
    return found


async def remove(context: Context, account: Account, id: UUID, view_id: UUID) -> None:
    async with context.engine.begin() as conn:
        await needs(conn, account, "read", id, "register")
        await _own(conn, account, id, view_id)
        await registers.remove_view(conn, view_id)
