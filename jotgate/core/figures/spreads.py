"""Numbers: what they are like, and in which bins a person would put them."""

from collections import Counter
from collections.abc import Iterable, Sequence
from decimal import Decimal
from math import ceil, floor, log10, sqrt

from jotgate.core.common.formatting import number
from jotgate.core.common.intervals import mean_interval
from jotgate.core.figures.pictures import Bin, Spread

MOST_BINS = 15

Counted = Sequence[tuple[Decimal, int]]
"""Numbers, each once, the smallest first, with how many there are of it."""


def counted(values: Iterable[tuple[Decimal, int]]) -> Counted:
    """Numbers that may come several times, as the others want them. One that came no times says how
    far bins reach."""
    found: Counter[Decimal] = Counter()
    for value, many in values:
        found[value] += many
    return sorted(found.items())


def there(values: Counted) -> Counted:
    """Those of which there is any."""
    return [one for one in values if one[1]]


def quantile(values: Counted, share: float) -> float:
    """Between the two numbers that stand around that place, in proportion (type 7 of R. J. Hyndman
    and Y. Fan, 1996, which is numpy's default)."""
    place = (sum(many for _, many in values) - 1) * share
    lower, part = floor(place), place - floor(place)
    first = _at(values, lower)
    return first if not part else first + part * (_at(values, lower + 1) - first)


def _at(values: Counted, place: int) -> float:
    for value, many in values:
        place -= many
        if place < 0:
            return float(value)
    return float(values[-1][0])


def spread(values: Counted) -> Spread:
    """Of one number at least."""
    count = sum(many for _, many in values)
    mean = sum((value * many for value, many in values), Decimal()) / count
    square = sum(float((value - mean) ** 2) * many for value, many in values)
    deviation = sqrt(square / (count - 1)) if count > 1 else 0.0
    between = mean_interval(float(mean), deviation, count)
    low, high = between or (None, None)
    return Spread(
        mean=float(mean),
        mean_low=low,
        mean_high=high,
        smallest=float(values[0][0]),
        lower=quantile(values, 0.25),
        median=quantile(values, 0.5),
        upper=quantile(values, 0.75),
        largest=float(values[-1][0]),
    )


def number_bins(values: Counted, language: str) -> tuple[Bin, ...]:
    """One for each whole number where those are few; else as wide as 1, 2 or 5 times a power of
    ten, and not many (common practice)."""
    low, high = values[0][0], values[-1][0]
    whole = all(value == value.to_integral_value() for value, _ in values)
    if whole and high - low < MOST_BINS:
        each = dict(values)
        numbers = range(int(low), int(high) + 1)
        return tuple(
            Bin(
                label=number(Decimal(one), language),
                low=one,
                high=one + 1,
                count=each.get(Decimal(one), 0),
            )
            for one in numbers
        )
    width = _width(low, high, whole)
    first, last = floor(low / width), max(floor(low / width) + 1, ceil(high / width))
    found = [0] * (last - first)
    for value, many in values:
        found[min(floor(value / width) - first, len(found) - 1)] += many
    return tuple(
        _bin(width * (first + at), width * (first + at + 1), many, language)
        for at, many in enumerate(found)
    )


def _width(low: Decimal, high: Decimal, whole: bool) -> Decimal:
    if high == low:
        return Decimal(1)
    least = (high - low) / MOST_BINS
    power = Decimal(10) ** floor(log10(least))
    found = next(power * times for times in (1, 2, 5, 10) if power * times >= least)
    return max(found, Decimal(1)) if whole else found


def _bin(low: Decimal, high: Decimal, many: int, language: str) -> Bin:
    label = f"{number(low, language)}–{number(high, language)}"
    return Bin(label=label, low=float(low), high=float(high), count=many)
