"""Moments held against days, and how days and moments are written in answers."""

from collections.abc import Mapping
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from sqlalchemy import ColumnElement, and_, false, true

from jotgate.core.common.today import Today

Test = ColumnElement[bool]

CLASSES: Mapping[str, type] = {"day": date, "time": time, "moment": datetime}


def day_of_zone(day: date, today: Today) -> tuple[datetime, datetime]:
    """The moments at which a day begins, and the one after it."""
    begins = datetime.combine(day, time(), today.zone)
    return begins, datetime.combine(day + timedelta(days=1), time(), today.zone)


def in_day(op: str, there: Test, related: Any, begin: Any, end: Any) -> Test:
    """A moment held against a day, from its `begin` to the next one's."""
    match op:
        case "is":
            return and_(related("at_least", begin), related("less_than", end))
        case "is_not":
            within = and_(related("at_least", begin), related("less_than", end))
            return and_(there, within.is_not(true()))
        case "at_least" | "less_than":
            found: Test = related(op, begin)
            return found
        case "more_than":
            found = related("at_least", end)
            return found
        case "at_most":
            found = related("less_than", end)
            return found
    return false()


def utc(moment: datetime) -> str:
    """As entries keep it, to the minute where it has no seconds."""
    moment = moment.astimezone(UTC)
    whole = moment.second == 0 and moment.microsecond == 0
    return moment.isoformat(timespec="minutes" if whole else "auto")


def short(one: time) -> str:
    return one.isoformat("minutes" if one.second == 0 and one.microsecond == 0 else "auto")
