"""What entries say in the columns of a table that goes out, as cells."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
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

Write = Callable[[Any], Cell]
"""A cell of what is stored, or of a fact."""

_AS_STORED = ("number", "day", "time")
"""What stands in a text as it is stored."""


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

    def row(self, entry: Entry) -> list[Cell]:
        """Of an entry with answers that are open."""
        answers = entry.answers
        facts = entry_facts(entry, self._table, self._today) if self._facts else {}
        row: list[Cell] = [str(entry.number)]
        for key, fact, write in self._columns[entry.edition]:
            found: Any = facts.get(key) if fact else answers.get(key)
            row.append(None if found is None else write(found))
        return row

    def _write(self, column: TableColumn, reader: Reader) -> Write:
        ended = text if self._as_text else _same
        item = column.item if column.fact else reader.plan.items.get(column.key)
        if item is None:
            return lambda _: None
        if column.fact:
            return Memory(lambda value: ended(self.cell(item, value, reader))).find
        if is_written(item):
            return safe if self._as_text else _same
        if self._as_text and held_by(item) in _AS_STORED:
            return _same
        return Memory(lambda raw: ended(self.cell(item, from_json(item, raw), reader))).find

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


def _same(found: Any) -> Any:
    return found
