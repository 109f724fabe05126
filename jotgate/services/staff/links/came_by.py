"""By what an entry came, and what it is linked with."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.entries.entry import Entry
from jotgate.core.records.accounts import Account
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires
from jotgate.store.accounts import care
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.entries import entries
from jotgate.store.links import named_links, passes


@dataclass(frozen=True)
class Linked:
    """An entry, perhaps of another questionnaire, that this one goes on from or goes on in."""

    questionnaire_id: UUID
    entry_id: UUID
    title: str
    number: int


@dataclass(frozen=True)
class CameBy:
    """By what an entry came: `name` is that of a named link or of passes, `number` the row of the
    pass, `contact` the id of who came, and what they are called, `others` their newest other
    entries, `staff` who of the office entered it. `before` is the entry that handed
    on to it, `after` those that it was handed on to; only those of questionnaires that the reader
    has a part in."""

    name: str = ""
    number: int | None = None
    before: Linked | None = None
    after: tuple[Linked, ...] = ()
    contact: tuple[UUID, str] | None = None
    others: tuple[Linked, ...] = ()
    staff: str = ""


async def came_by(conn: Connection, account: Account, entry: Entry) -> CameBy:
    id = entry.questionnaire_id
    name, number = "", None
    if entry.link_id is not None:
        link = await named_links.find(conn, id, entry.link_id)
        name = link.name if link else ""
    if entry.pass_id is not None:
        one = await passes.find(conn, id, entry.pass_id)
        batch = one and await passes.batch(conn, id, one.batch_id)
        name, number = (batch.name, one.number) if one and batch else ("", None)
    known = await contacts.find(conn, entry.contact_id) if entry.contact_id else None
    before = None
    if entry.from_questionnaire is not None and entry.from_entry is not None:
        earlier = await entries.entry(conn, entry.from_questionnaire, entry.from_entry)
        before = await linked(conn, account, earlier) if earlier else None
    found = [
        await linked(conn, account, one) for one in await entries.handed_on(conn, id, entry.id)
    ]
    after = tuple(one for one in found if one is not None)
    who = (known.id, known.called) if known else None
    others = await _others(conn, account, entry)
    staff = (await care.names(conn, [entry.staff_id]))[entry.staff_id] if entry.staff_id else ""
    return CameBy(name, number, before, after, who, others, staff)


MOST = 5
"""Other entries of a contact that are told of."""


async def _others(conn: Connection, account: Account, entry: Entry) -> tuple[Linked, ...]:
    if entry.contact_id is None:
        return ()
    found = await entries.by_contact(conn, entry.contact_id, MOST + 1)
    each = [await linked(conn, account, one) for one in found if one.id != entry.id]
    return tuple(one for one in each if one is not None)[:MOST]


async def linked(conn: Connection, account: Account, entry: Entry) -> Linked | None:
    """None where the reader has no part in its questionnaire."""
    try:
        await needs(conn, account, "read", entry.questionnaire_id)
    except NotFound:
        return None
    summary = await questionnaires.summary(conn, entry.questionnaire_id)
    title = summary.called if summary else ""
    return Linked(entry.questionnaire_id, entry.id, title, entry.number)
