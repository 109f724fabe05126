"""Opening times against the tz database, read the one way that is never in doubt: from moments to
what the clock on the wall shows then (Python's zoneinfo)."""

from datetime import UTC, date, datetime, timedelta
from functools import cache
from itertools import pairwise
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jotgate.core.gate.opening import instant, opening_at, spans
from jotgate.core.gate.times import DayOff, Hours, Times, Window

CHANGES = [
    ("America/New_York", date(2026, 3, 8)),
    ("America/New_York", date(2026, 11, 1)),
    ("Europe/Berlin", date(2027, 3, 28)),
    ("Europe/Berlin", date(2026, 10, 25)),
    ("Australia/Lord_Howe", date(2026, 4, 5)),
    ("Australia/Lord_Howe", date(2026, 10, 4)),
    ("Pacific/Apia", date(2011, 12, 30)),
    ("Pacific/Apia", date(2011, 9, 24)),
]
"""Both changes of the clock, one zone with half an hour, one that skipped a day (tz database)."""

MINUTE = timedelta(minutes=1)


@cache
def shown(zone: str, around: date) -> list[tuple[datetime, datetime]]:
    """Each minute of five days, with what the clock shows then."""
    start = datetime(around.year, around.month, around.day, tzinfo=UTC) - timedelta(
        days=2, hours=12
    )
    at = ZoneInfo(zone)
    moments = [start + n * MINUTE for n in range(5 * 24 * 60)]
    return [(one, one.astimezone(at).replace(tzinfo=None)) for one in moments]


@cache
def first(zone: str, around: date, local: datetime) -> datetime:
    return next(moment for moment, clock in shown(zone, around) if clock >= local)


@cache
def last(zone: str, around: date, local: datetime) -> datetime:
    """The last moment at which the clock shows `local`, or is set forward over it."""
    there = [moment for moment, clock in shown(zone, around) if clock == local]
    if there:
        return there[-1]
    return [moment for moment, clock in shown(zone, around) if clock < local][-1] + MINUTE


@pytest.mark.parametrize(("zone", "day"), CHANGES)
def test_every_local_time_around_a_change_of_the_clocks(zone: str, day: date) -> None:
    midnight = datetime(day.year, day.month, day.day)
    for quarter in range(-24, 24 * 4 + 24):
        local = midnight + timedelta(minutes=15 * quarter)
        assert instant(local, ZoneInfo(zone), False) == first(zone, day, local)
        assert instant(local, ZoneInfo(zone), True) == last(zone, day, local)


def test_the_changes_are_such() -> None:
    """That the cases above have gaps, times that come twice, half an hour and a day left out."""
    gaps = set()
    for zone, day in CHANGES:
        clocks = [clock for _, clock in shown(zone, day)]
        gaps |= {after - before for before, after in pairwise(clocks)}
    hour = timedelta(hours=1)
    wanted = {hour, -hour, hour / 2, -hour / 2, timedelta(days=1)}
    assert gaps == {MINUTE, *(one + MINUTE for one in wanted)}


times_of_day = st.builds(
    lambda hours, quarters: f"{hours:02}:{quarters * 15:02}", st.integers(0, 23), st.integers(0, 3)
)
hours = st.builds(
    Hours,
    days=st.sets(st.integers(1, 7), min_size=1).map(lambda found: tuple(sorted(found))),
    opens=times_of_day,
    shuts=times_of_day,
)


def by_the_clock(zone: str, around: date, one: Hours, moment: datetime) -> bool:
    """Whether hours that begin on some day hold at a moment, by looking at every minute."""
    for back in range(-3, 4):
        day = around + timedelta(days=back)
        if day.isoweekday() not in one.days:
            continue
        opens = datetime.fromisoformat(f"{day}T{one.opens}")
        shuts = datetime.fromisoformat(f"{day}T{one.shuts}")
        shuts += timedelta(days=1) if one.shuts <= one.opens else timedelta()
        seen = shown(zone, around)
        if not any(clock < opens for _, clock in seen) or not any(c >= shuts for _, c in seen):
            continue
        if first(zone, around, opens) <= moment < last(zone, around, shuts):
            return True
    return False


@pytest.mark.parametrize(("zone", "day"), CHANGES)
@settings(max_examples=5)
@given(weekly=st.lists(hours, min_size=1, max_size=2), off=st.booleans())
def test_weekly_hours_minute_by_minute(
    zone: str, day: date, weekly: list[Hours], off: bool
) -> None:
    times = Times(hours=tuple(weekly), days_off=(DayOff(on=day),) if off else ())
    seen = shown(zone, day)
    start, end = seen[24 * 60][0], seen[4 * 24 * 60][0]
    found = spans(times, zone, start, end)
    for moment, clock in seen[24 * 60 : 4 * 24 * 60 : 15]:
        inside = any(opens <= moment < shuts for opens, shuts in found)
        wanted = any(by_the_clock(zone, day, one, moment) for one in weekly)
        assert inside == (wanted and not (off and clock.date() == day)), moment


moments = st.datetimes(datetime(2026, 1, 1), datetime(2027, 12, 31)).map(
    lambda one: one.replace(second=0, microsecond=0)
)


@st.composite
def windows(draw: st.DrawFn) -> Window:
    opens, shuts = sorted(draw(st.lists(moments, min_size=2, max_size=2, unique=True)))
    kind = draw(st.sampled_from(("both", "opens", "shuts")))
    return Window(
        opens=None if kind == "shuts" else opens.isoformat(timespec="minutes"),
        shuts=None if kind == "opens" else shuts.isoformat(timespec="minutes"),
    )


whole_times = st.builds(
    Times,
    windows=st.lists(windows(), max_size=3).map(tuple),
    hours=st.lists(hours, max_size=2).map(tuple),
    days_off=st.lists(
        st.dates(date(2026, 1, 1), date(2027, 12, 31)).map(lambda one: DayOff(on=one)), max_size=4
    ).map(tuple),
)


@settings(max_examples=150, deadline=None)
@given(times=whole_times, moment=moments.map(lambda one: one.replace(tzinfo=UTC)), data=st.data())
def test_nothing_changes_between_two_known_moments(
    times: Times, moment: datetime, data: st.DataObject
) -> None:
    zone = data.draw(st.sampled_from(["Europe/Berlin", "America/New_York", "Australia/Lord_Howe"]))
    found = opening_at(times, zone, moment)
    low = max(found.since or moment - timedelta(days=5), moment - timedelta(days=5))
    high = min(found.until or moment + timedelta(days=5), moment + timedelta(days=5))
    assert low <= moment < high
    within = data.draw(st.integers(0, int((high - low).total_seconds()) - 1))
    assert opening_at(times, zone, low + timedelta(seconds=within)).open == found.open
    if found.until is not None:
        assert opening_at(times, zone, found.until).open != found.open
    if found.since is not None:
        assert opening_at(times, zone, found.since - timedelta(seconds=1)).open != found.open


def test_a_window_far_ahead_is_found() -> None:
    times = Times(windows=(Window(opens="2031-05-01T09:00", shuts="2031-06-01T09:00"),))
    found = opening_at(times, "UTC", datetime(2026, 1, 1, tzinfo=UTC))
    assert (found.open, found.until) == (False, datetime(2031, 5, 1, 9, tzinfo=UTC))
    over = opening_at(times, "UTC", datetime(2032, 1, 1, tzinfo=UTC))
    assert (over.open, over.until) == (False, None)


@pytest.mark.parametrize(
    "wrong",
    [
        {"windows": [{"opens": "2026-05-01T09:00", "shuts": "2026-05-01T09:00"}]},
        {"windows": [{}]},
        {"windows": [{"opens": "2026-13-01T09:00"}]},
        {"windows": [{"opens": "2026-05-01T09:00+02:00"}]},
        {"hours": [{"days": [8], "opens": "09:00", "shuts": "10:00"}]},
        {"hours": [{"days": [1], "opens": "25:00", "shuts": "10:00"}]},
    ],
)
def test_times_that_do_not_exist_are_refused(wrong: dict[str, object]) -> None:
    with pytest.raises(ValueError):
        Times.model_validate(wrong)
