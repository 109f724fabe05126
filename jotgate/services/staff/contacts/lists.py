"""Contact lists: made, named, and who is on them."""

from collections.abc import Sequence
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.contacts.lists import ContactList
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.contacts.contacts import few
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import lists

MOST = 1_000


async def every(context: Context, account: Account) -> list[ContactList]:
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        return await lists.every(conn)


def sound_name(name: str) -> str:
    found = " ".join(name.split())
    if found:
        return found
    message = "Give the list a name."
    raise Invalid(message, [Fault(code="no_text", at="name", message=message)])


def _taken(name: str) -> Invalid:
    message = f"There is a list named {name}. Give this one another name."
    return Invalid(message, [Fault(code="taken", at="name", message=message)])


async def made(context: Context, conn: Connection, account_id: UUID, name: str) -> UUID:
    """A new list, in the caller's transaction. Raises Invalid."""
    id, name = context.ids.id(), sound_name(name)
    if len(await lists.every(conn)) >= MOST:
        raise Invalid(f"There can be at most {MOST:,} lists.")
    try:
        async with conn.begin_nested():
            await lists.add(conn, id, name, context.clock.now())
    except AlreadyThere:
        raise _taken(name) from None
    await note(context, conn, account_id, "list_changed", name=name, state="made")
    return id


async def add(context: Context, account: Account, name: str) -> UUID:
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        return await made(context, conn, account.id, name)


async def _known(conn: Connection, id: UUID) -> str:
    name = await lists.name_of(conn, id)
    if name is None:
        raise NotFound("There is no such list.")
    return name


async def put(context: Context, account: Account, id: UUID, name: str) -> None:
    in_office(account, "reach")
    name = sound_name(name)
    async with context.engine.begin() as conn:
        await _known(conn, id)
        try:
            async with conn.begin_nested():
                await lists.put(conn, id, name)
        except AlreadyThere:
            raise _taken(name) from None
        await note(context, conn, account.id, "list_changed", name=name, state="named")


async def remove(context: Context, account: Account, id: UUID) -> None:
    """Remove a list; the contacts on it stay."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        name = await _known(conn, id)
        await lists.remove(conn, id)
        await note(context, conn, account.id, "list_changed", name=name, state="removed")


async def change(
    context: Context, account: Account, id: UUID, ids: Sequence[UUID], on: bool
) -> int:
    """Put contacts on a list, or take them off it; how many that changed."""
    in_office(account, "reach")
    few(ids)
    async with context.engine.begin() as conn:
        name = await _known(conn, id)
        count = await (lists.put_on if on else lists.take_off)(conn, id, ids)
        if count:
            state = "put_on" if on else "taken_off"
            await note(
                context, conn, account.id, "list_changed", name=name, state=state, count=count
            )
    return count
