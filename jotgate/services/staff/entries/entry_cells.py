"""What entries say in the columns of a table that goes out, as cells."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from datetime import UTC, datetime, time
from decimal import Decimal
from functools import partial
from itertools import groupby
from operator import itemgetter
from typing import Any, Literal

import orjson

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.display import Memory, Reader, is_written
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.entries.table import TableColumn, held_by
from jotgate.core.formats.table import Cell
from jotgate.core.items import Item
from jotgate.core.walking.plan import Plan

Said = Sequence[Any]
"""An entry's number, its edition, and what it says in columns, as `columns.said_in` has it."""

How = Literal["nothing", "written", "as_stored", "moment", "in_words"]
"""What becomes of what stands in a column: nothing is said there; it is text that people wrote; it
is a number, a day or a time, which CSV has as it is stored; it is a moment; or words are made."""


class EntryCells:
    """Rows of entries as cells with what they hold; options by their `codes` or in words. What is
    said again and again is made once."""

    def __init__(
        self,
        plans: Mapping[int, Plan],
        today: Today,
        shown: Sequence[TableColumn],
        codes: bool,
    ) -> None:
        self.readers = {number: Reader(plan) for number, plan in plans.items()}
        self.shown, self.today, self._codes = shown, today, codes
        newest = plans[max(plans)]
        self._items = {
            edition: {one.key: _item(one, plan, newest) for one in shown}
            for edition, plan in plans.items()
        }
        self.made = {edition: [self._all(one, edition) for one in shown] for edition in plans}

    def rows(self, said: Iterable[Said]) -> Iterator[Sequence[Cell]]:
        """Column by column for those of one edition that follow each other."""
        for edition, some in groupby(said, key=itemgetter(1)):
            numbers, _, *columns = zip(*some, strict=True)
            each = zip(self.made[edition], columns, strict=True)
            yield from zip(map(str, numbers), *(made(one) for made, one in each), strict=True)

    def _all(self, column: TableColumn, edition: int) -> Callable[[Sequence[str | None]], Any]:
        if self.how(column, edition) == "written":
            return list
        return Memory(partial(self.one, column, edition)).all

    def item(self, column: TableColumn, edition: int) -> Item | None:
        """The question as an edition has it; None where it has none, or it is restricted."""
        return self._items[edition][column.key]

    def how(self, column: TableColumn, edition: int) -> How:
        item = self.item(column, edition)
        if item is None:
            return "nothing"
        held = held_by(item)
        if held == "moment" and (column.fact or column.is_stored_as_text):
            return "moment"
        if column.is_stored_as_text and not column.fact:
            if is_written(item):
                return "written"
            if held in ("number", "day", "time"):
                return "as_stored"
        return "in_words"

    def value(self, column: TableColumn, edition: int, said: str) -> Value | None:
        """What is said in a column; None for nothing."""
        item = self.item(column, edition)
        if item is None or said == "":
            return None
        if column.fact:
            return _fact(item, said)
        return from_json(item, said if column.is_stored_as_text else orjson.loads(said))

    def one(self, column: TableColumn, edition: int, said: str) -> Cell:
        item, found = self.item(column, edition), self.value(column, edition, said)
        return None if item is None or found is None else self.cell(item, found, edition)

    def cell(self, item: Item, value: Value, edition: int) -> Cell:
        held = held_by(item)
        if isinstance(value, datetime):
            return value.astimezone(self.today.zone)
        if held in ("number", "day", "time", "truth"):
            return value  # type: ignore[return-value]
        if self._codes and held != "text":
            found = as_json(value)
            return found if isinstance(found, str) else orjson.dumps(found).decode()
        return self.readers[edition].reads(item, value)


def _item(column: TableColumn, plan: Plan, newest: Plan) -> Item | None:
    if column.fact:
        return column.item
    closed = needs_clearance(plan, newest, column.key)
    return None if closed else plan.items.get(column.key)


def _fact(item: Item, said: str) -> Value:
    match held_by(item):
        case "number":
            return Decimal(said)
        case "truth":
            return said == "true"
        case "time":
            return time.fromisoformat(said)
        case "moment":
            return datetime.fromisoformat(said).replace(tzinfo=UTC)
    return said
