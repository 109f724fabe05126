"""Checking dates, times of day and moments, in ISO 8601."""

import re
from collections.abc import Callable, Iterator, Mapping
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from random import Random
from typing import TypeVar

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.rules import FastCheck, Limits, Raw, Rules, always, as_set
from jotgate.core.common.today import Today, day_of
from jotgate.core.items.written import Date, DateTime, Time

_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
_TIME = re.compile(r"\d{2}:\d{2}")
_MOMENT = re.compile(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}")


def moment_bound(written: str, today: Today, end: bool) -> datetime | None:
    """The local moment that a bound means: now, or the start or `end` of a day."""
    if written == "now":
        return today.now.replace(tzinfo=None, second=0, microsecond=0)
    day = day_of(written, today.day)
    return datetime.combine(day, time(23, 59) if end else time()) if day else None


T = TypeVar("T", date, time, datetime)


def _read(raw: object, form: re.Pattern[str], read: Callable[[str], T], code: str) -> T:
    """`raw` as it is written in ISO 8601. Raises CheckFailed with `code`."""
    if not isinstance(raw, str) or not form.fullmatch(raw.strip()):
        raise CheckFailed(code)
    try:
        return read(raw.strip())
    except ValueError:
        raise CheckFailed(code) from None


def _between(found: T, earliest: T | None, latest: T | None) -> T:
    if earliest is not None and found < earliest:
        raise CheckFailed("too_early", limit=earliest)
    if latest is not None and found > latest:
        raise CheckFailed("too_late", limit=latest)
    return found


def day(item: Date, raw: object, today: date) -> date:
    found = _read(raw, _DATE, date.fromisoformat, "not_a_date")
    earliest = day_of(item.earliest, today) if item.earliest else None
    return _between(found, earliest, day_of(item.latest, today) if item.latest else None)


def clock_time(item: Time, raw: object) -> time:
    found = _read(raw, _TIME, time.fromisoformat, "not_a_time")
    earliest = time.fromisoformat(item.earliest) if item.earliest else None
    return _between(found, earliest, time.fromisoformat(item.latest) if item.latest else None)


def moment(item: DateTime, raw: object, today: Today) -> datetime:
    """A local day and time, as the moment in UTC.

    A time that the clocks skip does not exist there; of one that comes twice, the first.
    """
    local = _read(raw, _MOMENT, datetime.fromisoformat, "not_a_moment")
    found = _in_utc(local, today.zone)
    if found is None:
        raise CheckFailed("not_a_moment")
    for bound, code, end in ((item.earliest, "too_early", False), (item.latest, "too_late", True)):
        if bound is not None and _outside(local, found, bound, today, end):
            raise CheckFailed(code, limit=moment_bound(bound, today, end) or local)
    return found


def _outside(local: datetime, found: datetime, bound: str, today: Today, end: bool) -> bool:
    """Whether a moment lies before a bound, or behind it where that is an `end`.

    Now is a moment; a day is one of the local calendar.
    """
    mine, edge = local, moment_bound(bound, today, end)
    if bound == "now":
        mine, edge = found, today.now.replace(second=0, microsecond=0)
    return edge is not None and (mine > edge if end else mine < edge)


def _in_utc(local: datetime, zone: tzinfo) -> datetime | None:
    """None for a local time that does not exist, or lies beyond the calendar in UTC."""
    try:
        found = local.replace(tzinfo=zone).astimezone(UTC)
        return found if found.astimezone(zone).replace(tzinfo=None) == local else None
    except OverflowError:
        return None


_CLOCK = "([01][0-9]|2[0-3]):[0-5][0-9]"


def _fast_time(item: Time) -> FastCheck:
    low = time.fromisoformat(item.earliest) if item.earliest else time.min
    high = time.fromisoformat(item.latest) if item.latest else time.max
    fits = re.compile(_CLOCK).fullmatch

    def fast(raw: Raw) -> time | None:
        if raw.__class__ is not str or fits(raw) is None:
            return None
        found = time.fromisoformat(raw)
        return found if low <= found <= high else None

    return fast


def _unsaid(item: Date | Time | DateTime) -> Iterator[str]:
    if isinstance(item, DateTime):
        yield "that it is asked in local time"
    if item.earliest or item.latest:
        yield "its earliest and latest"


def _days(item: Date | DateTime, today: Today) -> tuple[date | None, date | None]:
    low, high = (day_of(one, today.day) if one else None for one in (item.earliest, item.latest))
    return low, high


def _make_day(item: Date | DateTime, today: Today, dice: Random) -> date:
    low, high = _days(item, today)
    first = low or (high or today.day) - timedelta(days=60)
    last = high or max(first, today.day) + timedelta(days=60)
    return first + timedelta(days=dice.randint(0, max((last - first).days, 0)))


def _make_time(item: Time, _: Today, dice: Random) -> Raw:
    edges = (item.earliest or "08:00", item.latest or "18:00")
    low, high = (int(edge[:2]) * 60 + int(edge[3:]) for edge in edges)
    at = dice.randint(low, max(low, high))
    return f"{at // 60:02}:{at % 60:02}"


def _make_moment(item: DateTime, today: Today, dice: Random) -> Raw:
    if item.latest == "now":
        return (today.now - timedelta(hours=dice.randint(1, 40))).strftime("%Y-%m-%dT%H:%M")
    if item.earliest == "now":
        return (today.now + timedelta(hours=dice.randint(1, 40))).strftime("%Y-%m-%dT%H:%M")
    return f"{_make_day(item, today, dice)}T{dice.randint(8, 17):02}:30"


def _day_limits(item: Date, today: Today) -> Limits:
    days = zip(("earliest", "latest"), _days(item, today), strict=True)
    return {name: found.isoformat() if found else None for name, found in days}


def _moment_limits(item: DateTime, today: Today) -> Limits:
    earliest = item.earliest and moment_bound(item.earliest, today, end=False)
    latest = item.latest and moment_bound(item.latest, today, end=True)
    return {
        name: found.isoformat(timespec="minutes") if found else None
        for name, found in (("earliest", earliest), ("latest", latest))
    }


def _faults(item: Date | DateTime | Time) -> Iterator[tuple[str, str]]:
    """A range of days or times that nothing lies in, whatever day it is."""
    edges = (item.earliest, item.latest)
    if None in edges or "now" in edges:
        return
    relative = [str(edge).startswith("today") for edge in edges]
    if any(relative) and not all(relative):
        return
    low, high = (
        edge if isinstance(item, Time) else day_of(str(edge), date(2000, 1, 1)) for edge in edges
    )
    if low is None or high is None or str(low) > str(high):
        message = f"Nothing lies between {item.earliest} and {item.latest}. Change one of them."
        yield "empty_range", message


RULES: Mapping[str, Rules] = {
    "date": Rules(
        check=lambda item, raw, today: day(item, raw, today.day),
        schema=always({"type": "string", "format": "date"}),
        unsaid=_unsaid,
        read=lambda _, stored: date.fromisoformat(stored),
        make=lambda item, today, dice: _make_day(item, today, dice).isoformat(),
        limits=_day_limits,
        faults=_faults,
    ),
    "time": Rules(
        check=lambda item, raw, _: clock_time(item, raw),
        fast=_fast_time,
        schema=always({"type": "string", "pattern": f"^{_CLOCK}$"}),
        unsaid=_unsaid,
        read=lambda _, stored: time.fromisoformat(stored),
        make=_make_time,
        limits=as_set("earliest", "latest"),
        faults=_faults,
    ),
    "date_time": Rules(
        check=moment,
        schema=always({"type": "string", "format": "date-time"}),
        unsaid=_unsaid,
        read=lambda _, stored: datetime.fromisoformat(stored),
        make=_make_moment,
        limits=_moment_limits,
        faults=_faults,
    ),
}
