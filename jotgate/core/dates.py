"""Checking dates and times of day, in ISO 8601."""

import re
from datetime import date, time, timedelta

from jotgate.core.failures import Failed
from jotgate.core.items import Date, Time

_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
_TIME = re.compile(r"\d{2}:\d{2}")


def bound(written: str, today: date) -> date | None:
    """The day that a bound means: a date, or days from today; None beyond the calendar."""
    try:
        if not written.startswith("today"):
            return date.fromisoformat(written)
        return today + timedelta(days=int(written[5:] or 0))
    except (ValueError, OverflowError):
        return None


def day(item: Date, raw: object, today: date) -> date:
    if not isinstance(raw, str) or not _DATE.fullmatch(raw.strip()):
        raise Failed("not_a_date")
    try:
        found = date.fromisoformat(raw.strip())
    except ValueError:
        raise Failed("not_a_date") from None
    earliest = item.earliest and bound(item.earliest, today)
    latest = item.latest and bound(item.latest, today)
    if earliest and found < earliest:
        raise Failed("too_early", limit=earliest.isoformat())
    if latest and found > latest:
        raise Failed("too_late", limit=latest.isoformat())
    return found


def clock_time(item: Time, raw: object) -> time:
    if not isinstance(raw, str) or not _TIME.fullmatch(raw.strip()):
        raise Failed("not_a_time")
    try:
        found = time.fromisoformat(raw.strip())
    except ValueError:
        raise Failed("not_a_time") from None
    if item.earliest and found < time.fromisoformat(item.earliest):
        raise Failed("too_early", limit=item.earliest)
    if item.latest and found > time.fromisoformat(item.latest):
        raise Failed("too_late", limit=item.latest)
    return found
