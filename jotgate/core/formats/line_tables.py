"""Rosters and grids as tables of their own: a row for each of their lines, led by the entry's
number."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from jotgate.core.common.values import Value, Values
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import TableColumn
from jotgate.core.formats.table import Cell
from jotgate.core.items import Item, inside, is_valued
from jotgate.core.items.staff_names import staff_name

Tell = Callable[[Item, Value], Cell]
"""An answer as a cell."""


def has_lines(column: TableColumn) -> bool:
    return column.item.kind in ("roster", "grid")


@dataclass(frozen=True)
class LineTable:
    """The lines of one roster or grid. `asked` are the questions in each line, by key with what
    heads their column."""

    key: str
    asked: tuple[tuple[str, str], ...]

    @property
    def head(self) -> tuple[str, ...]:
        return ("No.", "Line", *(name for _, name in self.asked))

    def rows(
        self, number: str, item: Item, value: Value, reader: Reader, codes: bool, tell: Tell
    ) -> Iterator[list[Cell]]:
        """What an entry says; `item` is of its edition. Lines of a roster are counted from 1, those
        of a grid named, or by their code."""
        by_key = {one.key: one for one in inside(item)}
        for heading, line in _lines(item, value, reader, codes):
            cells = (tell(by_key[key], line[key]) if key in line else None for key, _ in self.asked)
            yield [number, heading, *cells]


def line_table(column: TableColumn, language: str, codes: bool) -> LineTable:
    """The table of a column that has lines."""
    asked = (one for one in inside(column.item) if is_valued(one))
    named = ((one.key, one.key if codes else staff_name(one, language)) for one in asked)
    return LineTable(column.key, tuple(named))


def _lines(item: Item, value: Any, reader: Reader, codes: bool) -> Iterator[tuple[Cell, Values]]:
    if item.kind == "grid":
        for row in item.rows:
            for line in value.get(row.code, ()):
                yield (row.code if codes else reader.say(row.label) or row.code), line
    else:
        for number, line in enumerate(value, 1):
            yield Decimal(number), line
