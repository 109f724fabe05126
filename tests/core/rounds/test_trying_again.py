"""When somebody is tried again."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st

from jotgate.core.gate.opening import spans
from jotgate.core.gate.times import DayOff, Hours, Times
from jotgate.core.rounds.trying_again import AHEAD, TryingAgain, next_try

EVENINGS = Times(hours=(Hours(days=(1, 2, 3, 4, 5), opens="16:00", shuts="20:00"),))
TUESDAY = datetime(2026, 11, 24, 15, 20, tzinfo=UTC)


def tried(*hours: int) -> list[datetime]:
    """On the days before, at these hours in UTC."""
    return [
        datetime(2026, 11, 23 - at, hour, 10, tzinfo=UTC) for at, hour in enumerate(reversed(hours))
    ]


def test_in_the_hours_of_whoever_is_rung() -> None:
    rule = TryingAgain(times=EVENINGS)
    assert next_try(rule, "UTC", [], TUESDAY) == TUESDAY.replace(hour=16, minute=0)
    there = next_try(rule, "America/New_York", [], TUESDAY)
    assert there == datetime(2026, 11, 24, 21, 0, tzinfo=UTC)
    late = TUESDAY.replace(hour=20)
    assert next_try(rule, "UTC", [], late) == datetime(2026, 11, 25, 16, 0, tzinfo=UTC)
    friday = datetime(2026, 11, 27, 20, 0, tzinfo=UTC)
    assert next_try(rule, "UTC", [], friday) == datetime(2026, 11, 30, 16, 0, tzinfo=UTC)


def test_not_on_a_day_off() -> None:
    times = EVENINGS.model_copy(update={"days_off": (DayOff(on=TUESDAY.date()),)})
    found = next_try(TryingAgain(times=times), "UTC", [], TUESDAY)
    assert found == datetime(2026, 11, 25, 16, 0, tzinfo=UTC)


def test_at_another_hour_than_before() -> None:
    rule = TryingAgain(times=EVENINGS)
    assert next_try(rule, "UTC", tried(16), TUESDAY) == TUESDAY.replace(hour=17, minute=0)
    assert next_try(rule, "UTC", tried(16, 17), TUESDAY) == TUESDAY.replace(hour=18, minute=0)
    again = TryingAgain(times=EVENINGS, other_hours=False)
    assert next_try(again, "UTC", tried(16), TUESDAY) == TUESDAY.replace(hour=16, minute=0)


def test_once_every_hour_was_tried_any_will_do() -> None:
    rule = TryingAgain(times=EVENINGS, most=9)
    found = next_try(rule, "UTC", tried(16, 17, 18, 19), TUESDAY)
    assert found == TUESDAY.replace(hour=16, minute=0)


def test_not_too_soon_and_not_too_often() -> None:
    rule = TryingAgain(times=EVENINGS, most=3, apart=26)
    last = datetime(2026, 11, 24, 17, 0, tzinfo=UTC)
    now = last + timedelta(minutes=5)
    assert next_try(rule, "UTC", [last], now) == datetime(2026, 11, 25, 19, 0, tzinfo=UTC)
    assert next_try(rule, "UTC", tried(16, 17, 18), TUESDAY) is None


def test_where_it_is_never_open_nobody_is_rung() -> None:
    off = tuple(DayOff(on=TUESDAY.date() + timedelta(days=at)) for at in range(-1, 40))
    rule = TryingAgain(times=EVENINGS.model_copy(update={"days_off": off}))
    assert next_try(rule, "UTC", [], TUESDAY) is None


ZONES = st.sampled_from(
    ["UTC", "Europe/Paris", "Asia/Kolkata", "Australia/Lord_Howe", "America/St_Johns"]
)
MOMENTS = st.datetimes(datetime(2026, 1, 1), datetime(2027, 12, 31), timezones=st.just(UTC))
CLOCKS = st.builds("{:02}:{:02}".format, st.integers(0, 23), st.sampled_from([0, 15, 30]))
RULES = st.builds(
    TryingAgain,
    most=st.integers(1, 6),
    apart=st.integers(0, 72),
    other_hours=st.booleans(),
    times=st.builds(
        lambda days, opens, shuts: Times(
            hours=(Hours(days=tuple(sorted(days)), opens=opens, shuts=shuts),)
        ),
        st.sets(st.integers(1, 7), min_size=1),
        CLOCKS,
        CLOCKS,
    ),
)


@settings(max_examples=40)
@given(RULES, ZONES, st.lists(MOMENTS, max_size=6), MOMENTS)
def test_whatever_the_rule(
    rule: TryingAgain, zone: str, before: list[datetime], now: datetime
) -> None:
    found = next_try(rule, zone, before, now)
    if found is None:
        assert len(before) >= rule.most
        return
    earliest = max([now, *(one + timedelta(hours=rule.apart) for one in before)])
    assert found >= earliest
    open_then = spans(rule.times, zone, earliest, earliest + AHEAD)
    assert any(opens <= found < shuts for opens, shuts in open_then)
    at = ZoneInfo(zone)
    used = {one.astimezone(at).hour for one in before}
    if rule.other_hours and found.astimezone(at).hour in used:
        every = {
            (opens + timedelta(minutes=minute)).astimezone(at).hour
            for opens, shuts in open_then
            for minute in range(0, int((shuts - opens).total_seconds() // 60), 15)
        }
        assert every <= used
