"""What a gate costs: places and limits per person, and a database whose commits are slow."""

import asyncio
import statistics
from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any
from uuid import uuid4

import psycopg

from bench.submit import BODY, in_a_folder, opened
from bench.support.figure import Figure
from bench.support.load import per_second, request
from jotgate.core.gate.settings import Gate
from jotgate.demo.load import documents
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes, web_arguments
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.gate import gate
from jotgate.wiring import open_context

ROUNDS = 20
REQUESTS = 120
"""One after the other: what a submission takes, not what waits for it."""

DELAYS = ((5_000, 16, 0.9), (20_000, 64, 0.8))
"""Microseconds that each commit takes longer, requests at once, and the share of what there is
without that."""

PLACES: dict[str, Any] = {
    "state": "open",
    "places": [
        {"key": "all", "name": "All", "most": 1_000_000},
        {"key": "source", "name": "By source", "by": ["source"], "most": 1_000_000},
        {"key": "both", "name": "By both", "by": ["source", "uses"], "most": 1_000_000},
    ],
    "per_person": {"most": 5, "days": 7, "pause": 0},
}


async def staged(installation: Installation) -> list[str]:
    """The addresses of two questionnaires: with an open gate, and with places and limits."""
    async with open_context(installation.settings) as context:
        person = await people.add(context, "a@example.org", "A", "coordinator", "x")
        document = documents()["private_well_check"]
        found = [await opened(context, person, document) for _ in range(2)]
        lines = {line.summary.address: line.summary.id for line in await desk.desk(context, person)}
        limited = Gate.model_validate(PLACES)
        await gate.save(context, person, lines[found[1]], limited, 2)
    return found


def made(url: str) -> bytes:
    """Somebody sends an entry, each time from another device."""
    body = {**BODY, "device": uuid4().hex}
    return request(url, body, {"Idempotency-Key": str(uuid4())})


async def pace(url: str, requests: int, at_once: int) -> float:
    return await per_second(url, lambda: made(url), requests, at_once, 201)


async def compared(plain: str, limited: str) -> float:
    """How much longer a submission takes with places and limits per person."""
    ratios = []
    for _ in range(ROUNDS + 1):
        without = await pace(plain, REQUESTS, 1)
        ratios.append(without / await pace(limited, REQUESTS, 1))
    return statistics.median(ratios[1:])


@asynccontextmanager
async def slowed(url: str, microseconds: int) -> AsyncIterator[None]:
    """Every commit takes so much longer, as on a disk in the network."""
    settings = {"commit_delay": microseconds, "commit_siblings": 0}
    connection = await psycopg.AsyncConnection.connect(url, autocommit=True)
    try:
        for name, value in settings.items():
            await connection.execute(f"alter system set {name} = {value}")
        await connection.execute("select pg_reload_conf()")
        await asyncio.sleep(0.5)
        yield
    finally:
        for name in settings:
            await connection.execute(f"alter system reset {name}")
        await connection.execute("select pg_reload_conf()")
        await connection.close()
        await asyncio.sleep(0.5)


async def measured(installation: Installation, addresses: list[str]) -> list[Figure]:
    base = installation.settings.public_url
    plain, limited = (f"{base}/api/public/{one}/entries" for one in addresses)
    found = []
    ratio = await compared(plain, limited)
    told = "a submission with places and limits per person, to one without"
    found.append(Figure("gate", told, ratio, "x", 1.1, least=False))
    owner = installation.settings.migrations_url.replace("+psycopg", "")
    for microseconds, at_once, bar in DELAYS:
        shares = []
        for _ in range(4):
            quick = await pace(plain, 800, at_once)
            async with slowed(owner, microseconds):
                shares.append(await pace(plain, 800, at_once) / quick)
        told = f"share left with commits {microseconds // 1000} ms slower, {at_once} at once"
        found.append(Figure("gate", told, statistics.median(shares[1:]), "x", bar))
    return found


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    environment: dict[str, Any] = installation.environment()
    environment["JOTGATE_PUBLIC_PER_MINUTE"] = "100000000"
    environment["JOTGATE_LOG_LEVEL"] = "warning"
    processes = Processes(environment, folder / "jotgate.log")
    try:
        addresses = asyncio.run(staged(installation))
        processes.start("application", web_arguments(installation.settings.port))
        processes.wait_for_web(installation.settings.public_url)
        yield from asyncio.run(measured(installation, addresses))
    finally:
        processes.stop()
        installation.stop()


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
