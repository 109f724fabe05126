"""When entries arrived: over time, and by the hour of the day."""

from collections import Counter
from collections.abc import Mapping
from datetime import date, datetime, time

from jotgate.core.common.part import Part
from jotgate.core.figures.days import day_bins, hour_bins
from jotgate.core.figures.pictures import Bins


class Arrivals(Part):
    """`over_time` is by day, week, month or year; `zone` is where clocks showed it."""

    over_time: Bins
    by_hour: Bins
    zone: str


def arrivals(hours: Mapping[datetime, int], language: str, zone: str) -> Arrivals | None:
    """Of how many arrived in each hour, as clocks showed it; None where nothing did. Hours with
    none say how far it is drawn."""
    if not any(hours.values()):
        return None
    days: Counter[date] = Counter()
    of_day: Counter[time] = Counter()
    for at, many in hours.items():
        days[at.date()] += many
        of_day[at.time()] += many
    over_time, by_hour = Bins(bins=day_bins(days, language)), Bins(bins=hour_bins(of_day))
    return Arrivals(over_time=over_time, by_hour=by_hour, zone=zone)
