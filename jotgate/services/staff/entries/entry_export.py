"""The entries that a view shows, as a table or as lines of JSON, some at a time."""

import asyncio
from collections.abc import AsyncIterator, Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar
from uuid import UUID

import orjson

from jotgate.core.common.errors import Invalid
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.table import NUMBER, TableColumn
from jotgate.core.formats.entries_xml import entry_xml
from jotgate.core.formats.table import Cell, field_lines
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_cells import EntryCells, Said
from jotgate.services.staff.entries.entry_table import Asked, Opened, look_at
from jotgate.services.trail import note
from jotgate.store.entries.entries import ENTRY
from jotgate.store.entry_table import pages
from jotgate.store.entry_table.columns import said_in
from jotgate.store.entry_table.looking import Chosen, Looking

T = TypeVar("T")

AT_ONCE = 2_000
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
    """What goes out: the columns `shown`, in their order; `title` is that of the questionnaire."""

    known: Opened
    look: Looking
    shown: tuple[TableColumn, ...]
    title: str
    codes: bool

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
    return Looked(known, seen, shown, title, wanted.codes)


async def export(context: Context, account: Account, id: UUID, wanted: Exporting) -> EntriesOut:
    """As one table. Raises as `look` does."""
    found = await look(context, account, id, wanted)
    cells, texts = (cells_of(found, found.shown, as_text) for as_text in (False, True))
    whole = _Whole(found.known)
    return EntriesOut(
        found.title,
        found.head(found.shown),
        each_said(context, found, found.shown, lambda some: list(cells.rows(some))),
        each_said(context, found, found.shown, lambda some: field_lines(texts.rows(some)).encode()),
        _each(context, found.look, ENTRY, whole.lines),
        _each(context, found.look, ENTRY, whole.xml),
    )


def cells_of(found: Looked, shown: Sequence[TableColumn], as_text: bool) -> EntryCells:
    readers = {number: Reader(plan) for number, plan in found.known.plans.items()}
    return EntryCells(readers, found.look.today, shown, found.codes, as_text)


def each_said(
    context: Context,
    found: Looked,
    shown: Sequence[TableColumn],
    write: Callable[[Sequence[Said]], T],
) -> AsyncIterator[T]:
    """What `write` makes of what some entries after the other say in columns."""
    return _each(context, found.look, said_in(found.look, shown), write)


async def _each(
    context: Context,
    look: Looking,
    columns: Sequence[Any],
    write: Callable[[Sequence[Sequence[Any]]], T],
) -> AsyncIterator[T]:
    """What `write` makes of columns of some entries after the other. The next are read meanwhile,
    each time in a transaction of its own."""

    async def read(after: pages.Cursor | None) -> pages.Read:
        async with context.engine.begin() as conn:
            await pages.planned_anew(conn, 60_000)
            return await pages.read(conn, look, columns, after, AT_ONCE)

    found = await read(None)
    while found.rows:
        more = len(found.rows) == AT_ONCE
        ahead = asyncio.create_task(read(found.cursors[-1])) if more else None
        try:
            yield await asyncio.to_thread(write, found.rows)
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

    def lines(self, rows: Sequence[Sequence[Any]]) -> bytes:
        return b"".join(orjson.dumps(_object(self._opened(row))) + b"\n" for row in rows)

    def xml(self, rows: Sequence[Sequence[Any]]) -> bytes:
        opened = map(self._opened, rows)
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
