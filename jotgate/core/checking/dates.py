"""Checking dates, times of day and moments, in ISO 8601."""

import re
from collections.abc import Callable
from datetime import UTC, date, datetime, time, tzinfo
from typing import TypeVar

from jotgate.core.checking.failures import CheckFailed
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
