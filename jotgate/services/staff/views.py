"""Views of a register, or of the entries of a questionnaire, that people keep under a name."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.rights import Thing
from jotgate.core.table_views import SavedView, TableView
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs
from jotgate.store import views
from jotgate.store.base import Connection

MOST = 100
"""Views of one table at most, everybody's together."""


@dataclass(frozen=True)
class ViewGiven:
    """`for_all` needs the right to change what it is a view of."""

    name: str
    view: TableView
    for_all: bool


Of = tuple[Thing, UUID]
"""The register, or the questionnaire, that views are of."""


async def kept(context: Context, account: Account, of: Of) -> list[SavedView]:
    """Those for all, and one's own."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", of[1], of[0])
        return await views.views_of(conn, of, account.id)


async def keep(
    context: Context, account: Account, of: Of, view_id: UUID | None, given: ViewGiven
) -> SavedView:
    """Save a view, over the one `view_id` where that is given. Raises NotAllowed, NotFound, Invalid
    for a name that is taken."""
    owner = None if given.for_all else account.id
    try:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write" if given.for_all else "read", of[1], of[0])
            if view_id is None:
                if len(await views.views_of(conn, of, account.id)) >= MOST:
                    raise Invalid(f"There are {MOST} views already. Delete one first.")
                id, now = context.ids.id(), context.clock.now()
                made = SavedView(id, of[1], owner, given.name, given.view, now)
                await views.add(conn, of[0], made)
                return made
            before = await _own(conn, account, of, view_id)
            changed = SavedView(view_id, of[1], owner, given.name, given.view, before.made)
            await views.put(conn, changed)
            return changed
    except AlreadyThere:
        message = f"There is a view named {given.name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None


async def _own(conn: Connection, account: Account, of: Of, view_id: UUID) -> SavedView:
    """A view that `account` may change."""
    found = await views.view(conn, of, view_id)
    if found is None or found.account_id not in (None, account.id):
        raise NotFound("There is no such view.")
    if found.account_id is None:
        await needs(conn, account, "write", of[1], of[0])
    return found


async def remove(context: Context, account: Account, of: Of, view_id: UUID) -> None:
    async with context.engine.begin() as conn:
        await needs(conn, account, "read", of[1], of[0])
        await _own(conn, account, of, view_id)
        await views.remove(conn, view_id)
