"""The worker's side of letters to contacts: made ready with their passes, then sent at a pace."""

import asyncio
import time
from collections.abc import Sequence
from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.mailing import pace
from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter
from jotgate.core.records.rounds import KeptRound
from jotgate.core.records.work import Work
from jotgate.ports.mail import Letter, Mail, MailFailed
from jotgate.services import making_passes
from jotgate.services.context import Context
from jotgate.services.mailings.kept_letters import kept_letters
from jotgate.services.rounds import asking
from jotgate.services.rounds.state import kept_round
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.links import mailings, sending

TRIES = 6
"""Tries of a letter that the mail server does not take, with pauses that double from a minute."""

AT_ONCE, SIDE_BY_SIDE = 100, 4
"""Letters that go in one go at most, over so many connections to the mail server."""

NOTED = 0.02
"""Seconds after which letters that went are noted, together: most of the time would go into that
otherwise."""

LONGEST = 0.5
"""Seconds after which no further letter of a go is begun: by then somebody may have answered."""


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
    """Send the next letters of a mailing where some are due, as many as its pace allows in a
    second; whether any was. Two workers never send for the same mailing at once, so its pace holds
    however many there are."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        mailing = await sending.due(conn, now)
        if mailing is None:
            return False
        count, apart = pace(mailing.text.per_minute, AT_ONCE)
        due = await _due(conn, mailing, now, count)
        if due:
            one = await _round_of(conn, mailing)
            due = await _within_hours(conn, one, due, now)
        if due:
            await sending.go_on_at(conn, mailing, now + apart)
            if mailing.text.per_domain is not None:
                _, pause = pace(mailing.text.per_domain, 1)
                await sending.turn_over(conn, mailing, [letter.id for letter in due], now + pause)
            await _send(context, conn, mailing, due, one)
    return True


async def _due(
    conn: Connection, mailing: Mailing, now: datetime, count: int
) -> list[MailingLetter]:
    """The letters that may be tried now, `count` at most. Where there are none it is noted when
    some may, or that all is done."""
    if mailing.text.per_domain is not None:
        return await _due_by_domain(conn, mailing, now, count)
    found = await sending.next_letters(conn, mailing, count)
    due = [one for one in found if one.changed <= now]
    if not found:
        await _done(conn, mailing)
    elif not due:
        await sending.go_on_at(conn, mailing, found[0].changed)
    return due


async def _due_by_domain(
    conn: Connection, mailing: Mailing, now: datetime, count: int
) -> list[MailingLetter]:
    """The same where each receiving domain has a pace of its own: one letter to each."""
    found = await sending.next_domains(conn, mailing, now, count)
    due = [one for _, one in found if one is not None and one.changed <= now]
    for domain, one in found:
        if one is None or one.changed > now:
            until = None if one is None else one.changed
            await sending.domain_waits(conn, mailing, domain, until)
    if not found:
        at = await sending.next_turn(conn, mailing)
        await (sending.go_on_at(conn, mailing, at) if at else _done(conn, mailing))
    return due


async def _done(conn: Connection, mailing: Mailing) -> None:
    at = (mailing.questionnaire_id, mailing.id)
    await mailings.put_state(conn, *at, ["sending"], "done")


async def _round_of(conn: Connection, mailing: Mailing) -> KeptRound | None:
    if mailing.round_id is None:
        return None
    return await kept_round(conn, mailing.questionnaire_id, mailing.round_id)


async def _within_hours(
    conn: Connection, one: KeptRound | None, due: Sequence[MailingLetter], now: datetime
) -> list[MailingLetter]:
    """Those that are within the hours of their round; the others wait for them."""
    if one is None:
        return list(due)
    later = await asking.later(conn, one, [letter.contact_id for letter in due], now)
    for until in sorted(set(later.values())):
        ids = [letter.id for letter in due if later.get(letter.contact_id) == until]
        await sending.put_off(conn, ids, until)
    return [letter for letter in due if letter.contact_id not in later]


async def _send(
    context: Context,
    conn: Connection,
    mailing: Mailing,
    letters: Sequence[MailingLetter],
    one: KeptRound | None,
) -> None:
    """Send these, of the round `one` where they are of any, but those that must not go any more.
    Who must not is asked once for all of them; those that have not gone within half a second wait
    for another go. What became of each is noted at once: when the worker dies between the mail
    server's yes and that, the same letter goes out again under the same Message-ID."""
    now, until = context.clock.now(), time.monotonic() + LONGEST
    kept = await kept_letters(context, conn, mailing, letters, one, now)
    gone = [letter.id for letter in letters if letter.id not in kept]
    if gone:
        await sending.mark(conn, gone, "left_out", now)
    waiting = [letter for letter in letters if letter.id in kept]
    if not waiting:
        return

    async def some(going: _Going) -> None:
        async with context.mail.connected() as mail:
            first = True
            while waiting and (first or time.monotonic() < until):
                letter, first = waiting.pop(0), False
                await going.send(mail, kept[letter.id](), letter)

    going = _Going(context, one)
    try:
        async with context.single.connect() as noting, asyncio.TaskGroup() as group:
            going.conn = noting
            for _ in range(min(SIDE_BY_SIDE, len(waiting))):
                group.create_task(some(going))
    finally:
        # On a connection of its own: where one failed, the others may have been amid noting.
        async with context.single.connect() as last:
            going.conn = last
            await going.note()


class _Going:
    """Sends letters of a mailing, of a round or of none, and notes by `conn` which ones went."""

    conn: Connection

    def __init__(self, context: Context, one: KeptRound | None) -> None:
        self._context, self._one = context, one
        self._sent: list[MailingLetter] = []
        self._noted = time.monotonic()
        self._noting = asyncio.Lock()

    async def send(self, mail: Mail, written: Letter, letter: MailingLetter) -> None:
        """Send one letter. That it went is noted now or with others a moment later."""
        try:
            await mail.send(written)
        except MailFailed as failed:
            await self._failed(letter, failed)
        else:
            self._sent.append(letter)
            if time.monotonic() - self._noted > NOTED and not self._noting.locked():
                await self.note()

    async def note(self) -> None:
        """Note all that went since it was noted before; where that fails, it can be done again."""
        async with self._noting:
            some = list(self._sent)
            if some:
                await sending.mark_sent(self.conn, some, self._context.clock.now(), self._one)
                del self._sent[: len(some)]
            self._noted = time.monotonic()

    async def _failed(self, letter: MailingLetter, failed: MailFailed) -> None:
        now = self._context.clock.now()
        last = letter.tries + 1 >= TRIES or failed.for_good
        at = now if last else now + timedelta(minutes=2**letter.tries)
        state: LetterState = "failed" if last else "waiting"
        async with self._context.engine.begin() as conn:
            if failed.no_address:
                await contacts.mark_bounced(conn, letter.email, now)
            await sending.mark(conn, [letter.id], state, at, str(failed)[:300])
