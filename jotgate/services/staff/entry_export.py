"""The entries that a view shows, as a table or as lines of JSON, some at a time."""

import asyncio
from collections.abc import AsyncIterator, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from uuid import UUID

import orjson

from jotgate.core.common.errors import Invalid
from jotgate.core.common.values import Value
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import as_json, values_of
from jotgate.core.entries.table import NUMBER, TableColumn, table_values
from jotgate.core.formats.entries_xml import entry_xml
from jotgate.core.formats.table import Cell
from jotgate.core.records.accounts import Account
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.entry_table import Asked, Opened, look_at
from jotgate.services.trail import note
from jotgate.store.entry_table import pages
from jotgate.store.entry_table.looking import Chosen, Looking

AT_ONCE = 500
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
    rows: AsyncIterator[list[list[Cell]]]
    lines: AsyncIterator[bytes]
    xml: AsyncIterator[bytes]


def chosen(numbers: Sequence[int], but: bool) -> Chosen | None:
    """Entries with these numbers alone, or all `but` these; None for all."""
    return Chosen(tuple(numbers), but) if numbers else None


async def export(context: Context, account: Account, id: UUID, wanted: Exporting) -> EntriesOut:
    """The columns that the view shows, in its order; none that is restricted. That it was read is
    on the trail. Raises NotFound, Invalid."""
    async with context.engine.begin() as conn:
        known, look = await look_at(context, conn, account, id, wanted.asked)
        if look is None or known.newest is None:
            raise Invalid("There is no published edition.")
        count = await pages.count(conn, look)
        if wanted.limit is not None and count > wanted.limit:
            message = f"A sheet holds {wanted.limit:,} rows, and these are {count:,}. Take CSV."
            raise Invalid(message)
        await note(context, conn, account.id, "entries_exported", id, count=count)
    columns = look.table.open
    names = wanted.asked.view.shown(columns)
    shown = [columns[name] for name in names if name != NUMBER]
    first = known.newest.questionnaire.first_language
    head = ("No.", *(one.key if wanted.codes else one.label for one in shown))
    title = known.newest.questionnaire.title.get(first, "")
    made = _Writing(known, look, shown, wanted.codes)
    each = (_each(context, look, write) for write in (made.rows, made.lines, made.xml))
    return EntriesOut(title, head, *each)


async def _each(context: Context, look: Looking, write: Any) -> AsyncIterator[Any]:
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


class _Writing:
    """What entries say in columns, as cells or as JSON."""

    def __init__(
        self, known: Opened, look: Looking, shown: Sequence[TableColumn], codes: bool
    ) -> None:
        self._known, self._table, self._today = known, look.table, look.today
        self._shown, self._codes = shown, codes
        self._readers = {number: Reader(plan) for number, plan in known.plans.items()}

    def rows(self, entries: Sequence[Entry]) -> list[list[Cell]]:
        return [[str(one.number), *self._cells(one)] for one in entries]

    def lines(self, entries: Sequence[Entry]) -> bytes:
        return b"".join(orjson.dumps(self._object(one)) + b"\n" for one in entries)

    def xml(self, entries: Sequence[Entry]) -> bytes:
        return b"".join(entry_xml(self._opened(one), self._plan(one)) for one in entries)

    def _plan(self, entry: Entry) -> Plan:
        return self._known.plans[entry.edition]

    def _opened(self, entry: Entry) -> Entry:
        return opened(entry, self._plan(entry), self._known.newest)[0]

    def _cells(self, entry: Entry) -> Iterator[Cell]:
        plan, shown = self._plan(entry), self._opened(entry)
        values = values_of(plan.items, shown.answers)
        values |= table_values(shown, plan, self._table, self._today)
        reader = self._readers[entry.edition]
        for column in self._shown:
            value = values.get(column.key)
            if value is None:
                yield None
            else:
                item = column.item if column.fact else plan.items[column.key]
                yield self._cell(replace(column, item=item), value, reader)

    def _cell(self, column: TableColumn, value: Value, reader: Reader) -> Cell:
        held = column.holds
        if isinstance(value, datetime):
            return value.astimezone(self._today.zone)
        if held in ("number", "day", "time", "truth"):
            return value  # type: ignore[return-value]
        if self._codes and held != "text":
            found = as_json(value)
            return found if isinstance(found, str) else orjson.dumps(found).decode()
        return reader.reads(column.item, value)

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
