"""The pace of public requests, in one process and over several."""

from jotgate.services.house import House
from jotgate.services.pacing import Pace, forget_old, share
from tests.conftest import Clock


def test_pace_is_for_each_client() -> None:
    pace = Pace(per_minute=60, burst=3)
    assert [pace.allows("a", 0) for _ in range(4)] == [True, True, True, False]
    assert pace.allows("b", 0)
    assert not pace.allows("a", 0.9)
    assert pace.allows("a", 1)
    assert [pace.allows("a", 100) for _ in range(4)] == [True, True, True, False]


async def test_several_processes_share_one_pace(house: House, clock: Clock) -> None:
    now = clock.now().timestamp()
    here, there = Pace(60, 10), Pace(60, 10)
    assert all(here.allows("a", now) for _ in range(6))
    assert all(there.allows("a", now) for _ in range(2))
    for pace in (here, there, here):
        await share(house, pace)
        assert pace.allows("b", now)
    assert [there.allows("a", now) for _ in range(4)] == [True, True, False, False]
    await share(house, there)
    assert here.allows("a", now)
    await share(house, here)
    assert not here.allows("a", now)
    assert there.allows("a", now + 2)
    await forget_old(house)
