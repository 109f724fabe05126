"""What every request passes: limits of size and pace, headers, an answer to every failure, one
log line."""

import re
import time
from collections.abc import Iterable, MutableMapping, Sequence
from typing import Any

import structlog
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from jotgate.api.clients import Network, client_of
from jotgate.api.problems import Problem, answer
from jotgate.services.public.rate_limit import RateLimiter

log = structlog.get_logger("request")

LARGEST_BODY = 2_000_000
"""Bytes of a request body."""

LARGEST_FILE = 31_000_000
"""Bytes of the body that brings a picture, a video or a table."""

STRANGERS = (
    "/api/public/",
    "/q/",
    "/l/",
    "/p/",
    "/s/",
    "/out/",
    "/in/",
    "/figures/",
    "/c",
    "/sign-in/",
    "/api/sign-in",
    "/api/link",
    "/api/reset",
)
"""Where nobody has to be signed in: the pace of each client is limited."""

FILES = re.compile(r"/api/(questionnaires/[^/]+/(media|links/tables)|contact-tables)")

TRANSPORT = (b"strict-transport-security", b"max-age=31536000; includeSubDomains")
"""Sent where people reach us over HTTPS (RFC 6797)."""

NO_STORE = (b"cache-control", b"no-store")
"""Nothing is kept by caches, on the way or in a browser, unless its route says so (RFC 9111)."""

HEADERS = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"cross-origin-resource-policy", b"same-origin"),
]

FAILED = Problem(
    status=500,
    code="failed",
    detail="Something went wrong on our side. It has been noted; try again.",
)


class TooLarge(HTTPException):
    """The body is over the limit; raised from under whoever reads it."""

    def __init__(self, most: int) -> None:
        super().__init__(413, f"The request is larger than {most} bytes.")


class Middleware:
    """ASGI middleware around the whole application."""

    def __init__(
        self, app: ASGIApp, limiter: RateLimiter, proxies: Sequence[Network], over_https: bool
    ) -> None:
        self._app = app
        self._limiter = limiter
        self._proxies = proxies
        self._headers = [*HEADERS, NO_STORE, *([TRANSPORT] if over_https else [])]

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        started = time.perf_counter()
        status = 0
        scope["client_address"] = client_of(scope, self._proxies)

        async def send_on(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                message["headers"] = self._with_ours(message["headers"])
            await send(message)

        try:
            most = LARGEST_FILE if FILES.fullmatch(scope["path"]) else LARGEST_BODY
            await self._enter(scope, _limited(receive, most), send_on)
        except Exception as error:
            log.exception("failed", route=_route(scope), kind=type(error).__name__)
            if status:
                raise
            await answer(FAILED)(scope, receive, send_on)
        finally:
            log.info(
                "request",
                method=scope["method"],
                route=_route(scope),
                status=status,
                ms=round((time.perf_counter() - started) * 1000, 1),
            )

    def _with_ours(self, given: Iterable[tuple[bytes, bytes]]) -> list[tuple[bytes, bytes]]:
        headers = list(given)
        known = {name.lower() for name, _ in headers}
        return headers + [one for one in self._headers if one[0] not in known]

    async def _enter(self, scope: Scope, receive: Receive, send: Send) -> None:
        if "\0" in scope["path"] or b"%00" in scope.get("query_string", b"").lower():
            detail = "The address has the character NUL in it."
            await answer(Problem(status=400, code="http", detail=detail))(scope, receive, send)
            return
        if scope["path"].startswith(STRANGERS) and not self._limiter.allows(
            scope["client_address"], time.time()
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
