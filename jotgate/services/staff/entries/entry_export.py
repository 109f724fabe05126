"""The entries that a view shows, as a table or as lines of JSON, some at a time."""

import asyncio
from collections.abc import AsyncIterator, Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar
from uuid import UUID

import orjson

from jotgate.core.common.errors import Invalid
from jotgate.core.common.values import Value
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import values_of
from jotgate.core.entries.table import NUMBER, TableColumn, table_values
from jotgate.core.formats.entries_xml import entry_xml
from jotgate.core.formats.table import Cell, text_lines
from jotgate.core.records.accounts import Account
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_cells import EntryCells
from jotgate.services.staff.entries.entry_table import Asked, Opened, look_at
from jotgate.services.trail import note
from jotgate.store.entry_table import pages
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
    made = Writing(found.known, found.look, found.shown, wanted.codes)
    return EntriesOut(
        found.title,
        found.head(found.shown),
        each(context, found.look, made.rows),
        each(context, found.look, made.csv),
        each(context, found.look, made.lines),
        each(context, found.look, made.xml),
    )


async def each(
    context: Context, look: Looking, write: Callable[[Sequence[Entry]], T]
) -> AsyncIterator[T]:
    """What `write` makes of some entries after the other, each time in a transaction of its own."""
    after: pages.Cursor | None = None
    while True:
        async with context.engine.begin() as conn:
            await pages.planned_anew(conn, 60_000)
            found = await pages.page(conn, look, after, None, AT_ONCE)
        if found.entries:
            yield await asyncio.to_thread(write, found.entries)
        if len(found.entries) < AT_ONCE:
            return
        after = found.cursors[-1]


class Writing:
    """What entries say in columns, as cells or as JSON."""

    def __init__(
        self, known: Opened, look: Looking, shown: Sequence[TableColumn], codes: bool
    ) -> None:
        self._known, self._table, self._today = known, look.table, look.today
        self._readers = {number: Reader(plan) for number, plan in known.plans.items()}
        columns = (self._readers, look.table, look.today, shown, codes)
        self._cells, self._texts = EntryCells(*columns), EntryCells(*columns, as_text=True)
        self.cell = self._cells.cell

    def rows(self, entries: Sequence[Entry]) -> list[Sequence[Cell]]:
        return list(self._cells.rows([self._opened(one) for one in entries]))

    def csv(self, entries: Sequence[Entry]) -> bytes:
        return text_lines(self._texts.rows([self._opened(one) for one in entries])).encode()

    def lines(self, entries: Sequence[Entry]) -> bytes:
        return b"".join(orjson.dumps(self._object(one)) + b"\n" for one in entries)

    def xml(self, entries: Sequence[Entry]) -> bytes:
        return b"".join(entry_xml(self._opened(one), self._plan(one)) for one in entries)

    def _plan(self, entry: Entry) -> Plan:
        return self._known.plans[entry.edition]

    def _opened(self, entry: Entry) -> Entry:
        return opened(entry, self._plan(entry), self._known.newest)[0]

    def said(self, entry: Entry) -> tuple[Plan, dict[str, Value], Reader]:
        """The edition of an entry, what it says that is open, by key, and who reads it."""
        plan, shown = self._plan(entry), self._opened(entry)
        values = values_of(plan.items, shown.answers)
        values |= table_values(shown, plan, self._table, self._today)
        return plan, values, self._readers[entry.edition]

    def _object(self, entry: Entry) -> dict[str, Any]:
        shown = self._opened(entry)
        return {
            "number": entry.number,
            "edition": entry.edition,
            "arrived": entry.arrived.isoformat(timespec="seconds"),
            "status": entry.status,
            "finish": shown.finish,
            "language": entry.language,
            "archived": entry.archived is not None,
            "answers": shown.answers,
        }
