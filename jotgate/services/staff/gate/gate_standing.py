"""How a gate stands: open or not, its places and their pace, who answers, what was and will be."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import product
from typing import Literal
from uuid import UUID

from jotgate.core.common.wording import say
from jotgate.core.gate.decision import ANYBODY, Decision
from jotgate.core.gate.forecast import Forecast, full_at
from jotgate.core.gate.opening import Opening
from jotgate.core.gate.places import (
    NONE,
    Count,
    Counts,
    cell_of,
    cell_parts,
    left,
    most_of,
    totals_of,
)
from jotgate.core.gate.settings import Places
from jotgate.core.gate.timeline import Stretch, timeline
from jotgate.core.items import options_of
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Summary
from jotgate.core.walking.plan import Plan
from jotgate.services import gate
from jotgate.services.context import Context
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires
from jotgate.store.entries import started
from jotgate.store.gate import places, versions

BACK, AHEAD = timedelta(days=30), timedelta(days=30)
"""What a timeline shows of the past and of the future."""

MOST_VERSIONS = 200
"""Changes of the gate that a timeline goes back at most."""

MOST_CELLS = 500
"""Cells of one kind of places that are shown."""

LATELY = timedelta(minutes=10)
"""Who saved something within this time is answering."""

PACE = 3
"""Days before today that a pace is taken from."""


@dataclass(frozen=True)
class Cell:
    """Places for some values: what those are called, and how many of them there are."""

    cell: str
    labels: tuple[str, ...]
    count: Count
    most: int | None


@dataclass(frozen=True)
class PlacesStanding:
    """One kind of places; `forecast` is when it is full, for places in all."""

    places: Places
    cells: tuple[Cell, ...]
    forecast: Forecast | None


@dataclass(frozen=True)
class Standing:
    """`decision` is what somebody reads of whom nothing is known; None before it is published."""

    now: datetime
    zone: str
    opening: Opening
    decision: Decision | None
    places: tuple[PlacesStanding, ...]
    answering: int
    stretches: tuple[Stretch, ...]


async def standing(context: Context, account: Account, id: UUID) -> Standing:
    """How the gate of a questionnaire stands now."""
    now = context.clock.now()
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        summary = there(await questionnaires.summary(conn, id))
        kept = await versions.since(conn, id, now - BACK, MOST_VERSIONS)
        plan = await context.plan(conn, id, summary.edition) if summary.edition else None
        counts = await places.counts(conn, id)
        answering = await started.lately(conn, id, now - LATELY)
    zone = plan.questionnaire.time_zone if plan else "UTC"
    found = summary.public_state
    decision = gate.judged(context, found, zone, now, ANYBODY, counts) if plan else None
    return Standing(
        now,
        zone,
        gate.opening(context, found, zone, now),
        decision,
        tuple(_places(one, plan, counts, summary, now) for one in summary.gate.places),
        answering,
        tuple(timeline(kept, zone, now - BACK, now + AHEAD)),
    )


@dataclass(frozen=True)
class Brief:
    """How a gate stands, in short. `changes` is when that does by its times; `taken` and `most` are
    its places in all, None where those are not limited."""

    stands: Literal["open", "shut", "held", "closed", "full"]
    changes: datetime | None = None
    taken: int | None = None
    most: int | None = None


def brief(context: Context, summary: Summary, counts: Counts) -> Brief:
    """By the places in all, whose counts are given by cell."""
    now, found = context.clock.now(), summary.public_state
    opening = gate.opening(context, found, summary.zone, now)
    totals = [(one.most, counts.get(one.cell, NONE)) for one in totals_of(found.gate.places)]
    most, count = min(totals, key=lambda one: left(*one) or 0, default=(None, NONE))
    taken = count.taken if most is not None else None
    if found.gate.state != "open":
        return Brief(found.gate.state, None, taken, most)
    if not opening.open:
        return Brief("closed", opening.until, taken, most)
    full = most is not None and left(most, count) == 0
    return Brief("full" if full else "open", opening.until, taken, most)


def _places(
    one: Places, plan: Plan | None, counts: Counts, summary: Summary, now: datetime
) -> PlacesStanding:
    cells = tuple(
        Cell(cell, labels_of(one, plan, cell), counts.get(cell, NONE), most_of(one, values))
        for cell, values in _values(one, plan, counts)
    )
    return PlacesStanding(one, cells, None if one.by else _forecast(one, cells, summary, now))


def _values(one: Places, plan: Plan | None, counts: Counts) -> list[tuple[str, tuple[str, ...]]]:
    """The combinations of values that there are: those that can be picked, those with a limit of
    their own, and those that somebody took."""
    known = dict.fromkeys(product(*(_codes(plan, key) for key in one.by)))
    known |= {limit.values: None for limit in one.limits}
    taken = (cell_parts(cell) for cell in sorted(counts))
    known |= {values: None for key, values in taken if key == one.key}
    fitting = [values for values in known if len(values) == len(one.by)]
    return [(cell_of(one.key, values), values) for values in fitting[:MOST_CELLS]]


def _codes(plan: Plan | None, key: str) -> list[str]:
    item = plan.items.get(key) if plan else None
    if item is None:
        return []
    if item.kind == "yes_no":
        return ["yes", "no"]
    return [option.code for option in options_of(item)]


def labels_of(one: Places, plan: Plan | None, cell: str) -> tuple[str, ...]:
    """What the values of a cell are called by staff."""
    _, values = cell_parts(cell)
    found = []
    for key, value in zip(one.by, values, strict=False):
        item = plan.items.get(key) if plan else None
        options = options_of(item) if item else ()
        label = next((option.label for option in options if option.code == value), None)
        first = plan.questionnaire.first_language if plan else "en"
        found.append(say(label, first, first) or value)
    return tuple(found)


def _forecast(
    one: Places, cells: tuple[Cell, ...], summary: Summary, now: datetime
) -> Forecast | None:
    """By how many came since the day `PACE` days ago began, in UTC."""
    if not cells or one.amount:
        return None
    midnight = now.replace(hour=0, minute=0, second=0, microsecond=0)
    since = midnight - timedelta(days=PACE)
    days = (since + timedelta(days=n) for n in range(PACE + 1))
    came = sum(summary.days.get(day.date().isoformat(), 0) for day in days)
    free = left(cells[0].most, cells[0].count)
    return full_at(free, came, now - since, now) if free is not None else None
