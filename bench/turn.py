"""Pages turned, and answering pages opened, against a bare endpoint of the same size.

The bare one reads the same JSON, makes one SELECT through SQLAlchemy and returns the same reply
through Pydantic.
"""

import asyncio
import statistics
import time
from collections.abc import Iterator
from pathlib import Path

import httpx

from bench.submit import BODY, in_a_folder, served
from bench.support.figure import Figure
from bench.support.load import get, per_second, request

ROUNDS = 5
REQUESTS = 1_000
AT_ONCE = 16
TURN = {**BODY, "move": "onward", "at": "start"}


def run(folder: Path) -> Iterator[Figure]:
    with served(folder) as (ours, bare, address):
        turned, opened = f"{ours}/api/public/{address}/page", f"{ours}/q/{address}"
        reply = httpx.post(turned, json=TURN).raise_for_status()
        page = httpx.get(opened).raise_for_status()
        httpx.put(f"{bare}/replies/page", json=reply.json()).raise_for_status()
        httpx.put(f"{bare}/replies/html", json={"html": page.text}).raise_for_status()
        pairs = {
            "pages turned": (request(turned, TURN, {}), request(f"{bare}/page", TURN, {})),
            "answering pages opened": (get(opened), get(f"{bare}/html")),
        }
        time.sleep(1)
        for name, (mine, plain) in pairs.items():
            yield from measured(name, (ours, mine), (bare, plain))


def measured(name: str, mine: tuple[str, bytes], plain: tuple[str, bytes]) -> Iterator[Figure]:
    async def rounds() -> list[tuple[float, float]]:
        async def once(to: tuple[str, bytes]) -> float:
            return await per_second(to[0], lambda: to[1], REQUESTS, AT_ONCE)

        return [(await once(mine), await once(plain)) for _ in range(ROUNDS + 1)][1:]

    found = asyncio.run(rounds())
    ours, bare = (statistics.median(values) for values in zip(*found, strict=True))
    ratio = statistics.median(one / other for one, other in found)
    yield Figure("turn", name, ours, "1/s")
    yield Figure("turn", f"{name}, bare", bare, "1/s")
    yield Figure("turn", f"{name}, share of the bare endpoint", ratio, "x", 0.5)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
