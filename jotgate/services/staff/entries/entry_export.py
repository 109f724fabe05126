"""The entries that a view shows, as a table or as lines of JSON, some at a time."""

import asyncio
from collections.abc import AsyncIterator, Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, TypeVar
from uuid import UUID

import orjson

from jotgate.core.common.errors import Invalid
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.table import NUMBER, TableColumn
from jotgate.core.formats.entries_xml import entry_xml
from jotgate.core.formats.table import Cell
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_cells import EntryCells
from jotgate.services.staff.entries.entry_table import Asked, Opened, look_at
from jotgate.services.trail import note
from jotgate.store.entries.entry_tables import ENTRY
from jotgate.store.entry_table import pages
from jotgate.store.entry_table.columns import said_in
from jotgate.store.entry_table.looking import Chosen, Looking
from jotgate.store.entry_table.reading import LINES, ROWS, Cursor, Form, Read, read

if TYPE_CHECKING:
    import polars as pl

    from jotgate.services.staff.entries.entry_csv import EntryCsv

T = TypeVar("T")

AT_ONCE, LINES_AT_ONCE = 2_000, 20_000
"""Entries that are read and written together; columns of text alone take little room."""

MOST_ROWS = 1_048_575
"""Rows that a sheet of a workbook has below its head (ISO/IEC 29500)."""


@dataclass(frozen=True)
class Exporting:
    """What goes out: the entries of a view; options by their `codes` or in words; at most `limit`
    of them can be taken."""

    asked: Asked = Asked()
    codes: bool = False
    limit: int | None = None


@dataclass(frozen=True)
class EntriesOut:
    """`title` is that of the questionnaire, `head` names the columns."""

    title: str
    head: tuple[str, ...]
    rows: AsyncIterator[list[Sequence[Cell]]]
    csv: AsyncIterator[bytes]
    lines: AsyncIterator[bytes]
    xml: AsyncIterator[bytes]


def chosen(numbers: Sequence[int], but: bool) -> Chosen | None:
    """Entries with these numbers alone, or all `but` these; None for all."""
    return Chosen(tuple(numbers), but) if numbers else None


@dataclass(frozen=True)
class Looked:
    """What goes out: the columns `shown`, in their order, of `count` entries; `title` is that of
    the questionnaire."""

    known: Opened
    look: Looking
    shown: tuple[TableColumn, ...]
    title: str
    codes: bool
    count: int

    def head(self, columns: Sequence[TableColumn]) -> tuple[str, ...]:
        return ("No.", *(one.key if self.codes else one.label for one in columns))


async def look(context: Context, account: Account, id: UUID, wanted: Exporting) -> Looked:
    """The columns that the view shows, in its order; none that is restricted. That it was read is
    on the trail. Raises NotFound, Invalid."""
    async with context.engine.begin() as conn:
        known, seen = await look_at(context, conn, account, id, wanted.asked)
        if seen is None or known.newest is None:
            raise Invalid("There is no published edition.")
        count = await pages.count(conn, seen)
        if wanted.limit is not None and count > wanted.limit:
            message = f"A sheet holds {wanted.limit:,} rows, and these are {count:,}. Take CSV."
            raise Invalid(message)
        await note(context, conn, account.id, "entries_exported", id, count=count)
    columns = seen.table.open
    names = wanted.asked.view.shown(columns)
    shown = tuple(columns[name] for name in names if name != NUMBER)
    first = known.newest.questionnaire.first_language
    title = known.newest.questionnaire.title.get(first, "")
    return Looked(known, seen, shown, title, wanted.codes, count)


async def export(context: Context, account: Account, id: UUID, wanted: Exporting) -> EntriesOut:
    """As one table. Raises as `look` does."""
    found = await look(context, account, id, wanted)
    cells, whole = cells_of(found, found.shown), _Whole(found.known)
    return EntriesOut(
        found.title,
        found.head(found.shown),
        each(context, found.look, said_in(found.look, found.shown), ROWS, _listed(cells)),
        each_frame(context, found, cells, lambda written, frame: written.csv(frame)),
        each(context, found.look, ENTRY, ROWS, whole.lines),
        each(context, found.look, ENTRY, ROWS, whole.xml),
    )


def cells_of(found: Looked, shown: Sequence[TableColumn]) -> EntryCells:
    return EntryCells(found.known.plans, found.look.today, shown, found.codes)


def _listed(cells: EntryCells) -> Callable[[Read], list[Sequence[Cell]]]:
    return lambda some: list(cells.rows(_asked(some)))


def _asked(some: Read) -> Iterator[Sequence[Any]]:
    """The columns that were asked for."""
    return (row[some.before :] for row in some.rows)


async def each_frame(
    context: Context,
    found: Looked,
    cells: EntryCells,
    write: Callable[["EntryCsv", "pl.DataFrame"], T],
) -> AsyncIterator[T]:
    """What `write` makes of what some entries after the other say in columns. What reads them then
    is loaded when it is wanted: it takes thirty megabytes."""
    from jotgate.services.staff.entries.entry_csv import EntryCsv

    written = EntryCsv(cells)
    columns = said_in(found.look, cells.shown)

    def made(some: Read) -> T:
        return write(written, written.frame(some))

    async for one in each(context, found.look, columns, LINES, made):
        yield one


async def each(
    context: Context,
    look: Looking,
    columns: Sequence[Any],
    form: Form,
    write: Callable[[Read], T],
) -> AsyncIterator[T]:
    """What `write` makes of columns of some entries after the other. The next are read meanwhile,
    each time in a transaction of its own."""

    many = LINES_AT_ONCE if form is LINES else AT_ONCE

    async def read_on(after: Cursor | None) -> Read:
        async with context.engine.begin() as conn:
            await pages.planned_anew(conn, 60_000)
            return await read(conn, look, columns, after, many, form=form)

    found = await read_on(None)
    while found.rows:
        more = len(found.rows) == many
        ahead = asyncio.create_task(read_on(found.end(many - 1))) if more else None
        try:
            yield await asyncio.to_thread(write, found)
            if ahead is None:
                return
            found = await ahead
        finally:
            if ahead is not None and not ahead.done():
                await _ended(ahead)


async def _ended(task: asyncio.Task[Any]) -> None:
    """What is not wanted any more gives its connection back first."""
    task.cancel()
    await asyncio.wait([task])


class _Whole:
    """Entries with what is open of all their answers."""

    def __init__(self, known: Opened) -> None:
        self._known = known

    def lines(self, some: Read) -> bytes:
        opened = map(self._opened, _asked(some))
        return b"".join(orjson.dumps(_object(one)) + b"\n" for one in opened)

    def xml(self, some: Read) -> bytes:
        opened = map(self._opened, _asked(some))
        return b"".join(entry_xml(one, self._known.plans[one.edition]) for one in opened)

    def _opened(self, row: Sequence[Any]) -> Entry:
        entry = Entry._make(row)
        return opened(entry, self._known.plans[entry.edition], self._known.newest)[0]


def _object(entry: Entry) -> dict[str, Any]:
    return {
        "number": entry.number,
        "edition": entry.edition,
        "arrived": entry.arrived.isoformat(timespec="seconds"),
        "status": entry.status,
        "finish": entry.finish,
        "language": entry.language,
        "archived": entry.archived is not None,
        "answers": entry.answers,
    }
