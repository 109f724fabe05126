"""Storing a submission: let in by the gate as it is known, and again where it was changed."""

from collections.abc import Collection
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.common.values import Values
from jotgate.core.gate.places import takes_of
from jotgate.core.records.entries import Submission, Taking
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.plan import Plan
from jotgate.services import gate
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public.entering import public_state
from jotgate.services.public.holding import let_go_over
from jotgate.store import files
from jotgate.store.entries import submissions, tallies
from jotgate.store.entries.submissions import Outcome
from jotgate.store.gate import places

TRIES = 6
"""Times that a submission is tried, where the gate was changed meanwhile or many come at once."""


class NotStored(Exception):
    """The gate was shut at the moment of storing, or the edition had gone, or no place was left."""


@dataclass(frozen=True)
class ToStore:
    """What is to be stored: `kept` are all answers that count, `sent` the files among them."""

    submission: Submission
    kept: Values
    sent: tuple[UUID, ...]
    arrival: Arrival
    seen: Seen


async def known_state(context: Context, address: str, id: UUID) -> PublicState:
    """What is at an address as it was known last; where that changed, storing tells."""
    found = context.states.find(id)
    return found if found is not None else await _newest(context, address)


async def _newest(context: Context, address: str) -> PublicState:
    async with context.single.connect() as conn:
        found = await public_state(conn, address)
    return context.states.keep(found.id, found)


async def store(
    context: Context, address: str, plan: Plan, found: PublicState, given: ToStore
) -> tuple[int, tuple[Any, ...]]:
    """Store it with its files and outgoing work; the entry's number and the hand-offs. Without
    files that is one statement, which is a transaction by itself.

    Raises NotStored where it is not let in or another entry has got the files, and AlreadyThere
    where it is stored already.
    """
    zone = plan.questionnaire.time_zone
    for _ in range(TRIES):
        if not await _could_come(context, found, zone, given):
            fresh = await _newest(context, address)
            if fresh.gate_revision == found.gate_revision:
                raise NotStored
            found = fresh
            continue
        outcome = await _add(context, await _taking(context, found, given), given)
        if outcome.stage == "stored":
            return outcome.number, outcome.hand_offs
        if outcome.stage == "places" and await let_go_over(context, found.id):
            continue
        if outcome.stage != "gate":
            raise NotStored
        found = await _newest(context, address)
    raise NotStored


def _stripe(context: Context, busy: set[int]) -> int:
    """A stripe of the tally that this process does not work on already, if there is one. Processes
    begin at different ones."""
    first = context.first_stripe
    for n in range(tallies.STRIPES):
        chosen = (first + n) % tallies.STRIPES
        if chosen not in busy:
            return chosen
    return first


async def _see_to_stripe(context: Context, id: UUID, stripe: int) -> None:
    if context.cells.find((id, f"stripe {stripe}")) is None:
        async with context.single.connect() as conn:
            await tallies.make(conn, id, stripe)
        context.cells.keep((id, f"stripe {stripe}"), True)


async def _could_come(context: Context, found: PublicState, zone: str, given: ToStore) -> bool:
    """Whether the gate lets them in, as far as that can be told before places and people are
    counted: those are asked in the statement that counts them."""
    if found.gate.lets_anybody_in:
        return True
    visitor, came = gate.known(given.arrival, going_on=True), given.arrival.came
    if found.gate.audience and came.contact_id is not None:
        async with context.single.connect() as conn:
            visitor = await gate.invited(conn, found, came, visitor)
    now = given.submission.arrived
    return gate.judged(context, found, zone, now, visitor, {}).admitted


async def _taking(context: Context, found: PublicState, given: ToStore) -> Taking:
    takes = takes_of(found.gate.places, given.kept)
    came, seen, now = given.arrival.came, given.seen, given.submission.arrived
    hold = gate.Hold(gate.hold_name(seen.submission))
    if gate.could_hold(found, came):
        async with context.single.connect() as conn:
            hold = await gate.held_for(conn, found, came, seen)
    await _see_to(context, found.id, [one.cell for one in takes])
    return gate.taking(found, takes, hold, came, seen, now)


async def _see_to(context: Context, id: UUID, cells: Collection[str]) -> None:
    """See to it that places have their rows; those that are known to are not asked for."""
    new = [cell for cell in cells if context.cells.find((id, cell)) is None]
    if new:
        async with context.single.connect() as conn:
            await places.there(conn, id, new)
        for cell in new:
            context.cells.keep((id, cell), True)


async def _add(context: Context, taking: Taking, given: ToStore) -> Outcome:
    id = given.submission.questionnaire_id
    busy = context.stripes.setdefault(id, set())
    stripe = _stripe(context, busy)
    busy.add(stripe)
    try:
        await _see_to_stripe(context, id, stripe)
        return await _add_in(context, taking, given, stripe)
    finally:
        busy.discard(stripe)


async def _add_in(context: Context, taking: Taking, given: ToStore, stripe: int) -> Outcome:
    submission, sent = given.submission, given.sent
    begun = submission.arrived - context.replaced_for
    whole = context.engine.begin() if sent else context.single.connect()
    async with whole as conn:
        outcome = await submissions.add(conn, submission, taking, begun, context.queue, stripe)
        stored = outcome.stage == "stored"
        if stored and sent and await files.claim(conn, submission.id, sent) != len(sent):
            raise NotStored
    return outcome
