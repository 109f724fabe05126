"""Reading the entries of a view as variables, and writing them as files."""

import asyncio
from collections.abc import AsyncIterator, Mapping
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING
from uuid import UUID

from jotgate.core.common.errors import Invalid, Unavailable
from jotgate.core.entries.table import TableColumn
from jotgate.core.records.accounts import Account
from jotgate.core.statistics.codebook import Codebook, DataFormat, DescribedTable
from jotgate.core.statistics.describing import described
from jotgate.core.statistics.tables import (
    ENTRIES,
    LineVariables,
    StatisticsTables,
    statistics_tables,
)
from jotgate.core.statistics.variables import Variable
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_export import Exporting, Looked, each, look
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.store.entry_table.columns import left_empty, said_in
from jotgate.store.entry_table.reading import LINES

if TYPE_CHECKING:
    from jotgate.services.staff.statistics.files import Waiting, Written

MOST_CELLS = 4_000_000
"""Rows times variables that .sav and .dta are written of: they are made whole in memory."""

TOO_MUCH = "That takes too long, or too much memory. Filter the entries, or take CSV or Parquet."


@dataclass(frozen=True)
class Prepared:
    """The codebook of what is in the files, and the files by name, if any were wanted."""

    codebook: Codebook
    files: Mapping[str, Path]


@asynccontextmanager
async def prepared(
    context: Context,
    account: Account,
    id: UUID,
    asked: Asked,
    language: str,
    format: DataFormat | None,
) -> AsyncIterator[Prepared]:
    """What a view shows of entries, with labels in a `language` of the questionnaire, or in its
    first. The files are there until the end. Raises NotFound, NotAllowed, Invalid, Unavailable."""
    found = await look(context, account, id, Exporting(asked))
    tables = statistics_tables(found.look.table, found.known.plans, language)
    if language and language not in found.look.table.languages:
        raise Invalid(f"{language} is none of the questionnaire's languages.")
    with TemporaryDirectory() as folder:
        made = await _prepared(context, found, tables, Path(folder), format)
        yield made


async def _prepared(
    context: Context,
    found: Looked,
    tables: StatisticsTables,
    folder: Path,
    format: DataFormat | None,
) -> Prepared:
    from jotgate.services.staff.statistics.files import written

    cells = found.count * len(tables.variables)
    if format in ("sav", "dta") and cells > MOST_CELLS:
        message = f"These are {cells:,} values, and such a file is made of {MOST_CELLS:,} at most."
        raise Invalid(f"{message} Filter the entries, or take CSV or Parquet.")
    waiting = _waiting(tables, folder, str(found.look.today.zone))
    await _read(context, found, tables, waiting)
    files, done = {}, {}
    for name, table in waiting.items():
        out = folder / f"{name}.{format}"
        try:
            done[name] = await context.writing.run(written, table, format, str(out))
        except TookTooLong:
            raise Unavailable(TOO_MUCH) from None
        if format is not None:
            files[out.name] = out
    return Prepared(_codebook(context, found, tables, waiting, done), files)


def _waiting(tables: StatisticsTables, folder: Path, zone: str) -> dict[str, "Waiting"]:
    """The tables by the name of their files."""
    from jotgate.services.staff.statistics.files import Waiting

    each_table: list[tuple[str, tuple[Variable, ...], str]]
    each_table = [(ENTRIES, tables.variables, tables.title)]
    each_table += [(_name(one), one.variables, one.title) for one in tables.lines]
    found = {}
    for name, variables, title in each_table:
        own = folder / f"waiting-{name}"
        own.mkdir()
        found[name] = Waiting(str(own), variables, zone, title)
    return found


def _name(table: LineVariables) -> str:
    return f"{table.key}_lines" if table.key == ENTRIES else table.key


async def _read(
    context: Context, found: Looked, tables: StatisticsTables, waiting: Mapping[str, "Waiting"]
) -> None:
    """Entries are read once, and wait in files."""
    from jotgate.services.staff.statistics.frames import Frames

    frames = Frames(tables)
    folders = [Path(one.folder) for one in waiting.values()]
    columns: list[TableColumn] = [one.column for one in tables.sources]
    said = [*said_in(found.look, columns), left_empty()]
    piece = 0
    async for entries, lines in each(context, found.look, said, LINES, frames.made):
        for folder, frame in zip(folders, [entries, *lines], strict=True):
            path = folder / f"{piece:06}.arrow"
            await asyncio.to_thread(frame.write_ipc, path, compression="lz4")
        piece += 1


def _codebook(
    context: Context,
    found: Looked,
    tables: StatisticsTables,
    waiting: Mapping[str, "Waiting"],
    done: Mapping[str, "Written"],
) -> Codebook:
    plans = found.known.plans
    book = [
        DescribedTable(
            name,
            waiting[name].title,
            one.rows,
            tuple(described(plans, one.variables, one.counted, found.look.table.columns)),
        )
        for name, one in done.items()
    ]
    now = context.clock.now().astimezone(found.look.today.zone)
    return Codebook(tables.title, tables.language, tuple(sorted(plans)), now, tuple(book))
