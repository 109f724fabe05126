"""Places while somebody answers: shown as full, held for them, and given back when time is over."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.common.values import Values
from jotgate.core.gate.places import NONE, Counts, Take, cell_parts, fits, takes_of
from jotgate.core.gate.settings import Gate
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Came
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.gate import Hold, Seen, held_for
from jotgate.services.public.allowances import name_of
from jotgate.store.base import Connection
from jotgate.store.gate import places

HOLDS = 10
"""Holds that one network address can have at one questionnaire; whoever comes then answers without
one."""

AT_ONCE = 200
"""Holds that are let go in one look."""


@dataclass(frozen=True)
class Held:
    """What was held: until when, if anything; the cells that had no place left are `full`."""

    until: datetime | None = None
    full: tuple[str, ...] = ()


async def keep(context: Context, found: PublicState, kept: Values, came: Came, seen: Seen) -> Held:
    """Hold the places that answers so far take, or tell which of them are full. The gate holds
    places; nothing new is held where the network address has enough of them."""
    takes, now = takes_of(found.gate.places, kept), context.clock.now()
    client = name_of("hold", seen.client)
    async with context.engine.begin() as conn:
        own = await held_for(conn, found, came, seen)
        enough = not own.takes and await places.held_by(conn, found.id, client, now) >= HOLDS
        if enough or not own.name:
            counts = await places.counts(conn, found.id, [one.cell for one in takes])
            return Held(full=full_of(takes, counts, own.takes))
        return await _held(conn, found, takes, own, client, now)


def full_of(takes: tuple[Take, ...], counts: Counts, own: Mapping[str, int]) -> tuple[str, ...]:
    """The cells that have no room, for somebody for whom `own` are held."""
    fitting = (fits(one, counts.get(one.cell, NONE), own.get(one.cell, 0)) for one in takes)
    return tuple(one.cell for one, fit in zip(takes, fitting, strict=True) if not fit)


async def _held(
    conn: Connection,
    found: PublicState,
    takes: tuple[Take, ...],
    known: Hold,
    client: str,
    now: datetime,
) -> Held:
    """Hold places, all that are wanted or none more than are `known` to be held. Of those the end
    stays as it is."""
    name = known.name
    cells = {one.cell for one in takes} | set(known.takes)
    await places.there(conn, found.id, cells)
    counts = await places.locked(conn, found.id, cells)
    again = await places.hold_of(conn, found.id, name, lock=True)
    own = again[0] if again else {}
    if not set(own) <= cells:
        return Held(until=again[1] if again else None)
    full = full_of(takes, counts, own)
    if full:
        return Held(full=full, until=again[1] if again else None)
    until = again[1] if again and again[1] > now else now + timedelta(minutes=found.gate.hold)
    if again is not None:
        await places.move_hold(conn, found.id, name, takes, until)
    elif not await places.begin_hold(conn, found.id, name, takes, until, client):
        return Held()  # Another request of theirs holds something at this very moment.
    wanted = {one.cell: one.amount for one in takes}
    changed = {cell: wanted.get(cell, 0) - own.get(cell, 0) for cell in cells}
    await places.change(conn, found.id, held=changed)
    return Held(until=until)


async def let_go_over(context: Context, questionnaire_id: UUID | None = None) -> int:
    """Give back what was held for too long, each hold in a transaction of its own; how many."""
    now = context.clock.now()
    async with context.engine.connect() as conn:
        over = await places.over(conn, now, AT_ONCE, questionnaire_id)
    count = 0
    for id, name, takes in over:
        async with context.engine.begin() as conn:
            count += await _let_go(conn, id, name, takes, now)
    return count


async def _let_go(
    conn: Connection, id: UUID, name: bytes, takes: Mapping[str, int], before: datetime | None
) -> bool:
    """Give back a hold as it was read; not where it changed or ended meanwhile."""
    await places.locked(conn, id, takes)
    now = await places.hold_of(conn, id, name, lock=True)
    if now is None or now[0] != takes or not await places.let_go(conn, id, name, before):
        return False
    await places.change(conn, id, held={cell: -amount for cell, amount in takes.items()})
    return True


def item_of(gate: Gate, plan: Plan, cell: str, on_path: Collection[str]) -> str | None:
    """The question whose answer takes a cell that is full: the last one that divides these places.
    None for places in all."""
    key, _ = cell_parts(cell)
    by = next((one.by for one in gate.places if one.key == key), ())
    order = [item.key for item in plan.questionnaire.items() if item.key in by]
    there = [one for one in order if one in on_path]
    return there[-1] if there else None
