"""When the steps of a round go, portion by portion."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from jotgate.core.gate.opening import instant, opening_at
from jotgate.core.gate.times import Times
from jotgate.core.rounds.round import Round, Step

Run = tuple[int, str]
"""A portion, counted from 1, and the key of a step."""


@dataclass(frozen=True)
class Planned:
    """A step that has not gone to a portion yet. It has no `moment` while it, or one before it, is
    held, or where no office hours come."""

    portion: int
    step: Step
    moment: datetime | None


def planned(
    round: Round,
    zone: str,
    released: Mapping[int, datetime],
    begun: Mapping[Run, datetime],
    faulty: frozenset[str] = frozenset(),
) -> list[Planned]:
    """The steps that are still to go to the portions that were `released`, in their order. `begun`
    says when each one went that did; the keys in `faulty` are of steps that cannot go as they
    are, and wait as if they were held."""
    found: list[Planned] = []
    for portion in sorted(released):
        before: datetime | None = released[portion]
        for step in round.steps:
            went = begun.get((portion, step.key))
            if went is not None:
                before = went
                continue
            held = step.held or step.key in faulty
            before = None if held or before is None else _moment(round, step, zone, before)
            found.append(Planned(portion, step, before))
    return found


def _moment(round: Round, step: Step, zone: str, before: datetime) -> datetime | None:
    """Never before the step `before` it."""
    wanted = before + timedelta(hours=step.after)
    if step.at is not None:
        wanted = instant(datetime.fromisoformat(step.at), ZoneInfo(zone), last=False)
    return in_hours(round.hours, zone, max(wanted, before))


def in_hours(hours: Times, zone: str, moment: datetime) -> datetime | None:
    """The moment itself where that is within `hours`, else when they begin next; None for never."""
    found = opening_at(hours, zone, moment)
    return moment if found.open else found.until


def sound_zone(name: str, otherwise: str) -> str:
    """A time zone that somebody wrote, where there is one of that name."""
    try:
        ZoneInfo(name)
    except (KeyError, ValueError, OSError):
        return otherwise
    return name or otherwise
