"""Entries as files: CSV of all against `COPY`, and the memory that XLSX of many takes."""

import asyncio
import json
import multiprocessing
import os
import time
from collections.abc import Iterator
from http.client import HTTPConnection
from pathlib import Path
from urllib.parse import quote, urlsplit
from uuid import UUID

import psycopg

from bench.support.entry_data import EMAIL, ITEMS
from bench.support.figure import Figure
from jotgate.core.entries.facts import NAMES
from jotgate.core.entries.table import FACTS, FIRST_FACTS, NUMBER
from jotgate.core.table_views import TableView
from jotgate.local.installation import Installation
from jotgate.services.staff.entries import entry_export
from jotgate.services.staff.entries.entry_export import Exporting
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.tables.workbooks import workbook
from jotgate.settings import Settings, for_libpq
from jotgate.store.accounts import accounts
from jotgate.wiring import open_context

SHEET = 100_000
PIECE = 1 << 16
LEFT_OUT = (*FIRST_FACTS[2:], *(set(NAMES) | set(FACTS)) - set(FIRST_FACTS) - {NUMBER})
"""Columns of facts that are not beside the answers in the statement that is compared with."""


def csv_to_copy(installation: Installation, base: str, id: UUID, secret: str) -> Figure:
    """Both with the number, when it arrived, the status and the answers."""
    view = quote(json.dumps({"columns": [{"column": one, "away": True} for one in LEFT_OUT]}))
    started = time.perf_counter()
    size = _sent(base, f"/api/questionnaires/{id}/entries-export?format=csv&view={view}", secret)
    ours = time.perf_counter() - started
    assert size > 100_000_000
    started = time.perf_counter()
    _copied(installation.settings, id)
    bare = time.perf_counter() - started
    return Figure("entries", "CSV of all, to COPY", ours / bare, "times", 2, least=False)


def _sent(base: str, path: str, secret: str) -> int:
    parts, size = urlsplit(base), 0
    connection = HTTPConnection(parts.hostname or "", parts.port)
    connection.request("GET", path, headers={"Authorization": f"Bearer {secret}"})
    reply = connection.getresponse()
    assert reply.status == 200
    while some := reply.read(PIECE):
        size += len(some)
    return size


def _copied(settings: Settings, id: UUID) -> None:
    """The same columns by PostgreSQL alone, as they are stored."""
    keys = ", ".join(f"answers ->> '{one['key']}'" for one in ITEMS)
    query = (
        f"copy (select number, arrived, status, {keys} from entries"
        f" where questionnaire_id = '{id}' order by number desc) to stdout with csv"
    )
    with (
        psycopg.connect(for_libpq(settings.migrations_url or settings.database_url)) as connection,
        connection.cursor().copy(query) as copy,
    ):
        for _ in copy:
            pass


def xlsx_memory(installation: Installation, id: UUID) -> Iterator[Figure]:
    """Megabytes that a process has at most meanwhile, which does nothing else."""
    context = multiprocessing.get_context("spawn")
    with context.Pool(1) as pool:
        before, after = pool.apply(_exported, (installation.environment(), id))
    yield Figure("entries", f"memory with XLSX of {SHEET:,}", after, "MB", 200, least=False)
    yield Figure(
        "entries", f"memory with XLSX of {SHEET:,}, more than of 500", after - before, "MB"
    )


def _exported(environment: dict[str, str], id: UUID) -> tuple[float, float]:
    os.environ.update(environment)
    return asyncio.run(_workbooks(Settings(), id))


async def _workbooks(settings: Settings, id: UUID) -> tuple[float, float]:
    found = []
    async with open_context(settings) as context:
        async with context.engine.connect() as conn:
            person = await accounts.by_email(conn, EMAIL, context.clock.now())
        assert person is not None
        for count in (500, SHEET):
            view = {"filter": {"op": "at_most", "item": "entry.number", "value": str(count)}}
            asked = Asked(TableView.model_validate(view))
            Path("/proc/self/clear_refs").write_text("5")  # The peak begins anew (Linux, proc(5)).
            out = await entry_export.export(context, person[0], id, Exporting(asked))
            async for _ in workbook("x", out.head, out.rows):
                pass
            found.append(_peak())
    return found[0], found[1]


def _peak() -> float:
    """Megabytes that this process had at most since the peak began anew."""
    lines = Path("/proc/self/status").read_text().splitlines()
    (kilobytes,) = [one.split()[1] for one in lines if one.startswith("VmHWM:")]
    return int(kilobytes) / 1024
