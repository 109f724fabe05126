"""Contacts one by one: looked for, added, changed, made one of two, taken out, opted out."""

from collections.abc import Awaitable, Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TypeVar
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound, Stale
from jotgate.core.contacts.contact import Contact, Origin, facts_of, read_contact
from jotgate.core.contacts.fields import ContactField, readings
from jotgate.core.contacts.lists import Consent
from jotgate.core.contacts.opting import OptOut
from jotgate.core.records.accounts import Account
from jotgate.services import opting_out
from jotgate.services.context import Context
from jotgate.services.staff.links.came_by import Linked, linked
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import consents, contacts, lists, opt_outs
from jotgate.store.contacts.unused import unused_since
from jotgate.store.entries import entries, writing
from jotgate.store.links import mailings, passes
from jotgate.store.rounds import people, tries

PER_PAGE = 100
MOST_AT_ONCE = 1_000
"""Contacts that are taken out, or put on a list, at once."""

T = TypeVar("T")

GONE = "This contact is no longer there."


@dataclass(frozen=True)
class ContactPage:
    """`count` is how many the search found, told with its first page only."""

    contacts: tuple[Contact, ...]
    more: bool
    count: int | None


async def page(
    context: Context,
    account: Account,
    words: str,
    list_id: UUID | None,
    after: UUID | None,
    unused: int | None = None,
) -> ContactPage:
    """Contacts with all these words in what is known of them, behind the one `after`; those with
    whom nothing was done for `unused` days."""
    in_office(account, "reach")
    wanted = lists.wanted(words, list_id)
    if unused is not None:
        wanted &= unused_since(context.clock.now() - timedelta(days=unused))
    async with context.engine.connect() as conn:
        last = await contacts.find(conn, after) if after else None
        at = (last.name, last.id) if last else None
        found = await contacts.page(conn, wanted, at, PER_PAGE + 1)
        count = None if after else await contacts.count(conn, wanted)
    return ContactPage(tuple(found[:PER_PAGE]), len(found) > PER_PAGE, count)


@dataclass(frozen=True)
class WholeContact:
    """A contact with the lists that it is on, by id and name, what it consented to, what it opted
    out of, and the entries that it sent."""

    contact: Contact
    lists: tuple[tuple[UUID, str], ...]
    consents: tuple[Consent, ...]
    entries: tuple[Linked, ...]
    outs: tuple[OptOut, ...]


async def whole(context: Context, account: Account, id: UUID) -> WholeContact:
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        found = _there(await contacts.find(conn, id))
        on = await lists.of_contact(conn, id)
        agreed = await consents.of_contact(conn, id)
        sent = await entries.by_contact(conn, id, PER_PAGE)
        outs = await opt_outs.of(conn, found.email) if found.email else []
        seen = [await linked(conn, account, one) for one in sent]
    there = tuple(one for one in seen if one is not None)
    return WholeContact(found, tuple(on), tuple(agreed), there, tuple(outs))


def _there(found: Contact | None) -> Contact:
    if found is None:
        raise NotFound(GONE)
    return found


def _read(fields: tuple[ContactField, ...], values: Mapping[str, str]) -> dict[str, str]:
    found, faults = read_contact(readings(fields), values)
    if faults:
        raise Invalid(faults[0].message, faults)
    return found


def _taken(key: str) -> Invalid:
    message = f"Another contact has the key {key}."
    return Invalid(message, [Fault(code="taken", at="key", message=message)])


async def add(
    context: Context, account: Account, values: Mapping[str, str], list_id: UUID | None = None
) -> UUID:
    """Raises Invalid, NotFound."""
    in_office(account, "reach")
    id = context.ids.id()
    async with context.engine.begin() as conn:
        found = _read(await contacts.fields(conn), values)
        out = await opt_outs.since(conn, found["email"]) if "email" in found else None
        origin = Origin(context.clock.now(), account.name)
        await _kept(conn, found, lambda: contacts.add(conn, id, found, out, origin))
        if list_id is not None:
            if await lists.name_of(conn, list_id) is None:
                raise NotFound("There is no such list.")
            await lists.put_on(conn, list_id, [id])
        await note(context, conn, account.id, "contact_changed", contact=str(id), state="added")
    return id


async def _kept(
    conn: Connection, values: Mapping[str, str], keeping: Callable[[], Awaitable[T]]
) -> T:
    """What `keeping` gives. Raises Invalid where another contact has the key."""
    try:
        async with conn.begin_nested():
            return await keeping()
    except AlreadyThere:
        raise _taken(values.get("key", "")) from None


async def put(
    context: Context, account: Account, id: UUID, revision: int, values: Mapping[str, str]
) -> Contact:
    """Raises Invalid, NotFound, Stale."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        fields = await contacts.fields(conn)
        before = _there(await contacts.find(conn, id, lock=True))
        found = _read(fields, {**facts_of(before), **values})
        out = await _out(conn, before, found.get("email", ""))
        kept = await _kept(conn, found, lambda: contacts.put(conn, id, revision, found, out))
        if not kept:
            raise Stale("Somebody changed this contact in the meantime.", current=before)
        changed = sorted(name for name, one in values.items() if facts_of(before).get(name) != one)
        await note(context, conn, account.id, "contact_changed", contact=str(id), fields=changed)
        return _there(await contacts.find(conn, id))


async def _out(conn: Connection, before: Contact, email: str) -> datetime | None:
    """Since when a contact must not be written to once it has this address. A no holds for the
    person: it stays with another address."""
    if email and email != before.email:
        return before.opted_out or await opt_outs.since(conn, email)
    return before.opted_out


async def remove(context: Context, account: Account, ids: Sequence[UUID]) -> int:
    """Take contacts out, and revoke their passes; how many. That they opted out is kept."""
    in_office(account, "reach")
    few(ids)
    async with context.engine.begin() as conn:
        await passes.revoke_of(conn, ids, context.clock.now())
        await tries.forget(conn, ids)
        count = await contacts.remove(conn, ids)
        if count:
            await note(context, conn, account.id, "contacts_removed", count=count)
    return count


def few(ids: Sequence[UUID]) -> None:
    """Raise Invalid where these are more contacts than are worked on at once."""
    if len(ids) > MOST_AT_ONCE:
        raise Invalid(f"Choose at most {MOST_AT_ONCE:,} contacts at once.")


async def make_one(
    context: Context, account: Account, kept: UUID, gone: UUID, values: Mapping[str, str]
) -> Contact:
    """Make one contact of two: it has `values`, is on the lists of both, and what came by the other
    came by it. It opted out where one of both did. Raises Invalid, NotFound."""
    in_office(account, "reach")
    if kept == gone:
        raise Invalid("Choose two contacts that are not the same.")
    async with context.engine.begin() as conn:
        fields = await contacts.fields(conn)
        one = _there(await contacts.find(conn, kept, lock=True))
        other = _there(await contacts.find(conn, gone, lock=True))
        found = _read(fields, values)
        await lists.move(conn, kept, gone)
        await consents.move(conn, kept, gone)
        await passes.move(conn, kept, gone)
        await mailings.move(conn, kept, gone)
        await people.move(conn, kept, gone)
        await writing.move_contact(conn, kept, gone)
        await contacts.remove(conn, [gone])
        email = found.get("email", "")
        out = one.opted_out or other.opted_out
        out = out or (await opt_outs.since(conn, email) if email else None)
        await _kept(conn, found, lambda: contacts.put(conn, kept, one.revision, found, out))
        if out is not None and email:
            await opt_outs.add(conn, email, out)
        await note(context, conn, account.id, "contact_changed", contact=str(kept), state="merged")
        return _there(await contacts.find(conn, kept))


async def set_out(context: Context, account: Account, id: UUID, out: bool) -> Contact:
    """Mark a contact, and everybody with its address, as opted out, or as not. Raises NotFound."""
    in_office(account, "reach")
    now = context.clock.now()
    async with context.engine.begin() as conn:
        found = _there(await opting_out.mark_contact(conn, id, out, now, account.name))
        state = "out" if out else "in"
        await note(context, conn, account.id, "opted_out", contact=str(id), state=state)
        return found
