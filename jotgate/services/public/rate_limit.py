"""How many requests one client may make: decided in each process at once, shared among them all."""

from collections import OrderedDict, defaultdict

from jotgate.services.context import Context
from jotgate.store import rate_limits

CLIENTS_KEPT = 20_000


class RateLimiter:
    """For each client `burst` requests at once, then `per_minute`.

    The generic cell rate algorithm (ITU-T I.371): every request moves the moment up to which a
    client has used up its pace; who is too far ahead of the clock waits. Moments are in seconds
    since 1970.
    """

    def __init__(self, per_minute: int, burst: int) -> None:
        self._each = 60 / per_minute
        self._burst_seconds = burst * self._each
        self._until: OrderedDict[str, float] = OrderedDict()
        self._used: dict[str, float] = defaultdict(float)

    def allows(self, client: str, now: float) -> bool:
        """Whether `client` may make one more request; if so it has."""
        until = max(self._until.pop(client, now), now)
        allowed = until - now + self._each <= self._burst_seconds + 1e-9
        if allowed:
            until += self._each
            self._used[client] += self._each
        self._until[client] = until
        if len(self._until) > CLIENTS_KEPT:
            self._until.popitem(last=False)
        return allowed

    def take_used(self) -> dict[str, float]:
        """Seconds of its pace that each client used up here since this was asked last."""
        used, self._used = dict(self._used), defaultdict(float)
        return used

    def learn(self, until: dict[str, float]) -> None:
        """Take up what clients have used up by now, here and elsewhere."""
        for client, moment in until.items():
            self._until[client] = moment + self._used.get(client, 0.0)


async def share(context: Context, limiter: RateLimiter) -> None:
    """Tell the other processes what was used up here, and learn what was there."""
    used = limiter.take_used()
    if used:
        async with context.engine.begin() as conn:
            limiter.learn(await rate_limits.take(conn, used, context.clock.now().timestamp()))


async def forget_old(context: Context) -> None:
    async with context.engine.begin() as conn:
        await rate_limits.forget(conn, context.clock.now().timestamp())
