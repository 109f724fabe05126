"""Tables of variables as files of data, written from columns of text that wait in a folder."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from functools import partial
from pathlib import Path
from typing import Literal
from zoneinfo import ZoneInfo

import polars as pl

from jotgate.core.statistics.codebook import Counted
from jotgate.core.statistics.variables import (
    FALSE,
    LEFT_EMPTY,
    NOT_ASKED,
    TRUE,
    Category,
    Form,
    Variable,
)
from jotgate.services.staff.entries.entry_csv import moments
from jotgate.services.staff.statistics import dta_file, sav_file
from jotgate.services.staff.statistics.frames import why

DataFormat = Literal["csv", "parquet", "sav", "dta"]

MARKS = (LEFT_EMPTY, NOT_ASKED)
TO_BE_MARKED = rf"^'*(?:[=+\-@\t\r]|(?:{LEFT_EMPTY}|{NOT_ASKED})$)"
"""What people wrote that a spreadsheet would take for a formula, or a reader for a mark of what is
missing, and what looks like that behind apostrophes: it has one more before it."""

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

    def scan(self) -> pl.LazyFrame:
        pieces = sorted(Path(self.folder).glob("*.arrow"))
        if not pieces:
            names = {one.name: pl.String() for one in self.variables}
            reasons = {why(one.of): pl.String() for one in self.variables if one.told_apart}
            return pl.LazyFrame(schema={**names, **reasons})
        return pl.scan_ipc(pieces)


@dataclass(frozen=True)
class Written:
    """How many rows a table has, its variables with all that was said, and what is counted of
    each."""

    rows: int
    variables: tuple[Variable, ...]
    counted: tuple[Counted, ...]


def written(table: Waiting, format: DataFormat | None, out: str) -> Written:
    """Writes the file at `out`, if one is wanted. Raises Invalid for what the form cannot hold."""
    frame = table.scan()
    table = replace(table, variables=tuple(_whole(frame, one) for one in table.variables))
    rows, counted = _counted(frame, table.variables, ZoneInfo(table.zone))
    large = zip(table.variables, counted, strict=True)
    wide = {one.name for one, many in large if one.form == "whole" and _is_large(many)}
    match format:
        case "csv":
            marked = frame.select(_marked(one, table.zone) for one in table.variables)
            marked.sink_csv(out, line_terminator="\r\n")
        case "parquet":
            _typed(frame, table, wide).sink_parquet(out)
        case "sav":
            typed = _typed(frame, table, wide).collect()
            sav_file.write(typed, table.variables, table.title, out)
        case "dta":
            typed = _typed(frame, table, wide).collect()
            dta_file.write(typed, table.variables, table.title, out)
    return Written(rows, table.variables, tuple(counted))


def _whole(frame: pl.LazyFrame, one: Variable) -> Variable:
    """With the codes that were said and are none of its categories any more."""
    if one.form != "code":
        return one
    known = [each.code for each in one.categories]
    other = frame.select(pl.col(one.name)).filter(~pl.col(one.name).is_in(known)).unique().collect()
    last = max((each.number for each in one.categories), default=0)
    more = enumerate(sorted(other.to_series()), last + 1)
    own = tuple(Category(code, number, code) for number, code in more)
    return replace(one, categories=(*one.categories, *own))


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


def _typed(frame: pl.LazyFrame, table: Waiting, wide: set[str]) -> pl.LazyFrame:
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


def _counted(
    frame: pl.LazyFrame, variables: Sequence[Variable], zone: ZoneInfo
) -> tuple[int, list[Counted]]:
    ends = {"whole": pl.Float64, "number": pl.Float64, "day": pl.String, "moment": pl.String}
    wanted = [pl.len().alias("rows")]
    for at, one in enumerate(variables):
        said = pl.col(one.name)
        wanted.append(said.count().alias(f"{at} said"))
        if one.told_apart:
            reason = pl.col(why(one.of))
            wanted += [(reason == mark).sum().alias(f"{at} {mark}") for mark in MARKS]
        if type_ := ends.get(one.form):
            by = said.cast(type_)
            for name, found in (("low", by.arg_min()), ("high", by.arg_max())):
                wanted.append(said.gather(found).first().alias(f"{at} {name}"))
        for number, category in enumerate(one.categories):
            wanted.append((said == category.code).sum().alias(f"{at} {number}"))
    row = frame.select(wanted).collect(engine="streaming").row(0, named=True)
    return row["rows"], [_one_counted(row, at, one, zone) for at, one in enumerate(variables)]


def _one_counted(row: Mapping[str, object], at: int, one: Variable, zone: ZoneInfo) -> Counted:
    def many(name: object) -> int:
        found = row.get(f"{at} {name}")
        return found if isinstance(found, int) else 0

    def end(name: str) -> str | None:
        found = row.get(f"{at} {name}")
        if found is None or one.form != "moment":
            return None if found is None else str(found)
        at_once = datetime.fromisoformat(str(found)[:16]).replace(tzinfo=UTC)
        return at_once.astimezone(zone).isoformat(timespec="minutes")

    codes = {each.code: many(number) for number, each in enumerate(one.categories)}
    reasons = (many(LEFT_EMPTY), many(NOT_ASKED))
    return Counted(many("said"), *reasons, codes, end("low"), end("high"))
