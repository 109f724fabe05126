"""Bodies of JSON, read strictly: what cannot be stored is refused here, once for every route."""

import json
import re
from collections.abc import Callable, Coroutine
from itertools import accumulate
from typing import Any

import orjson
from fastapi import Request, Response
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException

LARGEST_INTEGER = 2**63 - 1
"""The largest whole number that is taken (64 bits, signed)."""

DEEPEST = 64
"""Lists and objects inside each other."""

_NO_BRACKETS = bytes(set(range(256)) - set(b"[]{}"))
_NUL = re.compile(rb"(?<!\\)(?:\\\\)*\\u0000")
_DIGITS = bytes.maketrans(b"123456789", b"0" * 9)
_LONG_DIGITS = b"0" * 19


class UnreadableBody(HTTPException):
    def __init__(self, why: str) -> None:
        super().__init__(422, why)


def read_json(body: bytes) -> Any:
    """What `body` says in JSON (RFC 8259). Raises UnreadableBody.

    Texts with the character NUL, which PostgreSQL does not store, and whole numbers of over 64
    bits are refused.
    """
    try:
        found = orjson.loads(body)
    except orjson.JSONDecodeError as error:
        raise UnreadableBody(f"The body is not JSON: line {error.lineno}.") from None
    if b"\\u0000" in body and _NUL.search(body):
        raise UnreadableBody("The body has the character NUL in a text.")
    if _opened(body) > DEEPEST and _depth(body) > DEEPEST and _depth_of(found) > DEEPEST:
        raise UnreadableBody(f"The body has over {DEEPEST} levels inside each other.")
    if _LONG_DIGITS in body.translate(_DIGITS):
        json.loads(body, parse_int=_fitting)
    return found


def _opened(body: bytes) -> int:
    return body.count(b"[") + body.count(b"{")


def _depth(body: bytes) -> int:
    """How deep brackets stand inside each other, those in texts included: no less than it is."""
    steps = (1 if one in b"[{" else -1 for one in body.translate(None, _NO_BRACKETS))
    return max(accumulate(steps), default=0)


def _depth_of(part: Any) -> int:
    deepest, left = 0, [(part, 1)]
    while left:
        one, depth = left.pop()
        if isinstance(one, dict | list):
            deepest = max(deepest, depth)
            inner = one.values() if isinstance(one, dict) else one
            left += [(inside, depth + 1) for inside in inner]
    return deepest


def _fitting(digits: str) -> int:
    if len(digits) > 20 or abs(int(digits)) > LARGEST_INTEGER:
        raise UnreadableBody("The body has a whole number of over 64 bits.")
    return int(digits)


class StrictRequest(Request):
    async def json(self) -> Any:
        return read_json(await self.body())


class StrictRoute(APIRoute):
    """A route whose body of JSON is read by `read_json`."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def strictly(request: Request) -> Response:
            return await handle(StrictRequest(request.scope, request.receive))

        return strictly
