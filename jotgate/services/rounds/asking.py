"""Whether a letter of a round still goes, asked at the moment that it would."""

from datetime import datetime

from jotgate.core.records.mailings import Mailing, MailingLetter
from jotgate.core.records.rounds import KeptRound
from jotgate.core.rounds.schedule import in_hours
from jotgate.core.rounds.standing import concerns
from jotgate.store.base import Connection
from jotgate.store.rounds import people
from jotgate.store.rounds.facts import facts_of


async def later(
    conn: Connection, one: KeptRound, letter: MailingLetter, now: datetime
) -> datetime | None:
    """When a letter may go that is out of the hours of its round; None where it may go now."""
    if one.round.hours.say_nothing:
        return None
    who = await people.find(conn, one, letter.contact_id)
    opens = who and in_hours(one.round.hours, who.zone, now)
    return opens if opens and opens > now else None


async def still_asked(
    conn: Connection, one: KeptRound, mailing: Mailing, letter: MailingLetter, now: datetime
) -> bool:
    """Whether the step of a letter still goes to its contact as they stand now."""
    step = one.round.step(mailing.step)
    if step is None:
        return False
    facts = await facts_of(conn, one, letter.contact_id, now)
    return facts is not None and concerns(step, facts)
