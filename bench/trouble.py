"""Two thousand entries sent and dispatched while the application, the worker and PostgreSQL are
killed and a third of all letters and calls fail: how many rows, letters, calls and statuses are
lost or doubled."""

import asyncio
from collections.abc import Iterator
from pathlib import Path
from random import Random

from bench.submit import in_a_folder
from bench.support.figure import Figure
from jotgate.local.cluster import free_port
from jotgate.local.installation import open_installation
from jotgate.local.processes import Processes
from tests.local.troubled import Trouble, staged

ENTRIES, KILLS = 2_000, 40


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    environment = {**installation.environment(), "JOTGATE_PUBLIC_PER_MINUTE": "1000000"}
    processes = Processes(environment, folder / "jotgate.log")
    address = asyncio.run(staged(installation))
    found = Trouble(installation, processes, Random(16), ENTRIES, KILLS).through(address, 900)
    sent = (found.letters, *found.calls)
    counts = (found.entries, *found.rows, found.statuses, *found.listed, *sent)
    wrong = sum(abs(one - ENTRIES) for one in counts)
    yield Figure("trouble", "letters and calls that were tried again", found.troubled, "runs")
    yield Figure("trouble", "lost or doubled", wrong, "things", 0, least=False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
