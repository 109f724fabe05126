"""Letters to contacts: written, looked at as one of them reads it, asked for, held."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.contacts.contact import Contact, Origin
from jotgate.core.contacts.fields import BUILT_IN, NotFit, readings
from jotgate.core.mailing import Composed, MailingText, composed, mailing_faults
from jotgate.core.records.accounts import Account
from jotgate.core.records.mailings import Mailing, MailingLetter, MailingState
from jotgate.core.records.questionnaires import Summary
from jotgate.core.records.work import Work
from jotgate.core.walking.arrival import Pairs
from jotgate.services.context import Context
from jotgate.services.staff.contacts.lists import made as made_list
from jotgate.services.staff.links import passes
from jotgate.services.staff.links.passes import NewPasses
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, lists, opt_outs
from jotgate.store.links import mailings

MOST_PASTED = 1_000
SHOWN = 200
"""Letters of a mailing that are shown, those with trouble first."""


@dataclass(frozen=True)
class NewMailing:
    """A letter to everybody on a list, or to pasted addresses (`to`), which become contacts on a
    list of their own; `kind` is what kind of letters it is of. `values` go along with each pass,
    which is good until `expires` for `uses` entries."""

    name: str
    text: MailingText
    list_id: UUID | None
    to: str
    values: Pairs
    expires: datetime | None
    uses: int | None
    kind: str = ""


async def every(context: Context, account: Account, id: UUID) -> list[Mailing]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await mailings.every(conn, id)


async def letters(
    context: Context, account: Account, id: UUID, mailing_id: UUID
) -> list[MailingLetter]:
    """Whom a mailing went to, and what became of it. Raises NotFound."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        await _there(conn, id, mailing_id)
        return await mailings.page(conn, id, mailing_id, SHOWN)


async def _there(conn: Connection, id: UUID, mailing_id: UUID) -> Mailing:
    found = await mailings.find(conn, id, mailing_id)
    if found is None:
        raise NotFound("There is no such letter.")
    return found


async def _suits(conn: Connection, id: UUID, text: MailingText) -> Summary:
    """The questionnaire. Raises Invalid where the words will not do."""
    summary = there(await questionnaires.summary(conn, id))
    known = {*BUILT_IN, *(one.key for one in await contacts.fields(conn))}
    faults = list(mailing_faults(text, summary.languages[0], known))
    if faults:
        raise Invalid(faults[0].message, faults)
    return summary


def example(
    context: Context, summary: Summary, text: MailingText, known: Contact | None
) -> tuple[Contact, Composed]:
    """A letter as a contact reads it, or as somebody made up would, with links that lead nowhere;
    and who that is."""
    one = known or Contact(context.ids.id(), name="Ines Example", email="ines@example.org")
    link = f"{context.public_url}/p/{summary.address}/{'x' * 22}"
    out = f"{context.public_url}/out/{'x' * 43}"
    return one, composed(text, one, summary.languages[0], link, out)


async def preview(
    context: Context, account: Account, id: UUID, text: MailingText, list_id: UUID | None
) -> tuple[Contact, Composed]:
    """The letter as the first on the list reads it, and who that is. Raises Invalid."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        summary = await _suits(conn, id, text)
        ids = await lists.reachable(conn, list_id) if list_id else []
        known = await contacts.find(conn, ids[0]) if ids else None
    return example(context, summary, text, known)


async def ask(context: Context, account: Account, id: UUID, wanted: NewMailing) -> Work:
    """Have the passes made and the letters sent by the worker. Raises Invalid."""
    in_office(account, "reach")
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        await _suits(conn, id, wanted.text)
        list_id = wanted.list_id
        if list_id is None:
            list_id = await _pasted(context, conn, account, wanted)
        mailing_id = context.ids.id()
        asked = NewPasses(
            wanted.name, None, {}, wanted.values, wanted.expires, wanted.uses, list_id, mail=True
        )
        name = " ".join(wanted.name.split())
        work = await passes.ask_in(context, conn, account, id, asked, mailing_id)
        one = Mailing(
            mailing_id,
            id,
            name,
            wanted.text,
            "preparing",
            now,
            account.id,
            None,
            kind=wanted.kind,
        )
        await mailings.add(conn, one)
        await note(context, conn, account.id, "letters_asked", id, name=name)
    return work


def addresses_in(text: str) -> Iterator[tuple[int, str]]:
    """Addresses as people paste them, by the line that each stands in: one a line, or with commas
    or semicolons between them, with a name before them or not; a
    comma in a quoted name is none between addresses."""
    for number, line in enumerate(text.splitlines(), 1):
        unquoted = "".join(line.split('"')[::2])
        for part in unquoted.replace(";", ",").split(","):
            written = part.strip()
            if written.endswith(">") and "<" in written:
                written = written[written.rindex("<") + 1 : -1].strip()
            if written:
                yield number, written


async def _pasted(context: Context, conn: Connection, account: Account, wanted: NewMailing) -> UUID:
    """A list of the contacts with these addresses, made where there are none. Raises Invalid."""
    read, found, faults = readings(())["email"], dict[str, int](), list[Fault]()
    for number, written in addresses_in(wanted.to):
        try:
            found.setdefault(read(written), number)
        except NotFit:
            message = f"Line {number}: {written[:80]} is not a mail address."
            faults.append(Fault(code="email", at="to", message=message))
    if not faults and not found:
        faults.append(Fault(code="no_text", at="to", message="Choose a list, or paste addresses."))
    if len(found) > MOST_PASTED:
        message = f"Paste at most {MOST_PASTED:,} addresses; bring more in as contacts."
        faults.append(Fault(code="too_many", at="to", message=message))
    if faults:
        raise Invalid(faults[0].message, faults[:50])
    ids, origin = [], Origin(context.clock.now(), f"the letter {wanted.name}")
    for email in found:
        known = await contacts.by_email(conn, email)
        if not known:
            id = context.ids.id()
            out = await opt_outs.since(conn, email)
            await contacts.add(conn, id, {"email": email}, out, origin)
            ids.append(id)
        ids += [one.id for one in known[:1]]
    list_id = await made_list(context, conn, account.id, wanted.name)
    await lists.put_on(conn, list_id, ids)
    return list_id


async def hold(context: Context, account: Account, id: UUID, mailing_id: UUID, held: bool) -> None:
    """Hold the letters that wait, or let them go on. Raises NotFound, Invalid."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        found = await _there(conn, id, mailing_id)
        states: tuple[MailingState, MailingState] = ("sending", "held")
        before, after = states if held else states[::-1]
        if not await mailings.put_state(conn, id, mailing_id, [before], after):
            raise Invalid("It has ended, or stands as you want it already.")
        state = "held" if held else "going_on"
        await note(context, conn, account.id, "letters_held", id, name=found.name, state=state)
