"""Putting people on contact lists by what they consented to: at once, or once they have said yes to
a letter that asks whether they want that."""

from dataclasses import dataclass, replace
from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.contacts.contact import Origin
from jotgate.core.contacts.lists import Joining, ListQuestion
from jotgate.core.words import letter
from jotgate.services import letters, office
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.services.mailings import letter_marks
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import consents, contacts, list_questions, lists, opt_outs

PURPOSE = b"join list"

LASTS = timedelta(days=30)
"""For how long one can say yes to a letter."""

APART = timedelta(days=7)
"""Between two such letters to an address for the same list, while it has not said yes: whoever
answers with the address of somebody else has them written to no more often."""

NONE_SUCH = "There is no such letter."


@dataclass(frozen=True)
class Asked:
    """What somebody is asked once more: what they were asked in a questionnaire, and answered.
    `out` where they asked since then not to be written to."""

    email: str
    title: str
    question: str
    answer: str
    agreed: bool
    out: bool = False


async def join(context: Context, conn: Connection, who: Joining) -> None:
    """Put somebody on a list. Nothing changes where they are on it but what they consented to."""
    consent = who.consent
    at = (consent.questionnaire_id, who.entry_id)
    id = await _whom(context, conn, who)
    await consents.put(conn, id, who.entry_id, consent)
    if await lists.put_on(conn, consent.list_id, [id]):
        name = await lists.name_of(conn, consent.list_id) or ""
        await note(context, conn, None, "list_changed", *at, state="put_on", name=name)


async def _whom(context: Context, conn: Connection, who: Joining) -> UUID:
    """The contact, or the first with the address; one that is made where there is none."""
    if who.contact_id is not None:
        return who.contact_id
    found = await contacts.by_email(conn, who.email)
    if found:
        return found[0].id
    id, consent = context.ids.id(), who.consent
    values = {"email": who.email, "name": who.name, "language": who.language}
    origin = Origin(consent.given, f"{consent.title}, entry {consent.entry_number}")
    await contacts.add(conn, id, values, None, origin)
    at = (consent.questionnaire_id, who.entry_id)
    await note(context, conn, None, "contact_changed", *at, contact=str(id), state="added")
    return id


async def ask(context: Context, conn: Connection, who: Joining) -> None:
    """Ask somebody by letter whether they want to be on a list, once this transaction is committed;
    not where they were asked lately."""
    now = context.clock.now()
    before = await list_questions.newest(conn, who.consent.list_id, who.email)
    if before is not None and before.agreed is None and before.asked > now - APART:
        return
    one = ListQuestion(context.ids.id(), who, now)
    await list_questions.add(conn, one)
    await letters.ask(context, conn, await _written(context, one))


def token_of(context: Context, one: ListQuestion) -> str:
    """By what one says yes; nobody else can make it."""
    return letter_marks.token_of(context, PURPOSE, one.id)


async def _written(context: Context, one: ListQuestion) -> Written:
    consent = one.joining.consent
    return letters.in_words(
        one.joining.email,
        letter(one.joining.language),
        "join",
        office=(await office.current(context)).name,
        title=consent.title,
        question=consent.question,
        answer=consent.answer,
        link=f"{context.public_url}/in/{token_of(context, one)}",
        days=str(LASTS.days),
    )


async def _question(
    context: Context, conn: Connection, token: str, lock: bool = False
) -> ListQuestion:
    """Raises NotFound."""
    id = letter_marks.letter_by(context, PURPOSE, token)
    found = await list_questions.find(conn, id, lock) if id else None
    if found is None or found.asked < context.clock.now() - LASTS:
        raise NotFound(NONE_SUCH)
    return found


def _asked(one: ListQuestion, agreed: bool, out: bool = False) -> Asked:
    consent = one.joining.consent
    return Asked(one.joining.email, consent.title, consent.question, consent.answer, agreed, out)


async def _out(conn: Connection, one: ListQuestion) -> bool:
    return one.agreed is None and bool(await opt_outs.since(conn, one.joining.email))


async def what(context: Context, token: str) -> Asked:
    """What a letter asks. Raises NotFound."""
    async with context.engine.connect() as conn:
        found = await _question(context, conn, token)
        return _asked(found, found.agreed is not None, await _out(conn, found))


async def agree(context: Context, token: str) -> Asked:
    """Say yes to a letter. Doing it twice changes nothing; nor does it where somebody has asked not
    to be written to since. Raises NotFound, also where the contact is gone."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        found = await _question(context, conn, token, lock=True)
        if found.agreed is None:
            who = found.joining
            await contacts.hold_email(conn, who.email)
            if await _out(conn, found):
                return _asked(found, agreed=False, out=True)
            await join(context, conn, replace(who, consent=replace(who.consent, confirmed=now)))
            await list_questions.agree(conn, found.id, now)
    return _asked(found, True)


async def forget_old(context: Context) -> None:
    """Forget letters to which nobody can say yes any more."""
    async with context.engine.begin() as conn:
        await list_questions.forget(conn, context.clock.now() - LASTS)
