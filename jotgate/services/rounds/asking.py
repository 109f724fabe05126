"""Whether letters of a round still go, asked at the moment that they would."""

from collections.abc import Collection
from datetime import datetime
from uuid import UUID

from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import KeptRound
from jotgate.core.rounds.schedule import in_hours
from jotgate.core.rounds.standing import concerns
from jotgate.store.base import Connection
from jotgate.store.rounds import people
from jotgate.store.rounds.facts import facts_of


async def later(
    conn: Connection, one: KeptRound, contact_ids: Collection[UUID], now: datetime
) -> dict[UUID, datetime]:
    """When letters may go to those of these contacts for whom it is out of the hours of the
    round."""
    if one.round.hours.say_nothing:
        return {}
    zones = await people.zones_in(conn, one, contact_ids)
    opens = {zone: in_hours(one.round.hours, zone, now) for zone in set(zones.values())}
    found = {id: opens[zone] for id, zone in zones.items()}
    return {id: moment for id, moment in found.items() if moment and moment > now}


async def still_asked(
    conn: Connection,
    one: KeptRound,
    mailing: Mailing,
    contact_ids: Collection[UUID],
    now: datetime,
) -> frozenset[UUID]:
    """Those of these contacts whom the step of a mailing still goes to as they stand now."""
    step = one.round.step(mailing.step)
    if step is None:
        return frozenset()
    facts = await facts_of(conn, one, contact_ids, now)
    return frozenset(id for id, known in facts.items() if concerns(step, known))
