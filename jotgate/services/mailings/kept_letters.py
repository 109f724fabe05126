"""Letters to contacts as they stand at the moment that they go: which must not any more, and what
the others read."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from functools import partial
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.contacts.opting import keys
from jotgate.core.mailing import MailingText, composed
from jotgate.core.office import Office
from jotgate.core.records.mailings import Mailing, MailingLetter
from jotgate.core.records.rounds import KeptRound
from jotgate.ports.mail import Letter
from jotgate.services import office
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.letters import sent_by
from jotgate.services.mailings import bounces
from jotgate.services.opting_out import address_of
from jotgate.services.rounds import asking
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs
from jotgate.store.links import passes

KeptLetters = Mapping[UUID, Callable[[], Letter]]
"""What writes each letter that still goes, by its id: that is done once its turn has come."""


async def kept_letters(
    context: Context,
    conn: Connection,
    mailing: Mailing,
    letters: Sequence[MailingLetter],
    one: KeptRound | None,
    now: datetime,
) -> KeptLetters:
    """Of these letters, of the round `one` where they are of any, those that still go. None does
    whose contact is gone, opted out or bounced, whom its step does not concern any more, or whose
    pass lets nobody in."""
    summary = await questionnaires.summary(conn, mailing.questionnaire_id)
    if summary is None:
        return {}
    known = await _reachable(conn, mailing, letters)
    if one is not None:
        asked = await asking.still_asked(conn, one, mailing, known, now)
        known = {id: contact for id, contact in known.items() if id in asked}
    ids = [letter.pass_id for letter in letters]
    held = await passes.of_ids(conn, mailing.questionnaire_id, ids)
    by = await office.current(context)
    found: dict[UUID, Callable[[], Letter]] = {}
    for letter in letters:
        contact, one_pass = known.get(letter.contact_id), held.get(letter.pass_id)
        link = link_of(context, *one_pass, summary.address) if one_pass else ""
        if contact is not None and link:
            to = (letter, contact, summary.languages[0], link)
            found[letter.id] = partial(_written, context, by, mailing.text, *to)
    return found


async def _reachable(
    conn: Connection, mailing: Mailing, letters: Sequence[MailingLetter]
) -> dict[UUID, Contact]:
    """The contacts that can be written to at the addresses of these letters."""
    known = await contacts.of_ids(conn, [letter.contact_id for letter in letters])
    scopes = keys(mailing.questionnaire_id, mailing.kind)
    stopped = await opt_outs.stopped(conn, [letter.email for letter in letters], scopes)
    return {
        contact.id: contact
        for letter in letters
        if (contact := known.get(letter.contact_id)) is not None
        and not contact.opted_out
        and letter.email not in stopped
        and not (contact.bounced and contact.email == letter.email)
    }


def _written(
    context: Context,
    by: Office,
    text: MailingText,
    letter: MailingLetter,
    contact: Contact,
    first: str,
    link: str,
) -> Letter:
    out = address_of(context, letter.id)
    said = composed(text, contact, first, link, out)
    written = Letter(
        str(letter.id),
        letter.email,
        said.subject,
        said.body,
        opt_out=out,
        html=said.page,
        bounce=bounces.address_of(context, letter.id),
    )
    return sent_by(by, written)
