"""What entries say in the columns of a table that goes out, as cells."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import datetime
from decimal import Decimal
from itertools import groupby
from operator import itemgetter
from typing import Any

import orjson

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.display import Memory, Reader, is_written
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.entries.table import TableColumn, held_by
from jotgate.core.formats.table import Cell, csv_field, csv_fields
from jotgate.core.items import Item
from jotgate.core.walking.plan import Plan

Said = Sequence[Any]
"""An entry's number, its edition, and what it says in columns, as `columns.said_in` has it."""

Write = Callable[[Sequence[Any]], Sequence[Any]]
"""The cells of a column, of what is said in it; None where nothing is."""

_AS_STORED = ("number", "day", "time")
"""What stands in a text as it is stored."""


class EntryCells:
    """Rows of entries: cells with what they hold, or, `as_text`, as CSV has them; options by their
    `codes` or in words. What is said again and again is written once."""

    def __init__(
        self,
        readers: Mapping[int, Reader],
        today: Today,
        shown: Sequence[TableColumn],
        codes: bool,
        as_text: bool = False,
    ) -> None:
        self._today, self._codes, self._as_text = today, codes, as_text
        self._newest = readers[max(readers)].plan
        self._columns = {
            edition: [self._write(one, reader) for one in shown]
            for edition, reader in readers.items()
        }

    def rows(self, entries: Sequence[Said]) -> Iterator[Sequence[Any]]:
        """Column by column for those of one edition that follow each other."""
        for edition, some in groupby(entries, key=itemgetter(1)):
            numbers, _, *said = zip(*some, strict=True)
            each = zip(self._columns[edition], said, strict=True)
            yield from zip(map(str, numbers), *(write(one) for write, one in each), strict=True)

    def _write(self, column: TableColumn, reader: Reader) -> Write:
        if column.fact:
            return self._fact(column.item, reader)
        item = asked(column, reader.plan, self._newest)
        empty = "" if self._as_text else None
        if item is None:
            return lambda every: [empty] * len(every)
        if column.is_stored_as_text:
            if is_written(item):
                return csv_fields if self._as_text else list
            if self._as_text and held_by(item) in _AS_STORED:
                return _all_as_stored
            if held_by(item) == "moment":
                return lambda every: self._moments([_moment(item, one) for one in every])
            return self._remembered(item, reader, from_json)
        return self._remembered(item, reader, from_text)

    def _fact(self, item: Item, reader: Reader) -> Write:
        if held_by(item) == "moment":
            return self._moments
        return self._remembered(item, reader, _fact)

    def _moments(self, every: Sequence[datetime | None]) -> Sequence[Cell]:
        zone = self._today.zone
        there = [one and one.astimezone(zone) for one in every]
        if not self._as_text:
            return there
        return [one.isoformat(timespec="minutes") if one else "" for one in there]

    def _remembered(
        self, item: Item, reader: Reader, value: Callable[[Item, Any], Value | None]
    ) -> Write:
        def made(raw: Any) -> Cell:
            found = value(item, raw)
            cell = None if found is None else self.cell(item, found, reader)
            return csv_field(cell) if self._as_text else cell

        return _filled(Memory(made).all) if self._as_text else Memory(made).all

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


def asked(column: TableColumn, plan: Plan, newest: Plan) -> Item | None:
    """The question of a column as an edition has it; None where it has none or it is restricted."""
    closed = needs_clearance(plan, newest, column.key)
    return None if closed else plan.items.get(column.key)


def from_text(item: Item, json: str) -> Value:
    """The value that is stored as JSON."""
    return from_json(item, orjson.loads(json))


def _fact(item: Item, found: Any) -> Value | None:
    """A fact as the database has it, as a value; None for none."""
    if found == "":
        return None
    return Decimal(found) if held_by(item) == "number" else found


def _moment(item: Item, raw: str | None) -> datetime | None:
    found = from_json(item, raw) if raw else None
    return found if isinstance(found, datetime) else None


def _filled(write: Write) -> Write:
    return lambda every: [one or "" for one in write(every)]


def _all_as_stored(every: Sequence[str | None]) -> list[Cell]:
    """What neither has to be quoted nor can be taken for a formula."""
    return [one or "" for one in every]
