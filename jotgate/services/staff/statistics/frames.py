"""What entries say, as variables in columns of text: some entries at a time, whole columns at once.
What is said again is read once."""

from collections.abc import Sequence
from typing import Any

import orjson
import polars as pl

from jotgate.core.statistics.tables import LineVariables, Source, StatisticsTables
from jotgate.core.statistics.variables import LEFT_EMPTY, NOT_ASKED, Read
from jotgate.services.staff.entries.entry_csv import parsed
from jotgate.store.entry_table.reading import Read as Found

NUMBER, EDITION, LEFT = "number", "edition", "left"

WHY = "why "
"""Before the key of a question, where a column says why nothing is said: `left_empty` or
`not_asked`, and null where that is not known. No variable is called so."""


def why(key: str) -> str:
    return f"{WHY}{key}"


class Frames:
    """Of lines with the number, the edition, what is said of each source, and what was left empty,
    in this order."""

    def __init__(self, tables: StatisticsTables) -> None:
        self._tables = tables
        self._names = [NUMBER, EDITION, *(f"c{at}" for at in range(len(tables.sources))), LEFT]

    def made(self, found: Found) -> tuple[pl.DataFrame, list[pl.DataFrame]]:
        """Entries, and the lines of each roster and grid that has a table of its own."""
        said = parsed(found, self._names).with_columns(pl.col(EDITION).cast(pl.Int32))
        said = said.with_columns(
            _open(source, f"c{at}") for at, source in enumerate(self._tables.sources)
        )
        lines = [_lines(one, said[NUMBER], said[f"c{one.source}"]) for one in self._tables.lines]
        return self._entries(said), lines

    def _entries(self, said: pl.DataFrame) -> pl.DataFrame:
        columns: list[pl.Series] = []
        for at, source in enumerate(self._tables.sources):
            own = said[f"c{at}"]
            columns += _each(source, own)
            if source.variables[0].told_apart:
                told = said.select(_why(source, f"c{at}").alias(why(source.column.key)))
                columns.append(told.to_series())
        return pl.DataFrame(columns)


def _open(source: Source, name: str) -> pl.Expr:
    """What is said, where anything is and is open."""
    said = pl.col(name)
    if source.closed:
        said = pl.when(~pl.col(EDITION).is_in(sorted(source.closed))).then(said)
    if source.column.fact:
        said = pl.when(said != "").then(said)
    return said.alias(name)


def _why(source: Source, name: str) -> pl.Expr:
    left = pl.col(LEFT)
    known = left.is_not_null() & pl.col(name).is_null()
    known &= ~pl.col(EDITION).is_in(sorted(source.closed))
    empty = left.str.contains(f",{source.column.key},", literal=True)
    return pl.when(known & empty).then(pl.lit(LEFT_EMPTY)).when(known).then(pl.lit(NOT_ASKED))


def _each(source: Source, said: pl.Series) -> list[pl.Series]:
    """What each variable of a source says. Text that has one is what that says already."""
    names = [one.name for one in source.variables]
    is_text = source.column.fact or source.column.is_stored_as_text
    if is_text and len(names) == 1:
        return [said.alias(names[0])]
    known = said.drop_nulls().unique()
    stored = [one if is_text else orjson.loads(one) for one in known]
    return [
        _read(said, known, stored, read).alias(name)
        for name, read in zip(names, source.reads, strict=True)
    ]


def _read(said: pl.Series, known: pl.Series, stored: Sequence[Any], read: Read) -> pl.Series:
    if known.is_empty():
        return pl.Series([None] * len(said), dtype=pl.String)
    told = pl.Series([read(one) for one in stored], dtype=pl.String)
    return said.replace_strict(known, told, default=None, return_dtype=pl.String)


def _lines(table: LineVariables, numbers: pl.Series, said: pl.Series) -> pl.DataFrame:
    found = (
        line
        for number, one in zip(numbers, said, strict=True)
        if one is not None
        for line in table.lines(number, orjson.loads(one))
    )
    schema = {one.name: pl.String() for one in table.variables}
    return pl.DataFrame(list(found), schema=schema, orient="row")
