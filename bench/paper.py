"""Letters on paper: 2,000 of a round in one PDF, as the worker prints them, and the memory that it
takes: all of the processes that print, and what the worker has more than before it began."""

import asyncio
import os
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from bench.outreach import Office
from bench.submit import in_a_folder, opened
from bench.support.figure import Figure
from jotgate.core.contacts.fields import ContactField
from jotgate.demo.load import documents
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.services import doing
from jotgate.services.rounds import going
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import fields
from jotgate.services.staff.rounds import paper
from jotgate.wiring import open_context

LETTERS = 2_000
SECONDS, MEMORY = 60.0, 300.0
PAGE = os.sysconf("SC_PAGE_SIZE")


def _resident(pid: str) -> int:
    with suppress(FileNotFoundError, ProcessLookupError):
        if "postgres" in Path(f"/proc/{pid}/comm").read_text():
            return 0
        return int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * PAGE
    return 0


class _Most:
    """Megabytes that this process has grown by, and those it started have, at most together."""

    def __init__(self) -> None:
        self.value, self._going, self._before = 0.0, True, _resident("self")

    def look(self) -> None:
        while self._going:
            tasks = Path("/proc/self/task").glob("*/children")
            children = {pid for one in tasks for pid in one.read_text().split()}
            found = sum(map(_resident, children)) + _resident("self") - self._before
            self.value = max(self.value, found / 1e6)
            time.sleep(0.1)

    def end(self) -> None:
        self._going = False


@contextmanager
def _watched() -> Iterator[_Most]:
    most = _Most()
    thread = threading.Thread(target=most.look)
    thread.start()
    try:
        yield most
    finally:
        most.end()
        thread.join()


async def _printed(installation: Installation) -> tuple[float, float]:
    """Seconds for all of them, and megabytes."""
    async with open_context(installation.settings) as context:
        owner = await people.add(context, "a@example.org", "A", "coordinator", "x")
        await opened(context, owner, documents()["private_well_check"])
        for key in ("street", "postcode"):
            await fields.add(context, owner, ContactField(key=key, label=key.title()))
        (only,) = await desk.desk(context, owner)
        office = Office(context, owner, only.summary.id)
        took = []
        for count in (40, LETTERS):
            round_id = await office.released(f"Paper{count}", count, 1, "paper")
            assert await going.go_due(context)
            found = await office.ran("select id from mailings order by made desc limit 1")
            at = (owner, only.summary.id, round_id)
            work = await paper.ask(context, *at, found.scalar_one())
            with _watched() as most:
                began = time.perf_counter()
                await doing.do(context, work.id)
                took.append((time.perf_counter() - began, most.value))
            made = await office.ran("select sum(letters) from prints")
            assert made.scalar_one() >= count
    return took[-1][0], most.value


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    try:
        took, memory = asyncio.run(_printed(installation))
    finally:
        installation.stop()
    yield Figure("paper", "2,000 letters in one PDF", took, "s", SECONDS, False)
    yield Figure("paper", "memory of all that print them", memory, "MB", MEMORY, False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
