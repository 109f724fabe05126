"""The entries that a view shows as one ZIP: a table, one more for each roster and grid, and the
files that came with them, if they are wanted."""

import asyncio
import re
import tempfile
from collections.abc import AsyncIterator, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import IO, TYPE_CHECKING, Any
from uuid import UUID

import orjson

from jotgate.core.common.errors import Erased, NotFound, Sealed
from jotgate.core.common.values import FileFacts, Value
from jotgate.core.entries.display import files_in
from jotgate.core.entries.table import TableColumn, held_by
from jotgate.core.formats.line_tables import LineTable, has_lines, line_table
from jotgate.core.formats.table import MARK, Cell, lines
from jotgate.core.items import Item, inside
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.entries.entries import download
from jotgate.services.staff.entries.entry_export import (
    Exporting,
    Looked,
    cells_of,
    each_frame,
    look,
)
from jotgate.services.tables.pieces import PIECE, pieces_of
from jotgate.services.tables.zips import Member, zipped

if TYPE_CHECKING:
    import polars as pl

    from jotgate.services.staff.entries.entry_csv import EntryCsv

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


def _csv(rows: Iterable[Sequence[Cell]]) -> bytes:
    return lines(rows).encode()


class _Archive:
    """Entries are read once: what belongs to later members waits in files of its own."""

    def __init__(self, context: Context, found: Looked, codes: bool, files: bool) -> None:
        self._context, self._found, self._codes, self._files = context, found, codes, files
        plain = [one for one in found.shown if not has_lines(one)]
        several = [one for one in found.shown if has_lines(one)]
        self._cells = cells_of(found, [*several, *plain])
        language = found.look.table.language
        self._tables = [line_table(one, language, codes) for one in several]
        self._head = found.head(plain)
        self._looked_through = [
            at
            for at, one in enumerate(self._cells.shown)
            if has_lines(one) or (files and self._may_have_files(one))
        ]

    def _may_have_files(self, column: TableColumn) -> bool:
        """In whatever edition."""
        asked = (self._cells.item(column, edition) for edition in self._cells.readers)
        every = (each for one in asked if one for each in (one, *inside(one)))
        return any(held_by(one) in _FILES for one in every)

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

        def write(written: "EntryCsv", frame: "pl.DataFrame") -> bytes:
            for number, edition, *said in written.rows(frame, self._looked_through):
                for at, one in zip(self._looked_through, said, strict=True):
                    if one is not None:
                        self._set_aside(number, int(edition), at, one, aside, came)
            return written.csv(frame, first=len(self._tables))

        async for some in each_frame(self._context, self._found, self._cells, write):
            yield some

    def _set_aside(
        self,
        number: str,
        edition: int,
        at: int,
        said: str,
        aside: Sequence[IO[bytes]],
        came: IO[bytes],
    ) -> None:
        column = self._cells.shown[at]
        item = self._cells.item(column, edition)
        value = self._cells.value(column, edition, said)
        if item is None or value is None:
            return
        if at < len(aside) and edition not in column.other:
            aside[at].write(_csv(self._rows(self._tables[at], number, item, value, edition)))
        for one in files_in(value) if self._files else ():
            came.write(orjson.dumps([int(number), column.key, vars(one)]) + b"\n")

    def _rows(
        self, table: LineTable, number: str, item: Item, value: Value, edition: int
    ) -> Iterator[list[Cell]]:
        def tell(asked: Item, said: Value) -> Cell:
            return self._cells.cell(asked, said, edition)

        return table.rows(number, item, value, self._cells.readers[edition], self._codes, tell)

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
    async for some in pieces_of(kept):
        yield some
