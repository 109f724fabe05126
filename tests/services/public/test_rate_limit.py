"""How many requests one client may make, in one process and over several."""

from jotgate.services.context import Context
from jotgate.services.public.rate_limit import RateLimiter, forget_old, share
from tests.conftest import Clock


def test_pace_is_for_each_client() -> None:
    limiter = RateLimiter(per_minute=60, burst=3)
    assert [limiter.allows("a", 0) for _ in range(4)] == [True, True, True, False]
    assert limiter.allows("b", 0)
    assert not limiter.allows("a", 0.9)
    assert limiter.allows("a", 1)
    assert [limiter.allows("a", 100) for _ in range(4)] == [True, True, True, False]


async def test_several_processes_share_one_pace(context: Context, clock: Clock) -> None:
    now = clock.now().timestamp()
    here, there = RateLimiter(60, 10), RateLimiter(60, 10)
    assert all(here.allows("a", now) for _ in range(6))
    assert all(there.allows("a", now) for _ in range(2))
    for limiter in (here, there, here):
        await share(context, limiter)
        assert limiter.allows("b", now)
    assert [there.allows("a", now) for _ in range(4)] == [True, True, False, False]
    await share(context, there)
    assert here.allows("a", now)
    await share(context, here)
    assert not here.allows("a", now)
    assert there.allows("a", now + 2)
    await forget_old(context)
