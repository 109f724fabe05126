"""The worker's side of letters to contacts: made ready with their passes, then sent one by one."""

from datetime import timedelta
from uuid import UUID

from jotgate.core.mailing import composed
from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter
from jotgate.core.records.work import Work
from jotgate.ports.mail import Letter, MailFailed
from jotgate.services import making_passes
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.letters import from_office
from jotgate.services.opting_out import address_of
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs
from jotgate.store.links import mailings, passes

TRIES = 6
"""Tries of a letter that the mail server does not take, with pauses that double from a minute."""


async def make(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Make the passes of a mailing and its letters, in the transaction of `conn`. Raises
    RowsWrong."""
    assert one.questionnaire_id is not None
    id = UUID(one.arguments["mailing_id"])
    made = await making_passes.make(context, conn, one)
    batch_id, now = UUID(str(made["batch_id"])), context.clock.now()
    await mailings.begin(conn, one.questionnaire_id, id, batch_id, now)
    return {**made, "mailing_id": str(id)}


async def not_made(conn: Connection, one: Work) -> None:
    """Note that nothing came of a mailing."""
    assert one.questionnaire_id is not None
    id = UUID(one.arguments["mailing_id"])
    await mailings.put_state(conn, one.questionnaire_id, id, ["preparing"], "failed")


async def send_due(context: Context) -> bool:
    """Send the next letter of a mailing where one is due; whether one was. Two workers never send
    for the same mailing at once, so its pace holds however many there are."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        mailing = await mailings.due(conn, now)
        if mailing is None:
            return False
        letter = await mailings.next_letter(conn, mailing)
        if letter is None:
            at = (mailing.questionnaire_id, mailing.id)
            await mailings.put_state(conn, *at, ["sending"], "done")
        elif letter.changed > now:
            await mailings.go_on_at(conn, mailing, letter.changed)
        else:
            await _send(context, conn, mailing, letter)
            pause = timedelta(seconds=60 / mailing.text.per_minute)
            await mailings.go_on_at(conn, mailing, now + pause)
    return True


async def _send(
    context: Context, conn: Connection, mailing: Mailing, letter: MailingLetter
) -> None:
    """Send one letter, unless whoever gets it opted out meanwhile. When the worker ends between
    the mail server's yes and the commit, the same letter goes out again under the same
    Message-ID."""
    now = context.clock.now()
    written = await _written(context, conn, mailing, letter)
    if written is None:
        await mailings.mark(conn, letter.id, "left_out", now)
        return
    try:
        await context.mail.send(await from_office(context, written))
    except MailFailed as failed:
        last = letter.tries + 1 >= TRIES or failed.for_good
        pause = timedelta(minutes=2**letter.tries)
        at = now if last else now + pause
        state: LetterState = "failed" if last else "waiting"
        await mailings.mark(conn, letter.id, state, at, str(failed)[:300])
    else:
        await mailings.mark(conn, letter.id, "sent", now)


async def _written(
    context: Context, conn: Connection, mailing: Mailing, letter: MailingLetter
) -> Letter | None:
    """The letter as it goes out; None where it must not, or its pass lets nobody in any more."""
    contact = await contacts.find(conn, letter.contact_id)
    if contact is None or contact.opted_out or await opt_outs.since(conn, letter.email):
        return None
    found = await passes.with_hash(conn, letter.questionnaire_id, letter.pass_id)
    summary = await questionnaires.summary(conn, letter.questionnaire_id)
    if found is None or summary is None:
        return None
    link = link_of(context, *found, summary.address)
    if not link:
        return None
    out = address_of(context, letter.id)
    said = composed(mailing.text, contact, summary.languages[0], link, out)
    return Letter(str(letter.id), letter.email, said.subject, said.body, opt_out=out)
