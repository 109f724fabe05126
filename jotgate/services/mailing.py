"""The worker's side of letters to contacts: made ready with their passes, then sent one by one."""

from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.contacts.opting import keys
from jotgate.core.mailing import composed
from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter
from jotgate.core.records.rounds import KeptRound
from jotgate.core.records.work import Work
from jotgate.ports.mail import Letter, MailFailed
from jotgate.services import bounces, making_passes
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.letters import from_office
from jotgate.services.opting_out import address_of
from jotgate.services.rounds import asking
from jotgate.services.rounds.state import kept_round
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs
from jotgate.store.links import mailings, passes, sending
from jotgate.store.rounds import people

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
    mailing = await mailings.find(conn, one.questionnaire_id, id)
    if mailing is not None:
        await sending.open_domains(conn, mailing, now)
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
        mailing = await sending.due(conn, now)
        if mailing is None:
            return False
        if mailing.text.per_domain is None:
            await _next(context, conn, mailing, now)
        else:
            await _next_to_domain(context, conn, mailing, now)
    return True


async def _next(context: Context, conn: Connection, mailing: Mailing, now: datetime) -> None:
    letter = await sending.next_letter(conn, mailing)
    if letter is None:
        await _done(conn, mailing)
    elif letter.changed > now:
        await sending.go_on_at(conn, mailing, letter.changed)
    else:
        await _try(context, conn, mailing, letter)


async def _next_to_domain(
    context: Context, conn: Connection, mailing: Mailing, now: datetime
) -> None:
    """The same where each receiving domain has a pace of its own."""
    found = await sending.next_domain(conn, mailing)
    if found is None:
        await _done(conn, mailing)
        return
    domain, at = found
    if at > now:
        await sending.go_on_at(conn, mailing, at)
        return
    letter = await sending.next_letter(conn, mailing, domain)
    if letter is None or letter.changed > now:
        until = None if letter is None else letter.changed
        await sending.domain_waits(conn, mailing, domain, until)
    elif await _try(context, conn, mailing, letter):
        assert mailing.text.per_domain is not None
        apart = timedelta(seconds=60 / mailing.text.per_domain)
        await sending.domain_waits(conn, mailing, domain, now + apart)


async def _done(conn: Connection, mailing: Mailing) -> None:
    at = (mailing.questionnaire_id, mailing.id)
    await mailings.put_state(conn, *at, ["sending"], "done")


async def _try(context: Context, conn: Connection, mailing: Mailing, letter: MailingLetter) -> bool:
    """Send a letter, unless it is out of the hours of its round, and waits for them; whether it
    was its turn."""
    now, one = context.clock.now(), None
    if mailing.round_id is not None:
        one = await kept_round(conn, mailing.questionnaire_id, mailing.round_id)
        later = await asking.later(conn, one, letter, now)
        if later is not None:
            await sending.put_off(conn, letter.id, later)
            return False
    await _send(context, conn, mailing, letter, one)
    return True


async def _send(
    context: Context,
    conn: Connection,
    mailing: Mailing,
    letter: MailingLetter,
    one: KeptRound | None,
) -> None:
    """Send one letter, of the round `one` where it is of any, unless it must not go any more. When
    the worker ends between the mail server's yes and the commit, the same letter goes out again
    under the same Message-ID."""
    now = context.clock.now()
    pause = timedelta(seconds=60 / mailing.text.per_minute)
    await sending.go_on_at(conn, mailing, now + pause)
    written = await _written(context, conn, mailing, letter, one)
    if written is None:
        await sending.mark(conn, letter.id, "left_out", now)
        return
    try:
        await context.mail.send(await from_office(context, written))
    except MailFailed as failed:
        last = letter.tries + 1 >= TRIES or failed.for_good
        at = now if last else now + timedelta(minutes=2**letter.tries)
        state: LetterState = "failed" if last else "waiting"
        if failed.no_address:
            await contacts.mark_bounced(conn, letter.email, now)
        await sending.mark(conn, letter.id, state, at, str(failed)[:300])
    else:
        await sending.mark(conn, letter.id, "sent", now)
        if one is not None:
            await people.wrote(conn, one, letter.contact_id, now)


async def _written(
    context: Context,
    conn: Connection,
    mailing: Mailing,
    letter: MailingLetter,
    one: KeptRound | None,
) -> Letter | None:
    """The letter as it goes out; None where it must not, or its pass lets nobody in any more."""
    contact = await contacts.find(conn, letter.contact_id)
    if contact is None or contact.opted_out:
        return None
    if await opt_outs.stops(conn, letter.email, keys(mailing.questionnaire_id, mailing.kind)):
        return None
    if contact.bounced and contact.email == letter.email:
        return None
    now = context.clock.now()
    if one is not None and not await asking.still_asked(conn, one, mailing, letter, now):
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
    return Letter(
        str(letter.id),
        letter.email,
        said.subject,
        said.body,
        opt_out=out,
        html=said.page,
        bounce=bounces.address_of(context, letter.id),
    )
