"""Going on from one questionnaire in another: a token that is good for once, then a visit."""

import secrets
from dataclasses import dataclass, replace
from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import LinkRefused, NotFound
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.values import Values
from jotgate.core.entries.stored import values_of
from jotgate.core.hand_off import HandOff, handed
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.core.walking.plan import Plan
from jotgate.services.arrivals import opened, seal_visit
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of
from jotgate.services.public.entering import public_state
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.links import visits

TOKEN_LASTS = timedelta(minutes=5)
VISIT_LASTS = timedelta(days=1)

OVER = "This way on was used already, or too late. Go back and press the button again."


@dataclass(frozen=True)
class Onward:
    """Where somebody goes on, and the token that lets them in there once."""

    address: str
    token: str


async def offered(conn: Connection, questionnaire_id: UUID, finish: str) -> HandOff | None:
    """Where people may go on who end at `finish`."""
    saved = await questionnaires.links(conn, questionnaire_id)
    found = saved.value.hand_offs if saved else ()
    return next((one for one in found if one.finish == finish), None)


async def begin(context: Context, address: str, key: str, arrival: str) -> Onward:
    """A token for whoever sent the entry under the idempotency key `key`. Raises NotFound."""
    async with context.restricted.begin() as conn:
        found = await public_state(conn, address)
        known = await entries.by_idempotency_key(conn, found.id, key)
        if known is None:
            raise NotFound("There is no such entry. Send your answers first.")
        entry, _ = known
        plan = await context.plan(conn, found.id, entry.edition)
        sealed = await entries.sealed(conn, found.id, [entry.id])
        restricted = await restricted_of(context, entry.id, sealed)
        finish = entry.finish or restricted.finish
        one = await offered(conn, found.id, finish)
        if one is None:
            raise NotFound("Nothing follows here.")
        there = await public_state(conn, one.to)
        target = await context.plan(conn, there.id, there.edition)
        answers = {**entry.answers, **restricted.answers}
        before = opened(context, found.id, arrival)
        known_then = _arrival(one, plan, target, values_of(plan.items, answers), before)
        came = Came(contact_id=before.came.contact_id, entry=(found.id, entry.id))
        token = secrets.token_urlsafe(32)
        sealed_then = seal_visit(context, there.id, replace(known_then, came=came))
        until = context.clock.now() + TOKEN_LASTS
        await visits.add(conn, hash_of(token), there.id, entry.id, sealed_then, until)
    return Onward(one.to, token)


def _arrival(one: HandOff, plan: Plan, target: Plan, values: Values, before: Arrival) -> Arrival:
    """What is known there: the answers that go along, and who it is."""
    pairs, locked = handed(one, plan, target, values)
    return Arrival(handed=pairs, locked=locked, contact=before.contact, claims=before.claims)


async def redeem(context: Context, address: str, token: str) -> str:
    """The secret of the visit that a token is good for, once. Raises LinkRefused."""
    now = context.clock.now()
    visit = secrets.token_urlsafe(32)
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        used = await visits.use(
            conn, hash_of(token), found.id, hash_of(visit), now, now + VISIT_LASTS
        )
    if not used:
        raise LinkRefused(OVER)
    return visit


async def end_visits(context: Context, questionnaire_id: UUID, came: Came) -> None:
    """Once they have answered, the next one at this browser is somebody else."""
    async with context.engine.begin() as conn:
        await visits.end(conn, questionnaire_id, came)


async def forget_old(context: Context) -> None:
    async with context.engine.begin() as conn:
        await visits.forget(conn, context.clock.now())
