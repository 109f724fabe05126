"""What is kept of one person over all questionnaires, registers, lists and letters: shown, taken
out as one file, and erased with a report. For owners of the office."""

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

import orjson

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email as mail_address
from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.display import Reader
from jotgate.core.entries.stored import values_of
from jotgate.core.items.staff_names import staff_name
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of
from jotgate.services.letting_go import delete, note_deleted, remove_bytes
from jotgate.services.public.confirming import mail_id
from jotgate.services.staff.entries.entries import mark, own_clearance, there_with_plans
from jotgate.services.staff.entries.restricted_search import Said, saying
from jotgate.services.staff.links.came_by import Linked, linked
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import consents, contacts, lists
from jotgate.store.entries import entries, one_person
from jotgate.store.entries.one_person import RowFound
from jotgate.store.links import passes
from jotgate.store.rounds import tries

REASON = "One person's data"
"""For which restricted answers were seen, as the trail has it."""


@dataclass(frozen=True)
class Known:
    """`letters` were sent to them or wait, `notices` by rules; `out` tells that nobody may write to
    the address. `said` are the entries that say it in a restricted answer, of those that whoever
    asked has clearance for."""

    email: str
    contacts: tuple[Contact, ...]
    entries: tuple[Linked, ...]
    rows: tuple[RowFound, ...]
    letters: tuple[Mapping[str, Any], ...]
    notices: int
    waiting: int
    out: bool
    said: Said

    @property
    def unsearched(self) -> int:
        """Questionnaires with restricted answers that could not be looked through: an entry that
        says the address there alone is not among these."""
        return self.said.unsearched

    @property
    def counts(self) -> dict[str, int]:
        return {
            "contacts": len(self.contacts),
            "entries": len(self.entries),
            "rows": len(self.rows),
            "letters": len(self.letters),
            "notices": self.notices,
            "waiting": self.waiting,
        }


def _address(said: str) -> str:
    try:
        return mail_address(said).lower()
    except CheckFailed:
        message = "Write a whole mail address, such as ines@example.org."
        raise Invalid(message, [Fault(code="no_address", at="email", message=message)]) from None


async def find(context: Context, account: Account, email: str) -> Known:
    """What is kept of whoever has the mail address; which restricted answers say it stands on the
    trail as seen. Raises NotAllowed, Invalid."""
    in_office(account, "run")
    async with context.restricted.begin() as conn:
        known = await _known(context, conn, account, _address(email))
        for (id, entry_id), keys in known.said.entries.items():
            entry = await entries.entry(conn, id, entry_id)
            if entry:
                await mark(context, conn, account, entry, keys, REASON)
        return known


async def _known(context: Context, conn: Connection, account: Account, email: str) -> Known:
    """`conn` may read restricted answers."""
    own = await contacts.by_email(conn, email)
    ids = [one.id for one in own]
    said = await saying(context, conn, account, email)
    found = await one_person.entries_of(conn, email, mail_id(email), ids)
    sent = []
    for id, entry_id in dict.fromkeys([*found, *said.entries]):
        entry = await entries.entry(conn, id, entry_id)
        one = await linked(conn, account, entry) if entry else None
        sent += [one] if one else []
    rows = await one_person.rows_of(conn, email, [one.entry_id for one in sent])
    letters = await one_person.letters_of(conn, email, ids)
    return Known(
        email,
        contacts=tuple(own),
        entries=tuple(sent),
        rows=tuple(rows),
        letters=tuple(letters),
        out=await one_person.is_out(conn, email),
        said=said,
        **await one_person.counts(conn, email),
    )


async def as_file(context: Context, account: Account, email: str) -> bytes:
    """All of it as one JSON document. Restricted answers are in it where `account` has clearance
    for the questionnaire, which the trail notes; else it says that there may be some."""
    in_office(account, "run")
    async with context.restricted.begin() as conn:
        known = await _known(context, conn, account, _address(email))
        whole = {
            "email": known.email,
            "contacts": [await _contact(conn, one) for one in known.contacts],
            "entries": [await _entry(context, conn, account, one) for one in known.entries],
            "rows": [
                {"register": one.register, "row": one.id, "values": one.values}
                for one in known.rows
            ],
            "letters": list(known.letters),
            "notices": known.notices,
            "waiting": known.waiting,
            "opted_out": known.out,
            "questionnaires_not_searched": known.unsearched,
        }
        detail: dict[str, Any] = known.counts
        await note(context, conn, account.id, "person_exported", **detail)
    return orjson.dumps(whole, option=orjson.OPT_INDENT_2, default=str)


async def _contact(conn: Connection, one: Contact) -> dict[str, Any]:
    agreed = await consents.of_contact(conn, one.id)
    return {
        "values": facts_of(one),
        "lists": [name for _, name in await lists.of_contact(conn, one.id)],
        "consents": [vars(each) for each in agreed],
        "rounds": await tries.of_contact(conn, one.id),
    }


async def _entry(
    context: Context, conn: Connection, account: Account, one: Linked
) -> dict[str, Any]:
    id = one.questionnaire_id
    entry, plan, newest = await there_with_plans(context, conn, id, one.entry_id)
    shown, hidden = opened(entry, plan, newest)
    answers = dict(shown.answers)
    told: dict[str, Any] = {}
    if await own_clearance(context, conn, account, id) is not None:
        sealed = await entries.sealed(conn, id, [entry.id])
        kept = await restricted_of(context, entry.id, sealed)
        answers |= {**hidden, **kept.answers}
        seen = sorted({*hidden, *kept.answers})
        if seen:
            await mark(context, conn, account, entry, seen, REASON)
    elif plan.restrictions.items or newest.restrictions.items:
        told["restricted"] = "Not here: whoever took this out has no clearance for it."
    reader, first = Reader(plan), plan.questionnaire.first_language
    values = values_of(plan.items, answers)
    said = {staff_name(plan.items[key], first): words for key, words in reader.all(values).items()}
    return {
        "questionnaire": one.title,
        "number": entry.number,
        "arrived": entry.arrived,
        "answers": said,
        **told,
    }


async def erase(context: Context, account: Account, email: str, typed: str) -> dict[str, int]:
    """Erase all of it for good, once the address was `typed` again; what went, how many of each.
    That nobody may write to the address stays. Raises Invalid, NotAllowed, NotFound."""
    in_office(account, "run")
    address = _address(email)
    if typed.strip().lower() != address:
        message = f"Write {address} to erase what is kept of it."
        raise Invalid(message, [Fault(code="not_named", at="typed", message=message)])
    async with context.restricted.connect() as conn:
        known = await _known(context, conn, account, address)
    if not any(known.counts.values()):
        raise NotFound("Nothing is kept of this address.")
    for entry in known.entries:
        with suppress(NotFound):  # somebody else was quicker
            await _delete(context, account, entry)
    ids = [one.id for one in known.contacts]
    async with context.engine.begin() as conn:
        await one_person.erase(conn, address, ids, [one.id for one in known.rows])
        await passes.revoke_of(conn, ids, context.clock.now())
        await tries.forget(conn, ids)
        await contacts.remove(conn, ids)
        detail: dict[str, Any] = known.counts
        await note(context, conn, account.id, "person_erased", **detail)
    return known.counts


async def _delete(context: Context, account: Account, one: Linked) -> None:
    """In a transaction of its own: what is deleted counts where the rest fails, and is not there
    any more when it is tried again."""
    id = one.questionnaire_id
    async with context.engine.begin() as conn:
        gone = await delete(conn, id, one.entry_id)
        await note_deleted(context, conn, account.id, id, gone)
    await remove_bytes(context, [gone])
