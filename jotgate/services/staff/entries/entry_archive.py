"""The entries that a view shows as one ZIP: a table, one more for each roster and grid, and the
files that came with them, if they are wanted."""

import asyncio
import re
import tempfile
from collections.abc import AsyncIterator, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import IO, Any
from uuid import UUID

import orjson

from jotgate.core.common.errors import Erased, NotFound, Sealed
from jotgate.core.common.values import FileFacts, Value
from jotgate.core.entries.display import Reader, files_in
from jotgate.core.entries.table import TableColumn, held_by
from jotgate.core.formats.line_tables import LineTable, has_lines, line_table
from jotgate.core.formats.table import MARK, Cell, field_lines, lines
from jotgate.core.items import Item, inside
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.entries.entries import download
from jotgate.services.staff.entries.entry_cells import Said, asked, from_text
from jotgate.services.staff.entries.entry_export import (
    Exporting,
    Looked,
    cells_of,
    each_said,
    look,
)
from jotgate.services.zips import Member, zipped

PIECE = 256 * 1024
_FILES = ("files", "drawing")
FILES_HEAD = ("No.", "Question", "File", "Type", "Bytes", "Stands under")


@dataclass(frozen=True)
class Archive:
    title: str
    pieces: AsyncIterator[bytes]


async def archive(
    context: Context, account: Account, id: UUID, wanted: Exporting, files: bool
) -> Archive:
    """Raises as `entry_export.export` does."""
    found = await look(context, account, id, wanted)
    made = _Archive(context, found, wanted.codes, files)
    return Archive(found.title, zipped(made.members(), context.clock.now()))


def _may_have_files(column: TableColumn) -> bool:
    return any(held_by(one) in _FILES for one in (column.item, *inside(column.item)))


def _csv(rows: Iterable[Sequence[Cell]]) -> bytes:
    return lines(rows).encode()


class _Archive:
    """Entries are read once: what belongs to later members waits in files of its own."""

    def __init__(self, context: Context, found: Looked, codes: bool, files: bool) -> None:
        self._context, self._found, self._codes, self._files = context, found, codes, files
        plain = [one for one in found.shown if not has_lines(one)]
        several = [one for one in found.shown if has_lines(one)]
        self._columns = [*several, *plain]
        self._cells = cells_of(found, plain, as_text=True)
        self._readers = {number: Reader(plan) for number, plan in found.known.plans.items()}
        language = found.look.table.language
        self._tables = [line_table(one, language, codes) for one in several]
        self._head = found.head(plain)
        self._newest = self._readers[max(self._readers)].plan

    async def members(self) -> AsyncIterator[Member]:
        with tempfile.TemporaryFile() as came:
            aside = [tempfile.TemporaryFile() for _ in self._tables]  # noqa: SIM115
            try:
                yield "entries.csv", self._entries(aside, came)
                for table, kept in zip(self._tables, aside, strict=True):
                    yield f"{table.key}.csv", _with_head(table.head, kept)
            finally:
                for kept in aside:
                    kept.close()
            if self._files:
                with tempfile.TemporaryFile() as told:
                    async for member in self._came(came, told):
                        yield member
                    yield "files.csv", _with_head(FILES_HEAD, told)

    async def _entries(self, aside: Sequence[IO[bytes]], came: IO[bytes]) -> AsyncIterator[bytes]:
        yield MARK + _csv([self._head])

        def write(entries: Sequence[Said]) -> bytes:
            for one in entries:
                self._set_aside(one, aside, came)
            plain = 2 + len(self._tables)
            rows = self._cells.rows([(*one[:2], *one[plain:]) for one in entries])
            return field_lines(rows).encode()

        async for some in each_said(self._context, self._found, self._columns, write):
            yield some

    def _set_aside(self, entry: Said, aside: Sequence[IO[bytes]], came: IO[bytes]) -> None:
        number, edition, *said = entry
        reader = self._readers[edition]
        for at, (column, raw) in enumerate(zip(self._columns, said, strict=True)):
            wanted = at < len(aside) or (self._files and _may_have_files(column))
            item = asked(column, reader.plan, self._newest) if wanted and raw is not None else None
            if item is None:
                continue
            value = from_text(item, raw)
            if at < len(aside):
                aside[at].write(_csv(self._rows(self._tables[at], number, item, value, reader)))
            for one in files_in(value) if self._files else ():
                came.write(orjson.dumps([number, column.key, vars(one)]) + b"\n")

    def _rows(
        self, table: LineTable, number: int, item: Item, value: Value, reader: Reader
    ) -> Iterator[list[Cell]]:
        return table.rows(number, item, value, reader, self._codes, self._cells.cell)

    async def _came(self, came: IO[bytes], told: IO[bytes]) -> AsyncIterator[Member]:
        """The files that are there still; all that came are told of, with where each stands."""
        came.seek(0)
        taken: set[str] = set()
        for line in came:
            number, key, facts = orjson.loads(line)
            file = FileFacts(**facts)
            try:
                data = (await download(self._context, file, small=False)).data
                under = _place(number, key, file, taken)
                yield under, _pieces(data)
            except (NotFound, Erased, Sealed):
                under = "It is gone"
            row: list[Any] = [str(number), key, file.name, file.type, str(file.size), under]
            await asyncio.to_thread(told.write, _csv([row]))


def _place(number: int, key: str, file: FileFacts, taken: set[str]) -> str:
    """Where a file stands in the ZIP: under its own name, as far as that is safe everywhere."""
    safe = re.sub(r'[\x00-\x1f\x7f<>:"/\\|?*]', "_", file.name).strip(". ")[-100:] or "file"
    place, again = f"files/{number:04}/{key}/{safe}", 1
    while place.casefold() in taken:
        again += 1
        place = f"files/{number:04}/{key}/{again}-{safe}"
    taken.add(place.casefold())
    return place


async def _pieces(data: bytes) -> AsyncIterator[bytes]:
    for at in range(0, len(data), PIECE):
        yield data[at : at + PIECE]


async def _with_head(head: Sequence[str], kept: IO[bytes]) -> AsyncIterator[bytes]:
    yield MARK + _csv([head])
    kept.seek(0)
    while some := await asyncio.to_thread(kept.read, PIECE):
        yield some
