"""When steps go: in their order, never early, never out of hours."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.gate.opening import opening_at
from jotgate.core.gate.times import Hours, Times
from jotgate.core.rounds.round import Round, Step
from jotgate.core.rounds.schedule import planned, sound_zone

RELEASED = datetime(2026, 11, 2, 9, tzinfo=UTC)
OFFICE = Times(hours=(Hours(days=(1, 2, 3, 4, 5), opens="09:00", shuts="17:00"),))
HOUR = timedelta(hours=1)


def step(number: int, **more: object) -> Step:
    return Step.model_validate({"key": f"step{number}", "name": "S", "way": "mail", **more})


def moments(round: Round, zone: str = "UTC", **more: object) -> list[datetime | None]:
    found = planned(round, zone, {1: RELEASED}, more.get("begun", {}))  # type: ignore[arg-type]
    return [one.moment for one in found]


def test_steps_follow_each_other_at_their_distance() -> None:
    round = Round(name="R", steps=(step(1, after=0), step(2, after=24), step(3, after=48)))
    assert moments(round) == [RELEASED, RELEASED + 24 * HOUR, RELEASED + 72 * HOUR]
    late = {(1, "step1"): RELEASED + 10 * HOUR}
    assert moments(round, begun=late) == [RELEASED + 34 * HOUR, RELEASED + 82 * HOUR]


def test_a_moment_is_one_of_the_time_zone_and_not_before_the_step_before() -> None:
    steps = (step(1, at="2026-11-03T10:00"), step(2, at="2026-11-02T10:00"))
    first, second = moments(Round(name="R", steps=steps), "Asia/Kathmandu")
    assert first == datetime(2026, 11, 3, 10, tzinfo=ZoneInfo("Asia/Kathmandu"))
    assert second == first


def test_what_is_held_holds_what_follows() -> None:
    round = Round(name="R", steps=(step(1, after=0), step(2, held=True), step(3)))
    assert moments(round) == [RELEASED, None, None]
    found = planned(round, "UTC", {1: RELEASED}, {}, frozenset({"step1"}))
    assert [one.moment for one in found] == [None, None, None]


def test_portions_go_by_their_own_release() -> None:
    round = Round(name="R", steps=(step(1, after=0), step(2, after=24)))
    later = RELEASED + 100 * HOUR
    found = planned(round, "UTC", {2: later, 1: RELEASED}, {(1, "step1"): RELEASED})
    assert [(one.portion, one.step.key, one.moment) for one in found] == [
        (1, "step2", RELEASED + 24 * HOUR),
        (2, "step1", later),
        (2, "step2", later + 24 * HOUR),
    ]


@given(
    st.lists(st.integers(0, 400), min_size=1, max_size=6),
    st.integers(0, 24 * 14),
    st.sampled_from(["UTC", "America/St_Johns", "Pacific/Apia", "Europe/Madrid"]),
)
def test_in_office_hours_and_in_order(after: list[int], release: int, zone: str) -> None:
    steps = tuple(step(n, after=hours) for n, hours in enumerate(after, 1))
    released = RELEASED + release * HOUR
    found = planned(Round(name="R", steps=steps, hours=OFFICE), zone, {1: released}, {})
    before = released
    for one, hours in zip(found, after, strict=True):
        assert one.moment is not None
        assert one.moment >= before + timedelta(hours=hours)
        assert opening_at(OFFICE, zone, one.moment).open
        before = one.moment


def test_zones_that_are_none_are_not_taken() -> None:
    assert sound_zone("Europe/Madrid", "UTC") == "Europe/Madrid"
    for wrong in ("", "Nowhere", "../etc/passwd", "x" * 500, "Europe", "a\x00b"):
        assert sound_zone(wrong, "UTC") == "UTC"
