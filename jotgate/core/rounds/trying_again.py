"""When somebody who was not reached is tried again: in the hours that are set, in their own time
zone, not too soon, not too often, and at other hours of the day than before."""

from collections.abc import Iterator, Sequence
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from pydantic import Field

from jotgate.core.common.part import Part
from jotgate.core.gate.opening import Span, instant, spans
from jotgate.core.gate.times import Times

AHEAD = timedelta(days=30)
"""How far ahead a time is looked for."""


class TryingAgain(Part):
    """At most `most` tries, `apart` hours from one to the next, in `times`; with `other_hours` not
    twice at the same hour of the day, as long as there are hours that were not tried."""

    most: int = Field(6, ge=1, le=50)
    apart: int = Field(4, ge=0, le=24 * 60)
    other_hours: bool = True
    times: Times = Times()


def next_try(
    rule: TryingAgain, zone: str, tried: Sequence[datetime], now: datetime
) -> datetime | None:
    """The next moment from `now` on, in UTC, after tries at these moments; None where there were as
    many as there may be, or no hour comes within a month."""
    if len(tried) >= rule.most:
        return None
    at = ZoneInfo(zone)
    earliest = max([now, *(one + timedelta(hours=rule.apart) for one in tried)]).astimezone(UTC)
    open_then = spans(rule.times, zone, earliest, earliest + AHEAD)
    if not open_then:
        return None
    used = {one.astimezone(at).hour for one in tried} if rule.other_hours else set()
    for moment in _hours(open_then, at):
        if moment.astimezone(at).hour not in used:
            return moment
    return open_then[0][0]


def _hours(open_then: Sequence[Span], at: ZoneInfo) -> Iterator[datetime]:
    """The first moment of each hour of the day that is open, in their order."""
    for opens, shuts in open_then:
        moment = opens
        while moment < shuts:
            yield moment
            local = moment.astimezone(at).replace(tzinfo=None)
            whole = local.replace(minute=0, second=0, microsecond=0) + timedelta(hours=1)
            later = instant(whole, at, last=False)
            moment = later if later > moment else moment + timedelta(hours=1)
