"""Days and times of day in bins: the shortest stretch of which there are not too many."""

from bisect import bisect_right
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from datetime import date, time, timedelta
from decimal import Decimal

from babel.dates import format_date

from jotgate.core.common.formatting import day, locale_of
from jotgate.core.figures.pictures import Bin
from jotgate.core.figures.spreads import counted, number_bins

MOST = 31

_DAY, _WEEK = timedelta(days=1), timedelta(days=7)


def _of_day(at: date) -> tuple[date, date]:
    return at, at + _DAY


def _of_week(at: date) -> tuple[date, date]:
    """From Monday on (ISO 8601)."""
    first = at - timedelta(days=at.weekday())
    return first, first + _WEEK


def _of_month(at: date) -> tuple[date, date]:
    first = at.replace(day=1)
    return first, (first + timedelta(days=31)).replace(day=1)


def _in_words(pattern: str) -> Callable[[date, str], str]:
    return lambda at, language: format_date(at, pattern, locale=locale_of(language))


_STRETCHES: tuple[tuple[Callable[[date], tuple[date, date]], Callable[[date, str], str]], ...] = (
    (_of_day, day),
    (_of_week, day),
    (_of_month, _in_words("LLLL y")),
)


def day_bins(days: Mapping[date, int], language: str) -> tuple[Bin, ...]:
    """By day, week, month or year, of one day at least. The edges of the first three are counted in
    days, 1 January of year 1 being the first; those of years are years."""
    first, last = min(days), max(days)
    for stretch, words in _STRETCHES if last.year < date.max.year else ():
        start, end = stretch(first)
        if (last - first) / (end - start) < MOST:
            return tuple(_bins(days, list(_starts(stretch, first, last)), words, language))
    years = counted((Decimal(at.year), many) for at, many in days.items())
    return number_bins(years, language)


def _starts(
    stretch: Callable[[date], tuple[date, date]], first: date, last: date
) -> Iterator[date]:
    """Where each stretch begins, and where the last one ends."""
    start, end = stretch(first)
    yield start
    while end <= last:
        yield end
        _, end = stretch(end)
    yield end


def _bins(
    days: Mapping[date, int], starts: list[date], words: Callable[[date, str], str], language: str
) -> Iterator[Bin]:
    found = [0] * (len(starts) - 1)
    for at, many in days.items():
        found[bisect_right(starts, at) - 1] += many
    for start, end, many in zip(starts, starts[1:], found, strict=False):
        yield Bin(
            label=words(start, language), low=start.toordinal(), high=end.toordinal(), count=many
        )


def hour_bins(times: Mapping[time, int]) -> tuple[Bin, ...]:
    """By the hour, from the first to the last that somebody named."""
    hours: Counter[int] = Counter()
    for at, many in times.items():
        hours[at.hour] += many
    return tuple(
        Bin(label=f"{hour:02}:00", low=hour, high=hour + 1, count=hours[hour])
        for hour in range(min(hours), max(hours) + 1)
    )
