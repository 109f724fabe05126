"""When a letter goes out."""

from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.dispatch.acts import Quiet
from jotgate.core.dispatch.due import LONGEST_PAUSE, TRIES, due, pause_after

NIGHT = Quiet(start=time(21), end=time(7))
NOON = Quiet(start=time(12), end=time(14))


def at(day: int, hour: int, minute: int = 0) -> datetime:
    return datetime(2026, 11, day, hour, minute, tzinfo=UTC)


@pytest.mark.parametrize(
    ("now", "gathered", "quiet", "zone", "wanted"),
    [
        (at(25, 12), "at_once", None, "UTC", at(25, 12)),
        (at(25, 12), "at_once", NOON, "UTC", at(25, 14)),
        (at(25, 14), "at_once", NOON, "UTC", at(25, 14)),
        (at(25, 22), "at_once", NIGHT, "UTC", at(26, 7)),
        (at(25, 3), "at_once", NIGHT, "UTC", at(25, 7)),
        (at(25, 7), "at_once", NIGHT, "UTC", at(25, 7)),
        (at(25, 20), "at_once", NIGHT, "Europe/Madrid", at(26, 6)),
        (at(25, 12, 1), "hourly", None, "UTC", at(25, 13)),
        (at(25, 20, 30), "hourly", NIGHT, "UTC", at(26, 7)),
        (at(25, 6), "daily", None, "UTC", at(25, 7)),
        (at(25, 7), "daily", None, "UTC", at(26, 7)),
        (at(25, 1), "daily", None, "Asia/Kolkata", at(25, 1, 30)),
        (at(25, 12), "at_once", Quiet(start=time(9), end=time(9)), "UTC", at(25, 12)),
    ],
)
def test_when(
    now: datetime, gathered: str, quiet: Quiet | None, zone: str, wanted: datetime
) -> None:
    assert due(now, gathered, quiet, zone) == wanted  # type: ignore[arg-type]


_CLOCK = st.times().map(lambda one: one.replace(second=0, microsecond=0, tzinfo=None))


@given(
    st.datetimes(datetime(2026, 1, 1), datetime(2027, 12, 31), timezones=st.just(UTC)),
    st.sampled_from(["at_once", "hourly", "daily"]),
    st.none() | st.builds(Quiet, start=_CLOCK, end=_CLOCK),
    st.sampled_from(["UTC", "Europe/Madrid", "Australia/Lord_Howe", "America/New_York"]),
)
def test_it_is_never_before_now_nor_in_quiet_hours_and_within_two_days(
    now: datetime, gathered: str, quiet: Quiet | None, zone: str
) -> None:
    found = due(now, gathered, quiet, zone)  # type: ignore[arg-type]
    assert now <= found <= now + timedelta(days=2, hours=2)
    if quiet is not None and quiet.start != quiet.end:
        clock = found.astimezone(ZoneInfo(zone)).time()
        moved = clock != quiet.end
        over = quiet.end < quiet.start
        inside = (
            (clock >= quiet.start or clock < quiet.end)
            if over
            else quiet.start <= clock < quiet.end
        )
        assert not (inside and moved) or _is_skipped(found, zone, quiet.end)


def _is_skipped(found: datetime, zone: str, end: time) -> bool:
    """Whether the end of the quiet hours is no time of that day, since clocks went forward."""
    local = found.astimezone(ZoneInfo(zone))
    naive = datetime.combine(local.date(), end)
    back = naive.replace(tzinfo=ZoneInfo(zone)).astimezone(UTC).astimezone(ZoneInfo(zone))
    return back.replace(tzinfo=None) != naive


def test_pauses_grow_and_end() -> None:
    pauses = [pause_after(tries) for tries in range(1, TRIES)]
    assert pauses == sorted(pauses)
    assert pauses[0] == timedelta(seconds=4)
    assert pause_after(500) == LONGEST_PAUSE
    assert sum(pauses, timedelta()) > timedelta(hours=1)
