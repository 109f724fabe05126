"""Data as .sav, written by pyreadstat. Why nothing is said stands in codes that each variable
declares to be missing values. How long things may be is from memory."""

from collections.abc import Mapping, Sequence
from typing import Any

import polars as pl

from jotgate.core.common.errors import Invalid
from jotgate.core.statistics.variables import LEFT_EMPTY, MISSING, NOT_ASKED, Form, Variable
from jotgate.services.staff.statistics.labelled_files import (
    Clock,
    cut_to_bytes,
    formats,
    labels,
    numbers,
    reasons,
    texts,
)

CLOCK = Clock(day=86_400, second=1, before=141_428)
"""Seconds from the first day of the Gregorian calendar, 1582-10-14 as such files count."""

FORMATS: Mapping[Form, str] = {"day": "SDATE10", "time": "TIME5", "moment": "DATETIME17"}
TITLE, LABEL, VALUE_LABEL, TEXT = 64, 256, 120, 32_767
"""Bytes."""

Codes = dict[str, float] | dict[str, str]
"""What stands for each reason why nothing is said."""


def write(frame: pl.DataFrame, variables: Sequence[Variable], title: str, out: str) -> None:
    """`frame` has values in their types, and why there is none. Raises Invalid for what such a file
    cannot hold."""
    import pyreadstat

    written = set(texts(frame, variables, TEXT))
    columns: list[pl.Series] = []
    codes: dict[str, Codes] = {}
    for one in variables:
        said, missing = _column(frame, one, one in written)
        columns.append(said.alias(one.name))
        if missing:
            codes[one.name] = missing
    values = {one.name: _values(one, codes.get(one.name, {})) for one in variables}
    pyreadstat.write_sav(
        pl.DataFrame(columns),
        out,
        file_label=cut_to_bytes(title, TITLE),
        column_labels=labels(variables, lambda words: cut_to_bytes(words, LABEL)),
        row_compress=True,
        variable_value_labels={name: one for name, one in values.items() if one},
        missing_ranges={name: list(one.values()) for name, one in codes.items()},
        variable_measure={one.name: _measure(one) for one in variables},
        variable_format=formats(variables, FORMATS),
    )


def _column(frame: pl.DataFrame, one: Variable, is_text: bool) -> tuple[pl.Series, Codes]:
    said = frame[one.name] if is_text else numbers(frame[one.name], one, CLOCK)
    why = reasons(frame, one)
    if why is None:
        return (said.fill_null("") if is_text else said), {}
    codes: Codes = _free_text(said) if is_text else _free(said)
    type_ = pl.String if is_text else pl.Float64
    told = why.replace_strict(codes, default="" if is_text else None, return_dtype=type_)
    return said.zip_with(said.is_not_null(), told), codes


def _free(said: pl.Series) -> dict[str, float]:
    """Numbers that nobody said."""
    for digits in range(1, 16):
        last = -(10.0**digits) + 1
        if not said.is_in([last, last + 1]).any():
            return {LEFT_EMPTY: last + 1, NOT_ASKED: last}
    raise Invalid("There is no number left that could stand for a missing answer. Take Parquet.")


def _free_text(said: pl.Series) -> dict[str, str]:
    """Texts of at most eight bytes that nobody said."""
    for digits in range(1, 8):
        last = -(10**digits) + 1
        found = {LEFT_EMPTY: str(last + 1), NOT_ASKED: str(last)}
        if not said.is_in(list(found.values())).any():
            return found
    raise Invalid("There is no text left that could stand for a missing answer. Take Parquet.")


def _values(one: Variable, codes: Codes) -> dict[Any, str]:
    own = {float(each.number): each.label for each in one.categories}
    missing = {code: MISSING[reason] for reason, code in codes.items()}
    return {code: cut_to_bytes(words, VALUE_LABEL) for code, words in (own | missing).items()}


def _measure(one: Variable) -> str:
    if one.form in ("text", "code", "truth"):
        return "nominal"
    return "ordinal" if one.categories else "scale"
