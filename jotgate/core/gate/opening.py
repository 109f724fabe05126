"""When a gate is open by its times: spans of time, and the next change.

A time of day that comes twice, where clocks are put back, opens the first time and shuts the last
time; one that is left out, where they are put forward, is the moment at which they are.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from jotgate.core.gate.times import DayOff, Hours, Times, Window

Span = tuple[datetime, datetime]
"""From one moment to another, in UTC; the second is not in it."""

EVER, NEVER = datetime(1970, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)
"""Before all and after all that is set; no change is looked for beyond."""

AHEAD = timedelta(days=400)
"""How far ahead a change is looked for."""


def instant(local: datetime, zone: ZoneInfo, last: bool) -> datetime:
    """The moment at which the clock in `zone` shows `local`: the first, or the `last` where it does
    twice; the change of the clocks where it never does."""
    first, second = (
        local.replace(tzinfo=zone, fold=fold).astimezone(UTC).replace(microsecond=0)
        for fold in (0, 1)
    )
    if first <= second:
        return second if last else first
    shown = second.astimezone(zone).utcoffset()
    low, high = second, first
    while high - low > timedelta(seconds=1):
        middle = low + (high - low) // 2
        middle = middle.replace(microsecond=0)
        if middle.astimezone(zone).utcoffset() == shown:
            low = middle
        else:
            high = middle
    return high


def _window(one: Window, zone: ZoneInfo) -> Span:
    opens = instant(datetime.fromisoformat(one.opens), zone, False) if one.opens else EVER
    shuts = instant(datetime.fromisoformat(one.shuts), zone, True) if one.shuts else NEVER
    return opens, shuts


def _at(on: date, minutes: int) -> datetime:
    return datetime.combine(on, time()) + timedelta(minutes=minutes)


def _minutes(written: str) -> int:
    hours, minutes = written.split(":")
    return int(hours) * 60 + int(minutes)


def _of_day(on: date, hours: Iterable[Hours], zone: ZoneInfo) -> Iterator[Span]:
    """The spans that begin on one day by the hours of the week."""
    for one in hours:
        if on.isoweekday() not in one.days:
            continue
        opens, shuts = _minutes(one.opens), _minutes(one.shuts)
        shuts += 24 * 60 if shuts <= opens else 0
        span = instant(_at(on, opens), zone, False), instant(_at(on, shuts), zone, True)
        if span[0] < span[1]:
            yield span


def _off(one: DayOff, zone: ZoneInfo) -> Span:
    """The whole of a day."""
    return instant(_at(one.on, 0), zone, False), instant(_at(one.on, 24 * 60), zone, False)


def _joined(spans: Iterable[Span]) -> list[Span]:
    found: list[Span] = []
    for opens, shuts in sorted(spans):
        if found and opens <= found[-1][1]:
            found[-1] = found[-1][0], max(shuts, found[-1][1])
        else:
            found.append((opens, shuts))
    return found


def _both(some: list[Span], others: list[Span]) -> Iterator[Span]:
    """Where both are."""
    here, there = 0, 0
    while here < len(some) and there < len(others):
        opens = max(some[here][0], others[there][0])
        shuts = min(some[here][1], others[there][1])
        if opens < shuts:
            yield opens, shuts
        if some[here][1] <= others[there][1]:
            here += 1
        else:
            there += 1


def _without(spans: Iterable[Span], off: list[Span]) -> Iterator[Span]:
    for opens, shuts in spans:
        for begins, ends in off:
            if ends <= opens or begins >= shuts:
                continue
            if opens < begins:
                yield opens, begins
            opens = ends
        if opens < shuts:
            yield opens, shuts


def spans(times: Times, zone: str, start: datetime, end: datetime) -> list[Span]:
    """When it is open by its times between two moments, in order, none touching the next."""
    at = ZoneInfo(zone)
    found = [(max(start, EVER), min(end, NEVER))]
    if times.windows:
        found = list(_both(found, _joined(_window(one, at) for one in times.windows)))
    if times.hours:
        first = start.astimezone(at).date() - timedelta(days=2)
        days = (end.astimezone(at).date() - first).days + 2
        weekly = (
            span
            for n in range(days)
            for span in _of_day(first + timedelta(days=n), times.hours, at)
        )
        found = list(_both(found, _joined(weekly)))
    off = _joined(_off(one, at) for one in times.days_off)
    return _joined(_without(found, off))


@dataclass(frozen=True)
class Opening:
    """Whether it is open by its times, since when and until when, in UTC; None is for as far as can
    be seen. Nothing changes in between."""

    open: bool
    since: datetime | None
    until: datetime | None


ALWAYS = Opening(True, None, None)


def opening_at(times: Times, zone: str, moment: datetime) -> Opening:
    """How it stands at a moment by its times."""
    if times.say_nothing:
        return ALWAYS
    found = ALWAYS
    for far in _FAR:
        found = _within(times, zone, moment, far)
        if found.since is not None and found.until is not None:
            break
    if not found.open and found.until is None and times.windows and not times.hours:
        later = spans(times, zone, moment, NEVER)
        return Opening(False, found.since, later[0][0] if later else None)
    return found


_FAR = (timedelta(days=8), AHEAD)
"""How far one looks, the nearest first."""


def _within(times: Times, zone: str, moment: datetime, far: timedelta) -> Opening:
    """How it stands at a moment, as far as can be seen from there."""
    start, end = max(moment - far, EVER), min(moment + far, NEVER)
    since, until = start, end
    for opens, shuts in spans(times, zone, start, end):
        if opens <= moment < shuts:
            return Opening(True, None if opens == start else opens, None if shuts == end else shuts)
        if shuts <= moment:
            since = shuts
        else:
            until = opens
            break
    return Opening(False, None if since == start else since, None if until == end else until)
