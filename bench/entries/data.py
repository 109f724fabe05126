"""A million entries as data for statistics programs, against Polars writing the same frame."""

import asyncio
import io
import multiprocessing
import os
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any
from uuid import UUID

import polars as pl
import psycopg

from bench.support.chromium import served
from bench.support.entry_data import EMAIL, ITEMS, staged
from bench.support.figure import Figure
from jotgate.local.installation import Installation
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.statistics import exporting
from jotgate.settings import Settings, for_libpq
from jotgate.store.accounts import accounts
from jotgate.wiring import open_context

NUMBERS = ("number", "scale", "computed")


async def _prepared(installation: Installation) -> tuple[Installation, UUID]:
    return installation, await staged(installation)


def _bare(settings: Settings, id: UUID, out: Path) -> None:
    """The same answers as PostgreSQL copies them, read and written as one frame with numbers and
    days in their types."""
    columns = ", ".join(f"answers ->> '{one['key']}' as \"{one['key']}\"" for one in ITEMS)
    query = (
        f"copy (select number, edition, arrived, {columns}, left_empty from entries"
        f" where questionnaire_id = '{id}' order by number desc) to stdout with csv header"
    )
    whole = io.BytesIO()
    with (
        psycopg.connect(for_libpq(settings.migrations_url or settings.database_url)) as connection,
        connection.cursor().copy(query) as copy,
    ):
        for some in copy:
            whole.write(some)
    frame = pl.read_csv(whole.getvalue(), infer_schema=False)
    typed = [
        pl.col(one["key"]).cast(pl.Float64) if one["kind"] in NUMBERS else pl.col(one["key"])
        for one in ITEMS
    ]
    frame.with_columns(typed).write_parquet(out)


def _peaks() -> float:
    """Megabytes that this process and those it has started had at most, together."""
    found = 0
    for own in (os.getpid(), *_children(os.getpid())):
        lines = Path(f"/proc/{own}/status").read_text().splitlines()
        found += sum(int(one.split()[1]) for one in lines if one.startswith("VmHWM:"))
    return found / 1024


def _children(pid: int) -> list[int]:
    tasks = Path(f"/proc/{pid}/task").glob("*/children")
    each = [int(one) for task in tasks for one in task.read_text().split()]
    return [*each, *(further for one in each for further in _children(one))]


async def _measured(settings: Settings, id: UUID) -> dict[str, float]:
    found: dict[str, float] = {}
    async with open_context(settings) as context:
        async with context.engine.connect() as conn:
            person = await accounts.by_email(conn, EMAIL, context.clock.now())
        assert person is not None
        for format in ("parquet", "csv"):
            started = time.perf_counter()
            _, pieces = await exporting.data(context, person[0], id, Asked(), "", format)
            found[f"{format} size"] = sum([len(one) async for one in pieces])
            found[format] = time.perf_counter() - started
        found["memory"] = _peaks()
    return found


def _alone(environment: dict[str, str], id: UUID) -> dict[str, float]:
    os.environ.update(environment)
    return asyncio.run(_measured(Settings(), id))


def _bare_alone(environment: dict[str, str], id: UUID, folder: str) -> float:
    os.environ.update(environment)
    started = time.perf_counter()
    _bare(Settings(), id, Path(folder) / "bare.parquet")
    return time.perf_counter() - started


def _in_a_process(work: Any, *given: object) -> Any:
    with ProcessPoolExecutor(1, multiprocessing.get_context("spawn")) as pool:
        return pool.submit(work, *given).result()


def figures() -> Iterator[Figure]:
    with served(_prepared) as (_, (installation, id)), tempfile.TemporaryDirectory() as folder:
        found = _in_a_process(_alone, installation.environment(), id)
        bare = _in_a_process(_bare_alone, installation.environment(), id, folder)
        assert found["parquet size"] > 5_000_000
        for format in ("parquet", "csv"):
            yield Figure("data", f"{format} with its codebook", found[format], "s")
        name = "Parquet, to Polars writing the same frame"
        yield Figure("data", name, found["parquet"] / bare, "times", 1.5, least=False)
        yield Figure(
            "data", "memory, with the process that writes", found["memory"], "MB", 200, least=False
        )
