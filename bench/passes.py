"""Passes: 10,000 made from a file, against a bare bulk insert of the same rows; the memory that it
takes; and a whole visit by a pass, against one by the plain address."""

import asyncio
import json
import re
import resource
import statistics
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

import httpx
from sqlalchemy import insert, text

from bench.submit import BODY, in_a_folder, opened
from bench.support.figure import Figure
from jotgate.core.formats.table import write
from jotgate.core.records.accounts import Account
from jotgate.demo.load import documents
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes, web_arguments
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.links import batches, named_links, passes
from jotgate.services.staff.links.passes import NewPasses
from jotgate.store.links.passes import passes as table
from jotgate.wiring import open_context

PASSES = 10_000
ROUNDS = 3
VISITS, WARMING = 200, 30
EVERY = ("Household", "District", "Well")
FIRST = re.compile(r'id="first"[^>]*>(.*?)</script>', re.S)
AT_MOST, VISIT_AT_MOST, MEMORY = 3.0, 1.10, 40.0


def _rows(count: int) -> bytes:
    rows = [(f"H-{n}", ("Saltings", "Millbeck")[n % 2], f"TW-{n}") for n in range(count)]
    return write(EVERY, rows).encode()


async def _make(
    context: Context, owner: Account, id: UUID, count: int, used: tuple[str, ...] = EVERY
) -> float:
    """Seconds that the worker takes for so many passes, which bring what `used` columns have."""
    brought, columns = await passes.take_table(context, owner, id, "t.csv", _rows(count))
    columns = {at: name for at, name in columns.items() if brought.columns[at] in used}
    wanted = NewPasses("Bench", brought.id, columns, (), None, None)
    work = await passes.ask(context, owner, id, wanted)
    began = time.perf_counter()
    await doing.do(context, work.id)
    took = time.perf_counter() - began
    found = await passes.progress(context, owner, id, work.id)
    assert (found.state, found.result["passes"]) == ("done", count)
    return took


async def _bare(context: Context) -> float:
    """Seconds of a bulk insert of the same rows, as SQLAlchemy makes it."""
    async with context.engine.begin() as conn:
        found = (await conn.execute(table.select())).mappings().all()
        rows = [dict(row) for row in found[:PASSES]]
        assert len(rows) == PASSES
        await conn.execute(text("delete from passes"))
        began = time.perf_counter()
        await conn.execute(insert(table), rows)
        return time.perf_counter() - began


async def _visit(client: httpx.AsyncClient, path: str, address: str) -> float:
    """Seconds of a whole visit: the first page, two turns, the submission."""
    began = time.perf_counter()
    page = await client.get(path)
    (first,) = FIRST.findall(page.text)
    body = {**BODY, "link": "", "arrival": json.loads(first).get("arrival", "")}
    for at in ("household", "water"):
        turn = {**body, "move": "onward", "at": at}
        assert (await client.post(f"/api/public/{address}/page", json=turn)).status_code == 200
    sent = await client.post(
        f"/api/public/{address}/entries", json=body, headers={"Idempotency-Key": uuid4().hex}
    )
    assert sent.status_code == 201
    return time.perf_counter() - began


async def _secrets(context: Context, owner: Account, id: UUID) -> list[str]:
    """The secrets of the newest batch."""
    (batch, *_) = (await named_links.ways(context, owner, id)).batches
    links = await batches.with_links(context, owner, id, batch.id)
    return [row[-1].rpartition("/")[2] async for chunk in links.rows for row in chunk]


async def _visits(base: str, address: str, secrets: list[str]) -> tuple[float, float]:
    """Median seconds of a visit without a pass, and with one, in turns."""
    times: tuple[list[float], list[float]] = ([], [])
    async with httpx.AsyncClient(base_url=base, timeout=30) as client:
        for number, secret in enumerate(secrets):
            ways = [(0, f"/q/{address}"), (1, f"/p/{address}/{secret}")]
            for at, path in ways[:: 1 if number % 2 else -1]:
                took = await _visit(client, path, address)
                if number >= WARMING:
                    times[at].append(took)
    return statistics.median(times[0]), statistics.median(times[1])


def _resident() -> float:
    """Megabytes that the process has had at most."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000


async def _made(installation: Installation) -> tuple[dict[str, float], str, list[str]]:
    """What making them takes; an address, and the secrets of passes for visits to it."""
    async with open_context(installation.settings) as context:
        owner = await people.add(context, "a@example.org", "A", "coordinator", "x")
        address = await opened(context, owner, documents()["private_well_check"])
        (only,) = await desk.desk(context, owner)
        id = only.summary.id
        await _make(context, owner, id, 200)
        took = [await _make(context, owner, id, PASSES) for _ in range(ROUNDS)]
        before = _resident()
        await _make(context, owner, id, 5 * PASSES)
        grown = _resident() - before
        bare = statistics.median([await _bare(context) for _ in range(ROUNDS)])
        await _make(context, owner, id, VISITS + WARMING, ("District",))
        secrets = await _secrets(context, owner, id)
    return {"made": statistics.median(took), "bare": bare, "grown": grown}, address, secrets


def _visited(installation: Installation, address: str, secrets: list[str]) -> tuple[float, float]:
    """Seconds of visits to one process of the application."""
    environment: dict[str, Any] = installation.environment()
    environment["JOTGATE_PUBLIC_PER_MINUTE"] = "100000000"
    environment["JOTGATE_LOG_LEVEL"] = "warning"
    processes = Processes(environment, installation.folder / "jotgate.log")
    base = f"http://127.0.0.1:{installation.settings.port}"
    try:
        processes.start("application", web_arguments(installation.settings.port))
        processes.wait_for_web(base)
        time.sleep(2)
        return asyncio.run(_visits(base, address, secrets))
    finally:
        processes.stop()


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port(), safe=False)
    try:
        found, address, secrets = asyncio.run(_made(installation))
        plain, by_pass = _visited(installation, address, secrets)
    finally:
        installation.stop()
    made = found["made"] / found["bare"]
    yield Figure("passes", "10,000 passes of a file", found["made"] * 1000, "ms")
    yield Figure("passes", "a bare bulk insert of the same rows", found["bare"] * 1000, "ms")
    yield Figure("passes", "the first against the second", made, "x", AT_MOST, False)
    yield Figure(
        "passes", "memory more for five times as many", found["grown"], "MB", MEMORY, False
    )
    yield Figure("passes", "a visit", plain * 1000, "ms")
    ratio = by_pass / plain
    yield Figure("passes", "a visit by a pass against that", ratio, "x", VISIT_AT_MOST, False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
