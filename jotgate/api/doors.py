"""What every request passes: a size limit, a rate limit for the public, headers, one log line."""

import re
import time
from collections import OrderedDict
from collections.abc import MutableMapping
from typing import Any

import structlog
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from jotgate.api.problems import Problem, answer

log = structlog.get_logger("request")

LARGEST_BODY = 2_000_000
"""Bytes of a request body."""

LARGEST_MEDIUM = 31_000_000
"""Bytes of the body that brings a picture or a video."""

MEDIA = re.compile(r"/api/questionnaires/[^/]+/media")

HEADERS = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"cross-origin-resource-policy", b"same-origin"),
]

VISITORS_KEPT = 20_000


class TooLarge(HTTPException):
    """The body is over the limit; raised from under whoever reads it."""

    def __init__(self, most: int) -> None:
        super().__init__(413, f"The request is larger than {most} bytes.")


class Pace:
    """A token bucket for each client: `burst` requests at once, then `per_minute`."""

    def __init__(self, per_minute: int, burst: int) -> None:
        self._rate = per_minute / 60
        self._burst = burst
        self._buckets: OrderedDict[str, tuple[float, float]] = OrderedDict()

    def allows(self, client: str, now: float) -> bool:
        """Take one token of `client` at `now` (seconds of any steady clock), if there is one."""
        left, since = self._buckets.pop(client, (float(self._burst), now))
        left = min(self._burst, left + (now - since) * self._rate)
        allowed = left >= 1
        self._buckets[client] = (left - 1 if allowed else left, now)
        if len(self._buckets) > VISITORS_KEPT:
            self._buckets.popitem(last=False)
        return allowed


class Doors:
    """ASGI middleware around the whole application."""

    def __init__(self, app: ASGIApp, public_pace: Pace) -> None:
        self._app = app
        self._pace = public_pace

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        started = time.perf_counter()
        status = 500

        async def send_on(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                message["headers"] = [*message["headers"], *HEADERS]
            await send(message)

        try:
            most = LARGEST_MEDIUM if MEDIA.fullmatch(scope["path"]) else LARGEST_BODY
            await self._enter(scope, _limited(receive, most), send_on)
        finally:
            log.info(
                "request",
                method=scope["method"],
                route=_route(scope),
                status=status,
                ms=round((time.perf_counter() - started) * 1000, 1),
            )

    async def _enter(self, scope: Scope, receive: Receive, send: Send) -> None:
        client = scope.get("client")
        if scope["path"].startswith(("/api/public/", "/q/")) and not self._pace.allows(
            client[0] if client else "", time.monotonic()
        ):
            detail = "Too many requests. Wait a moment, then try again."
            problem = Problem(status=429, code="too_many_tries", detail=detail)
            await answer(problem, {"Retry-After": "5"})(scope, receive, send)
            return
        await self._app(scope, receive, send)


def _route(scope: MutableMapping[str, Any]) -> str:
    """The route's pattern, never the path itself: paths and queries can hold answers."""
    return getattr(scope.get("route"), "path", "none")


def _limited(receive: Receive, most: int) -> Receive:
    """`receive`, ending with TooLarge once the body is over the limit."""
    seen = 0

    async def counted() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        if seen > most:
            raise TooLarge(most)
        return message

    return counted
