"""Opening the desk with a questionnaire of a million entries."""

import asyncio
import statistics
import time
from collections.abc import Iterator
from pathlib import Path
from uuid import UUID

from sqlalchemy import text

from bench.submit import in_a_folder, staged
from bench.support.figure import Figure
from bench.support.machine import timed
from jotgate.core.records.accounts import Account
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.services.staff import desk
from jotgate.store.base import connect
from jotgate.wiring import open_context

ENTRIES = 1_000_000
DAYS = 60
ROUNDS = 50
BAR = 20

FILL = """
insert into entries (questionnaire_id, id, edition, number, arrived, finish, answers, flags,
                     idempotency_key)
select questionnaire_id, gen_random_uuid(), 1, n, now() - (n % :days) * interval '1 day', 'end',
       jsonb_build_object('name', 'Ines ' || n, 'source', 'own'), '{}', n::text
from tallies, generate_series(1, :entries) as n
"""
TALLY = """
update tallies set entries = :entries, days = (
  select jsonb_object_agg(day, count) from (
    select to_char(arrived at time zone 'UTC', 'YYYY-MM-DD') as day, count(*)
    from entries group by 1
  ) as counted
)
"""


NOBODY = Account(UUID(int=0), "a@example.org", "A", "owner")


async def _measured(installation: Installation) -> list[float]:
    """Milliseconds of each opening."""
    await staged(installation)
    async with open_context(installation.settings) as context:
        async with context.engine.begin() as conn:
            await conn.execute(text(FILL), {"entries": ENTRIES, "days": DAYS})
            await conn.execute(text(TALLY), {"entries": ENTRIES})
        owner = connect(installation.settings.migrations_url, 1, statementwise=True)
        async with owner.connect() as conn:
            await conn.execute(text("vacuum analyze"))
        await owner.dispose()
        times = []
        for _ in range(ROUNDS):
            started = time.perf_counter()
            (line,) = await desk.desk(context, NOBODY)
            times.append((time.perf_counter() - started) * 1000)
            assert line.summary.entries == ENTRIES
            assert sum(line.arrivals) > ENTRIES * 13 / DAYS
    return times


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port(), safe=False)
    try:
        times = asyncio.run(_measured(installation))
    finally:
        installation.stop()
    median = statistics.median(times)
    yield from timed("desk", "opening it with a million entries, median", median, BAR)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
