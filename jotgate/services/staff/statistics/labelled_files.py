"""What files that statistics programs read have in common: labels, and numbers for all but text."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import NamedTuple

import polars as pl

from jotgate.core.common.errors import Invalid
from jotgate.core.statistics.variables import Form, Variable
from jotgate.services.staff.statistics.frames import why

DAY = 86_400
"""Seconds."""


class Clock(NamedTuple):
    """How a form counts: days in so many units, seconds in so many others, from so many days before
    1970 on."""

    day: int
    second: int
    before: int


def numbers(said: pl.Series, one: Variable, clock: Clock) -> pl.Series:
    """What is said in doubles: the numbers of codes, 1 for yes; days, times of day and moments as
    clocks showed them, as `clock` counts."""
    match one.form:
        case "code":
            known = {each.code: each.number for each in one.categories}
            found = said.replace_strict(known, default=None, return_dtype=pl.Float64)
        case "day":
            found = (said.cast(pl.Int32).cast(pl.Int64) + clock.before) * clock.day
        case "time":
            found = said.cast(pl.Int64) // 1_000_000_000 * clock.second
        case "moment":
            local = said.dt.replace_time_zone(None).dt.epoch("s")
            found = (local + clock.before * DAY) * clock.second
        case _:
            found = said
    return found.cast(pl.Float64)


def reasons(frame: pl.DataFrame, one: Variable) -> pl.Series | None:
    """Why nothing is said where nothing is; None where nobody knows. In a question of several parts
    that was answered a part without an answer has none."""
    return frame[why(one.of)] if one.told_apart else None


def labels(variables: Sequence[Variable], fit: Callable[[str], str]) -> dict[str, str | None]:
    return {one.name: fit(one.label) for one in variables}


def cut_to_bytes(words: str, most: int) -> str:
    """As much as fits in so many bytes of UTF-8."""
    whole = words.encode()
    return words if len(whole) <= most else whole[: most - 3].decode(errors="ignore") + "…"


def cut(words: str, most: int) -> str:
    return words if len(words) <= most else f"{words[: most - 1]}…"


def formats(variables: Sequence[Variable], of: Mapping[Form, str]) -> dict[str, str]:
    return {one.name: of[one.form] for one in variables if one.form in of}


def texts(frame: pl.DataFrame, variables: Sequence[Variable], longest: int) -> Iterator[Variable]:
    """The variables that hold text. Raises Invalid for one that is longer than so many bytes."""
    for one in variables:
        if one.form == "text":
            length = frame[one.name].str.len_bytes().max()
            if isinstance(length, int) and length > longest:
                message = f"An answer in {one.name} has {length:,} bytes, and such a file can hold"
                raise Invalid(f"{message} {longest:,}. Take CSV or Parquet.")
            yield one
