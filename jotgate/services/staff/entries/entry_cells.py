"""What entries say in the columns of a table that goes out, as cells."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import datetime
from itertools import groupby
from typing import Any

import orjson

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.entries.display import Memory, Reader, is_written
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.entries.table import EntryTable, TableColumn, entry_facts, held_by
from jotgate.core.formats.table import Cell, safe, text
from jotgate.core.items import Item

Write = Callable[[Sequence[Any]], list[Cell]]
"""The cells of a column, of what is stored, or of facts; None where there is nothing."""

_AS_STORED = ("number", "day", "time")
"""What stands in a text as it is stored."""


_Column = tuple[str, bool, Write]
"""A key, whether it is that of a fact, and what writes its cells."""

_Row = tuple[Cell, ...]


class EntryCells:
    """Rows of entries: cells with what they hold, or, `as_text`, with what CSV has of it; options
    by their `codes` or in words. What is said again and again is written once."""

    def __init__(
        self,
        readers: Mapping[int, Reader],
        table: EntryTable,
        today: Today,
        shown: Sequence[TableColumn],
        codes: bool,
        as_text: bool = False,
    ) -> None:
        self._table, self._today = table, today
        self._codes, self._as_text = codes, as_text
        self._facts = any(one.fact for one in shown)
        self._columns = {
            edition: [(one.key, one.fact, self._write(one, reader)) for one in shown]
            for edition, reader in readers.items()
        }

    def rows(self, entries: Sequence[Entry]) -> Iterator[Sequence[Cell]]:
        """Of entries with answers that are open: column by column for those of one edition."""
        for edition, some in groupby(entries, key=lambda one: one.edition):
            yield from self._rows(self._columns[edition], list(some))

    def _rows(self, columns: Sequence[_Column], entries: Sequence[Entry]) -> Iterator[_Row]:
        answers = [one.answers for one in entries]
        facts: list[dict[str, Value]] = []
        if self._facts:
            facts = [entry_facts(one, self._table, self._today) for one in entries]
        written: list[list[Cell]] = [[str(one.number) for one in entries]]
        for key, fact, write in columns:
            found: Sequence[Any] = facts if fact else answers
            written.append(write([one.get(key) for one in found]))
        return zip(*written, strict=True)

    def _write(self, column: TableColumn, reader: Reader) -> Write:
        ended = text if self._as_text else _same
        item = column.item if column.fact else reader.plan.items.get(column.key)
        if item is None:
            return lambda every: [None] * len(every)
        if column.fact:
            return Memory(lambda value: ended(self.cell(item, value, reader))).all
        if is_written(item):
            return _all_safe if self._as_text else list
        if self._as_text and held_by(item) in _AS_STORED:
            return list
        return Memory(lambda raw: ended(self.cell(item, from_json(item, raw), reader))).all

    def cell(self, item: Item, value: Value, reader: Reader) -> Cell:
        held = held_by(item)
        if isinstance(value, datetime):
            return value.astimezone(self._today.zone)
        if held in ("number", "day", "time", "truth"):
            return value  # type: ignore[return-value]
        if self._codes and held != "text":
            found = as_json(value)
            return found if isinstance(found, str) else orjson.dumps(found).decode()
        return reader.reads(item, value)


def _all_safe(every: Sequence[Any]) -> list[Cell]:
    return [None if one is None else safe(one) for one in every]


def _same(found: Any) -> Any:
    return found
