"""Accepted submissions per second, against a bare endpoint on the same database and server."""

import asyncio
import shutil
import statistics
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from uuid import uuid4

from bench.support.figure import Figure
from bench.support.load import per_second, request
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.records.accounts import Account
from jotgate.demo.load import documents
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes, web_arguments
from jotgate.services.context import Context
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.services.staff.gate import gate
from jotgate.wiring import open_context

ROUNDS = 5
REQUESTS = 800
AT_ONCE = 16

BODY = {
    "edition": 1,
    "link": "district=saltings",
    "answers": {
        "name": "Ines Carvalho",
        "email": "ines.carvalho@example.org",
        "phone": "020 7946 0000",
        "source": "own",
        "uses": ["drinking", "washing"],
        "drinkers": "4",
        "wells": [{"well_name": "Yard well", "depth": "12.5"}],
        "tested": True,
        "tested_on": "2025-05-11",
        "taste": "4",
        "changes": "It has been a little brown after heavy rain.",
        "ill": True,
        "illness": "Two of us had a bad stomach for three days.",
        "when": "morning",
        "earliest": "09:00",
        "kit": "TW-1234-A",
    },
}


async def staged(installation: Installation) -> str:
    """The address of an open questionnaire of the demo scenario, in an empty context."""
    async with open_context(installation.settings) as context:
        person = await people.add(context, "a@example.org", "A", "coordinator", "x")
        return await opened(context, person, documents()["private_well_check"])


async def opened(context: Context, person: Account, document: Questionnaire) -> str:
    """The address of `document`, published and open."""
    id = await questionnaires.add(context, person, "", document)
    await questionnaires.publish(context, person, id, 1)
    await gate.save(context, person, id, Gate(state="open"), 1)
    return (await questionnaires.summary(context, person, id)).address


async def measured(ours: str, bare: str) -> list[tuple[float, float]]:
    """(ours, bare) of each round; the first, for warming up, is left out."""

    async def once(url: str) -> float:
        def make() -> bytes:
            return request(url, BODY, {"Idempotency-Key": str(uuid4())})

        return await per_second(url, make, REQUESTS, AT_ONCE, 201)

    return [(await once(ours), await once(bare)) for _ in range(ROUNDS + 1)][1:]


@contextmanager
def served(folder: Path) -> Iterator[tuple[str, str, str]]:
    """The addresses of our application and of the bare one, one process each on one database,
    and the public address of a questionnaire."""
    installation = open_installation(folder, free_port())
    environment: dict[str, Any] = installation.environment()
    environment["JOTGATE_PUBLIC_PER_MINUTE"] = "100000000"
    environment["JOTGATE_LOG_LEVEL"] = "warning"
    processes = Processes(environment, folder / "jotgate.log")
    bare_port = free_port()
    try:
        address = asyncio.run(staged(installation))
        port = installation.settings.port
        arguments = web_arguments(port)
        processes.start("application", arguments)
        swapped = [
            "bench.support.bare:web" if a == "jotgate.main:web" else a for a in arguments[:-1]
        ]
        processes.start("bare", [*swapped, f"--port={bare_port}"])
        processes.wait_for_web(f"http://127.0.0.1:{port}")
        time.sleep(2)
        yield f"http://127.0.0.1:{port}", f"http://127.0.0.1:{bare_port}", address
    finally:
        processes.stop()
        installation.stop()


def run(folder: Path) -> Iterator[Figure]:
    with served(folder) as (ours, bare, address):
        rounds = asyncio.run(measured(f"{ours}/api/public/{address}/entries", f"{bare}/entries"))
    mine, plain = (statistics.median(values) for values in zip(*rounds, strict=True))
    ratio = statistics.median(ours / bare for ours, bare in rounds)
    yield Figure("submit", "submissions accepted", mine, "1/s")
    yield Figure("submit", "bare inserts", plain, "1/s")
    yield Figure("submit", "share of the bare endpoint", ratio, "x", 0.6)


def in_a_folder(run: Callable[[Path], Iterator[Figure]]) -> Iterator[Figure]:
    """What `run` measures in a folder that is gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="jotgate-bench-", dir="/var/tmp"))
    folder.chmod(0o755)
    try:
        yield from run(folder)
    finally:
        shutil.rmtree(folder)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
