"""Whom a step of a round goes to, as they stand."""

from collections.abc import Collection
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.today import Today, today_in
from jotgate.core.conditions.condition import Condition, holds, named
from jotgate.core.contacts.asked import contact_values
from jotgate.core.contacts.fields import ContactField
from jotgate.core.rounds.round import Step
from jotgate.core.rounds.standing import Facts, concerns
from jotgate.services.rounds.state import RoundState
from jotgate.store.base import Connection
from jotgate.store.rounds import people
from jotgate.store.rounds.facts import Known, counted, known


def fitting(
    condition: Condition, fields: tuple[ContactField, ...], alike: people.Alike, today: Today
) -> list[UUID]:
    """The contacts of whom a condition is true; what they say alike is looked at once."""
    return [
        id
        for said, ids in alike
        if holds(condition, contact_values(fields, said), today)
        for id in ids
    ]


async def only_those(
    conn: Connection, state: RoundState, step: Step, portion: int, now: datetime
) -> list[UUID] | None:
    """Of whom in a portion the condition of a step is true; None where it has none."""
    if step.only is None:
        return None
    alike = await people.alike_in_portion(conn, state.kept, portion, sorted(named(step.only)))
    return fitting(step.only, state.around.fields, alike, today_in(state.zone, now))


def concerned(step: Step, counts: Collection[tuple[Facts, tuple[str, ...], int]]) -> list[Facts]:
    """Those combinations of facts that a step goes to."""
    return list({facts for facts, _, _ in counts if concerns(step, facts)})


async def of_step(
    conn: Connection, state: RoundState, step: Step, portion: int, now: datetime
) -> tuple[Known, Any]:
    """Everybody in a portion as they stand, and what says which of them a step goes to."""
    found = known(state.kept, {portion: now})
    wanted = concerned(step, await counted(conn, found, ()))
    only = await only_those(conn, state, step, portion, now)
    return found, people.among_only(found, wanted, only)
