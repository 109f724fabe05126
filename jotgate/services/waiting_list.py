"""The waiting list: people join, and get the places that come free, in their order."""

from datetime import timedelta
from uuid import UUID, uuid5

from jotgate.core.common.errors import AlreadyThere
from jotgate.core.common.formatting import moment
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.wording import closest
from jotgate.core.gate.decision import Visitor
from jotgate.core.gate.places import Count, Take, totals_of
from jotgate.core.gate.settings import Gate
from jotgate.core.records.links import Batch, Pass
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.plan import Plan
from jotgate.core.words import letter as letter_words
from jotgate.services import gate, letters
from jotgate.services.arrivals import secrets_of
from jotgate.services.context import Context
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.gate import places, waiting
from jotgate.store.gate.waiting import Waiting
from jotgate.store.links import passes

NAME = "Waiting list"
"""What the batch of its passes is called."""

AT_ONCE = 100
"""Places that are offered in one look."""


async def join(
    context: Context,
    conn: Connection,
    found: PublicState,
    email: str,
    language: str,
    secret: str,
) -> int:
    """Put an address on the list, or leave it where it is; its place, from 1. By `secret` whoever
    joined is known again."""
    cells = [one.cell for one in totals_of(found.gate.places)]
    await places.there(conn, found.id, cells)
    await places.locked(conn, found.id, cells)
    now = context.clock.now()
    try:
        async with conn.begin_nested():
            await waiting.add(conn, found.id, context.ids.id(), email, language, now)
    except AlreadyThere:
        pass
    else:
        await places.change(conn, found.id, waiting=dict.fromkeys(cells, 1))
    await waiting.know(conn, found.id, email, hash_of(secret))
    return await waiting.place_of(conn, found.id, hash_of(secret)) or 1


async def leave(conn: Connection, found: Gate, id: UUID, waiting_id: UUID) -> bool:
    """Take somebody off the list."""
    cells = [one.cell for one in totals_of(found.places)]
    await places.locked(conn, id, cells)
    left = await waiting.leave(conn, id, waiting_id)
    if left:
        await places.change(conn, id, waiting=dict.fromkeys(cells, -1))
    return left


async def offer_places(context: Context) -> int:
    """Offer what came free to those who are next; how many places that were. Also where nobody new
    is put on the list any more: those on it keep their turn."""
    async with context.engine.begin() as conn:
        await waiting.settle(conn, context.clock.now())
        ids = await waiting.with_some(conn)
    count = 0
    for id in ids:
        while count < AT_ONCE and await _offer_one(context, id):
            count += 1
    return count


async def _offer_one(context: Context, id: UUID) -> bool:
    """Offer one place, with the letter that says so, in one transaction; whether there was one."""
    async with context.engine.begin() as conn:
        summary = await questionnaires.summary(conn, id)
        if summary is None or summary.edition is None:
            return False
        plan = await context.plan(conn, id, summary.edition)
        found = summary.public_state
        takes = totals_of(found.gate.places)
        counts = await places.locked(conn, id, [one.cell for one in takes])
        free = takes and all(_is_free(one, counts.get(one.cell, Count())) for one in takes)
        if not free or not _is_open(context, found, plan):
            return False
        one = await waiting.next_of(conn, id)
        if one is None:
            return False
        await _offer(context, conn, found, plan, summary.address, one)
    return True


def _is_free(take: Take, count: Count) -> bool:
    return take.most is None or count.taken + count.held < take.most


def _is_open(context: Context, found: PublicState, plan: Plan) -> bool:
    """Whether whoever is written to can come: nobody is sent to a gate that is shut."""
    now = context.clock.now()
    holder = Visitor(has_pass=True, held={one.cell: 1 for one in totals_of(found.gate.places)})
    decision = gate.judged(context, found, plan.questionnaire.time_zone, now, holder, {})
    return all(why.reason == "not_invited" for why in decision.why)


async def _offer(
    context: Context,
    conn: Connection,
    found: PublicState,
    plan: Plan,
    address: str,
    one: Waiting,
) -> None:
    until = context.clock.now() + timedelta(hours=found.gate.waiting.hours)
    pass_id = context.ids.id()
    secret = secrets_of(context, found.id, pass_id)[0]
    batch_id = uuid5(found.id, NAME)
    number = await passes.one_more(
        conn, Batch(batch_id, found.id, NAME, context.clock.now(), None, 0, None, 1)
    )
    made = Pass(pass_id, found.id, batch_id, number, None, None, until, 1, 0, None)
    await passes.add(conn, [(made, hash_of(secret))])
    takes = totals_of(found.gate.places)
    cells = {take.cell: 1 for take in takes}
    name = gate.hold_name(f"pass {pass_id}")
    await places.begin_hold(conn, found.id, name, takes, until, "")
    waits = dict.fromkeys(cells, -1)
    await places.change(conn, found.id, held=cells, waiting=waits)
    await waiting.offer(conn, found.id, one.id, pass_id, until)
    language = closest(plan.questionnaire.languages, [one.language])
    words, link = letter_words(language), f"{context.public_url}/p/{address}/{secret}"
    said = moment(until, language, gate.zone_of(plan))
    written = letters.worded(plan, one.email, language, words, "waiting", link=link, until=said)
    await letters.ask(context, conn, written)
