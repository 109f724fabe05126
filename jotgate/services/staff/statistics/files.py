"""Tables of variables as files of data, written from columns of text that wait in a folder."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial
from itertools import chain
from pathlib import Path
from zoneinfo import ZoneInfo

import polars as pl
from polars.io.plugins import register_io_source

from jotgate.core.common.values import FALSE, TRUE
from jotgate.core.statistics.codebook import Counted, DataFormat
from jotgate.core.statistics.variables import LEFT_EMPTY, NOT_ASKED, Form, Variable
from jotgate.services.staff.entries.entry_csv import moments
from jotgate.services.staff.statistics import dta_file, sav_file
from jotgate.services.staff.statistics.counting import Counting
from jotgate.services.staff.statistics.frames import why

TO_BE_MARKED = rf"^'*(?:[=+\-@\t\r]|(?:{LEFT_EMPTY}|{NOT_ASKED})$)"
"""What people wrote that a spreadsheet would take for a formula, or a reader for a mark of what is
missing, and what looks like that behind apostrophes: it has one more before it."""

ROWS_TOGETHER = 50_000
"""Rows of Parquet that are written together."""

LARGEST_WHOLE = 10**15
"""From here on whole numbers are kept as others are: doubles have them exactly up to there."""


@dataclass(frozen=True)
class Waiting:
    """A table that waits in a folder of its own, in files that follow each other by name; `zone`
    is where its moments are told."""

    folder: str
    variables: tuple[Variable, ...]
    zone: str
    title: str

    def pieces(self) -> Iterator[pl.DataFrame]:
        """One after the other, so that no more than a few are in memory."""
        for path in sorted(Path(self.folder).glob("*.arrow")):
            yield pl.read_ipc(path)

    def none(self) -> pl.DataFrame:
        """A piece with nothing in it."""
        names = {one.name: pl.String() for one in self.variables}
        reasons = {why(one.of): pl.String() for one in self.variables if one.told_apart}
        return pl.DataFrame(schema={**names, **reasons})


@dataclass(frozen=True)
class Written:
    """How many rows a table has, its variables with all that was said, and what is counted of
    each."""

    rows: int
    variables: tuple[Variable, ...]
    counted: tuple[Counted, ...]


def written(table: Waiting, format: DataFormat | None, out: str) -> Written:
    """Writes the file at `out`, if one is wanted. Raises Invalid for what the form cannot hold."""
    counting = Counting(table.variables, ZoneInfo(table.zone))
    for piece in table.pieces():
        counting.add(piece)
    table = replace(table, variables=counting.variables())
    counted = counting.counted()
    large = zip(table.variables, counted, strict=True)
    wide = {one.name for one, many in large if one.form == "whole" and _is_large(many)}
    match format:
        case "csv":
            _write_csv(table, out)
        case "parquet":
            _write_parquet(table, wide, out)
        case "sav" | "dta":
            whole = pl.concat([table.none(), *table.pieces()], how="diagonal")
            write = sav_file.write if format == "sav" else dta_file.write
            write(_typed(whole, table, wide), table.variables, table.title, out)
    return Written(counting.rows, table.variables, counted)


def _write_csv(table: Waiting, out: str) -> None:
    cells = [_marked(one, table.zone) for one in table.variables]
    with Path(out).open("wb") as file:
        head = True
        for piece in chain([table.none()], table.pieces()):
            piece.select(cells).write_csv(file, include_header=head, line_terminator="\r\n")
            head = False


def _write_parquet(table: Waiting, wide: set[str], out: str) -> None:
    def pieces(
        _: list[str] | None, __: pl.Expr | None, ___: int | None, ____: int | None
    ) -> Iterator[pl.DataFrame]:
        return (_typed(one, table, wide) for one in table.pieces())

    schema = _typed(table.none(), table, wide).schema
    whole = register_io_source(pieces, schema=schema)
    whole.sink_parquet(out, row_group_size=ROWS_TOGETHER)


def _is_large(counted: Counted) -> bool:
    ends = (one for one in (counted.low, counted.high) if one is not None)
    return any(abs(float(one)) >= LARGEST_WHOLE for one in ends)


def _marked(one: Variable, zone: str) -> pl.Expr:
    said = pl.col(one.name)
    if one.form == "text":
        said = pl.when(said.str.contains(TO_BE_MARKED)).then("'" + said).otherwise(said)
    if one.form == "moment":
        local = partial(moments, zone=ZoneInfo(zone))
        said = said.map_batches(local, return_dtype=pl.String, is_elementwise=True)
    found = said.fill_null(pl.col(why(one.of))) if one.told_apart else said
    return found.alias(one.name)


def _moment(said: pl.Expr) -> pl.Expr:
    """Moments in UTC, to the minute."""
    cut = said.str.slice(0, 16)
    return cut.str.to_datetime("%Y-%m-%dT%H:%M", time_unit="us").dt.replace_time_zone("UTC")


_TYPES: Mapping[Form, Callable[[pl.Expr], pl.Expr]] = {
    "text": lambda said: said,
    "code": lambda said: said,
    "whole": lambda said: said.cast(pl.Int64),
    "number": lambda said: said.cast(pl.Float64),
    "day": lambda said: said.str.to_date("%Y-%m-%d"),
    "time": lambda said: said.str.to_time("%H:%M"),
    "moment": _moment,
    "truth": lambda said: pl.when(said == TRUE).then(True).when(said == FALSE).then(False),
}


def _typed(frame: pl.DataFrame, table: Waiting, wide: set[str]) -> pl.DataFrame:
    """Values in their types, and why there is none where that is told."""
    reasons = dict.fromkeys(why(one.of) for one in table.variables if one.told_apart)
    return frame.select(
        *(_type(one, table.zone, wide).alias(one.name) for one in table.variables), *reasons
    )


def _type(one: Variable, zone: str, wide: set[str]) -> pl.Expr:
    said = pl.col(one.name)
    if one.name in wide:
        return said.cast(pl.Float64)
    found = _TYPES[one.form](said)
    return found.dt.convert_time_zone(zone) if one.form == "moment" else found
