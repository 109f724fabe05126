"""Numbers against NumPy and SciPy; bins that lose nothing."""

from collections import Counter
from datetime import date, time
from decimal import Decimal

import numpy
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from jotgate.core.common.intervals import mean_interval, share_interval
from jotgate.core.figures.days import MOST, day_bins, hour_bins
from jotgate.core.figures.spreads import MOST_BINS, counted, number_bins, quantile, spread

NUMBERS = st.lists(
    st.decimals(-10_000, 10_000, places=2) | st.integers(-3, 9).map(Decimal),
    min_size=1,
    max_size=60,
)
DAYS = st.lists(
    st.dates(date(2020, 1, 1), date(2029, 12, 31)) | st.dates() | st.just(date.max),
    min_size=1,
    max_size=40,
)


@given(st.integers(1, 500), st.integers(0, 500))
def test_a_share_has_the_interval_that_scipy_gives(of: int, hits: int) -> None:
    hits = min(hits, of)
    other = stats.binomtest(hits, of).proportion_ci(method="wilson")
    assert share_interval(hits, of) == pytest.approx((other.low, other.high), abs=1e-6)


@given(NUMBERS)
def test_numbers_are_like_what_numpy_and_scipy_say(values: list[Decimal]) -> None:
    found = spread(counted((one, 1) for one in values))
    each = numpy.array([float(one) for one in values])
    assert found.mean == pytest.approx(each.mean(), abs=1e-6)
    five = (found.smallest, found.lower, found.median, found.upper, found.largest)
    assert five == pytest.approx(numpy.quantile(each, [0, 0.25, 0.5, 0.75, 1]), abs=1e-6)
    if len(values) < 2:
        assert found.mean_low is None
        return
    error = stats.sem(each)
    other = stats.t.interval(0.95, len(values) - 1, loc=each.mean(), scale=error) if error else None
    low, high = other or (each.mean(), each.mean())
    assert (found.mean_low, found.mean_high) == pytest.approx((low, high), abs=1e-4, rel=1e-5)


@given(NUMBERS, st.floats(0, 1))
def test_quantiles_of_numbers_that_come_often(values: list[Decimal], share: float) -> None:
    some = counted((one, many) for many, one in enumerate(values, 1))
    every = [float(one) for many, one in enumerate(values, 1) for _ in range(many)]
    assert quantile(some, share) == pytest.approx(numpy.quantile(every, share), abs=1e-5)


def test_one_number_has_no_interval() -> None:
    assert mean_interval(3, 0, 1) is None


@given(NUMBERS)
def test_bins_hold_every_number_where_it_belongs(values: list[Decimal]) -> None:
    bins = number_bins(counted((one, 1) for one in values), "en")
    assert len(bins) <= MOST_BINS + 1
    assert [one.high for one in bins[:-1]] == pytest.approx([one.low for one in bins[1:]])
    *before, last = bins
    for one in before:
        assert one.count == sum(one.low <= value < one.high for value in map(float, values))
    assert last.count == sum(last.low <= value <= last.high for value in map(float, values))


@pytest.mark.parametrize(
    ("values", "labels"),
    [
        ("1 2 4", "1 2 3 4"),
        ("7", "7"),
        ("0.5", "0–1"),
        ("0 99", "0–10 10–20 20–30 30–40 40–50 50–60 60–70 70–80 80–90 90–100"),
        ("0.1 0.35", "0.1–0.12 0.12–0.14 0.14–0.16 0.16–0.18 0.18–0.2 0.2–0.22 0.22–0.24 "
         "0.24–0.26 0.26–0.28 0.28–0.3 0.3–0.32 0.32–0.34 0.34–0.36"),
        ("-5 20", "-6–-4 -4–-2 -2–0 0–2 2–4 4–6 6–8 8–10 10–12 12–14 14–16 16–18 18–20"),
    ],
)  # fmt: skip
def test_bins_are_those_that_a_person_would_choose(values: str, labels: str) -> None:
    """Common practice: 1, 2 or 5 times a power of ten, on multiples of it."""
    bins = number_bins(counted((Decimal(one), 1) for one in values.split()), "en")
    assert [one.label for one in bins] == labels.split()


@given(DAYS)
def test_days_are_all_in_their_bins(days: list[date]) -> None:
    bins = day_bins(Counter(days), "en")
    assert sum(one.count for one in bins) == len(days)
    assert len(bins) <= MOST + 1
    assert len({one.label for one in bins}) == len(bins)


@pytest.mark.parametrize(
    ("first", "last", "labels"),
    [
        ("2026-02-28", "2026-03-01", ["28 February 2026", "1 March 2026"]),
        ("2024-02-28", "2024-03-01", ["28 February 2024", "29 February 2024", "1 March 2024"]),
        ("2026-03-25", "2026-05-05", [f"{one}" for one in (
            "23 March 2026", "30 March 2026", "6 April 2026", "13 April 2026", "20 April 2026",
            "27 April 2026", "4 May 2026")]),
        ("1990-01-01", "1992-01-01", None),
        ("1990-01-01", "1999-12-31", ["1990", "1991", "1992", "1993", "1994", "1995", "1996",
                                      "1997", "1998", "1999"]),
    ],
)  # fmt: skip
def test_days_weeks_months_years(first: str, last: str, labels: list[str] | None) -> None:
    bins = day_bins({date.fromisoformat(first): 1, date.fromisoformat(last): 2}, "en")
    found = [one.label for one in bins]
    if labels is None:
        assert (found[0], found[-1], len(found)) == ("January 1990", "January 1992", 25)
        return
    assert found == labels
    assert (bins[0].count, bins[-1].count) == (1, 2)


def test_times_by_the_hour() -> None:
    bins = hour_bins({time(8, 5): 2, time(8, 59): 1, time(10, 0): 4})
    assert [(one.label, one.count) for one in bins] == [("08:00", 3), ("09:00", 0), ("10:00", 4)]
