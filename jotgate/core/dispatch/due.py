"""When a letter goes out: at once or gathered, not in quiet hours, and again after it failed."""

from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from jotgate.core.dispatch.acts import Gathered, Quiet

DAILY_AT = time(7)
"""When letters that are gathered daily go out, in the questionnaire's time zone."""

TRIES = 12
"""Tries of a letter before it waits for somebody to see to it."""

LONGEST_PAUSE = timedelta(hours=2)


def due(now: datetime, gathered: Gathered, quiet: Quiet | None, zone: str) -> datetime:
    """When a letter that is asked for `now` goes out, in UTC or the zone of `now`."""
    at = _gathered(now.astimezone(ZoneInfo(zone)), gathered)
    return _after(at, quiet).astimezone(now.tzinfo)


def _gathered(now: datetime, gathered: Gathered) -> datetime:
    if gathered == "hourly":
        start = now.astimezone(ZoneInfo("UTC")).replace(minute=0, second=0, microsecond=0)
        return (start + timedelta(hours=1)).astimezone(now.tzinfo)
    if gathered == "daily":
        today = _at(now, DAILY_AT, 0)
        return today if today > now else _at(now, DAILY_AT, 1)
    return now


def _after(at: datetime, quiet: Quiet | None) -> datetime:
    """`at`, or the end of the quiet hours that it falls into."""
    if quiet is None or quiet.start == quiet.end:
        return at
    clock = at.time()
    over_midnight = quiet.end < quiet.start
    if over_midnight:
        is_quiet = clock >= quiet.start or clock < quiet.end
    else:
        is_quiet = quiet.start <= clock < quiet.end
    if not is_quiet:
        return at
    return _at(at, quiet.end, 1 if over_midnight and clock >= quiet.start else 0)


def _at(day: datetime, clock: time, later: int) -> datetime:
    """A time of day so many days later, by the clock of its time zone."""
    naive = datetime.combine(day.date() + timedelta(days=later), clock)
    return naive.replace(tzinfo=day.tzinfo)


def pause_after(tries: int) -> timedelta:
    """How long to wait after so many tries that failed: it doubles from four seconds."""
    return min(timedelta(seconds=2 ** min(tries + 1, 20)), LONGEST_PAUSE)
