"""Entries as CSV, whole columns at once: what is said again in one is put into words once."""

from collections.abc import Callable, Iterator, Sequence
from datetime import UTC, datetime, timedelta, tzinfo
from functools import lru_cache, reduce
from io import BytesIO
from operator import or_
from typing import Any

import polars as pl

from jotgate.core.formats.table import FORMULA, text
from jotgate.services.staff.entries.entry_cells import EntryCells
from jotgate.store.entry_table.reading import Read

NUMBER, EDITION = "number", "edition"
MINUTE = 60_000_000
"""Microseconds."""


def parsed(found: Read, names: Sequence[str]) -> pl.DataFrame:
    """Lines of CSV in columns of text, null where nothing is; what stands before is left out."""
    before = [f"b{at}" for at in range(found.before)]
    return pl.read_csv(
        b"".join(found.rows),
        has_header=False,
        new_columns=[*before, *names],
        infer_schema=False,
    ).drop(before)


class EntryCsv:
    """Lines of CSV (RFC 4180) with what `cells` has, of lines with what is said."""

    def __init__(self, cells: EntryCells) -> None:
        self._cells = cells
        self._names = [NUMBER, EDITION, *(f"c{at}" for at in range(len(cells.shown)))]

    def frame(self, found: Read) -> pl.DataFrame:
        """What is said: the number, the edition, and a column for each that is shown, in its order,
        all of it text; null where nothing is. `found` are lines of CSV."""
        return parsed(found, self._names)

    def rows(self, frame: pl.DataFrame, columns: Sequence[int]) -> Iterator[tuple[Any, ...]]:
        """The number and the edition of each entry, and what it says in some columns."""
        return frame.select([*self._names[:2], *(f"c{at}" for at in columns)]).iter_rows()

    def csv(self, frame: pl.DataFrame, first: int = 0) -> bytes:
        """Lines with the number, and the columns from the `first` on."""
        parts = frame.with_row_index("at").partition_by(EDITION)
        whole = pl.concat([self._edition(one, first) for one in parts])
        if len(parts) > 1:
            whole = whole.sort("at")
        out = BytesIO()
        whole.drop("at").write_csv(out, include_header=False, line_terminator="\r\n")
        return out.getvalue()

    def _edition(self, frame: pl.DataFrame, first: int) -> pl.DataFrame:
        edition = int(frame[EDITION][0])
        cells = [
            self._texts(frame[f"c{at}"], at, edition).alias(f"c{at}")
            for at in range(first, len(self._cells.shown))
        ]
        return pl.DataFrame([frame["at"], frame[NUMBER], *cells])

    def _texts(self, said: pl.Series, at: int, edition: int) -> pl.Series:
        match self._cells.how(self._cells.shown[at], edition):
            case "nothing":
                return pl.Series([None] * len(said), dtype=pl.String)
            case "as_stored":
                return said
            case "written":
                return _safe(said)
            case "moment":
                return moments(said, self._cells.today.zone)
        made = self._cells.made[edition][at]
        return _each_once(said, lambda known: [text(one) for one in made(known)])


def _each_once(said: pl.Series, made: Callable[[list[str]], list[str]]) -> pl.Series:
    """What is made of each different text."""
    known = said.drop_nulls().unique()
    if known.is_empty():
        return said
    words = pl.Series([one or None for one in made(known.to_list())], dtype=pl.String)
    return said.replace_strict(known, words, default=None)


def _safe(said: pl.Series) -> pl.Series:
    """As `table.safe`."""
    begins = [said.str.starts_with(one) for one in FORMULA]
    is_formula = reduce(or_, begins).fill_null(False)
    return (pl.Series(["'"]) + said).zip_with(is_formula, said) if is_formula.any() else said


def moments(said: pl.Series, zone: tzinfo) -> pl.Series:
    """Moments in UTC as `table.text` has them in a time zone. What clocks are off stays the same
    all day, but on days when they are put on or back, or where they show the time of the sun."""
    days = said.str.slice(0, 10)
    known = days.drop_nulls().unique()
    off = [_off(one, zone) for one in known]
    minutes = pl.Series([one and one[0] for one in off], dtype=pl.Int64)
    signs = pl.Series([one and one[1] for one in off], dtype=pl.String)
    by = days.replace_strict(known, minutes, default=None)
    local = said.str.slice(0, 16).str.to_datetime("%Y-%m-%dT%H:%M", time_unit="us")
    local += (by * MINUTE).cast(pl.Duration("us"))
    sign = days.replace_strict(known, signs, default=None)
    found = local.dt.strftime("%Y-%m-%dT%H:%M") + sign
    if None not in off:
        return found
    none = pl.Series([None], dtype=pl.String)
    rest = said.zip_with(found.is_null(), none)
    one_by_one = _each_once(rest, lambda each: [text(_utc(one).astimezone(zone)) for one in each])
    return found.zip_with(found.is_not_null(), one_by_one)


def _utc(said: str) -> datetime:
    return datetime.fromisoformat(said).replace(tzinfo=UTC)


@lru_cache(maxsize=20_000)
def _off(day: str, zone: tzinfo) -> tuple[int, str] | None:
    """The minutes that clocks are off on a day, and how that is written; None where they are off by
    something else at its end, or by no whole minutes."""
    first = _utc(f"{day}T00:00").astimezone(zone)
    last = _utc(f"{day}T23:59:59").astimezone(zone)
    off = first.utcoffset()
    if off is None or off != last.utcoffset() or off % timedelta(minutes=1):
        return None
    return off // timedelta(minutes=1), first.isoformat(timespec="minutes")[16:]
