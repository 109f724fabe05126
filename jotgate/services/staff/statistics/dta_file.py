"""Data as .dta, written by pyreadstat. Why nothing is said stands in the form's own missing values;
text has none, a variable beside it says it there. How long things may be is from memory."""

from collections.abc import Mapping, Sequence
from typing import Any

import polars as pl

from jotgate.core.statistics.variables import (
    LEFT_EMPTY,
    MISSING,
    NOT_ASKED,
    Form,
    Names,
    Variable,
)
from jotgate.services.staff.statistics.labelled_files import (
    Clock,
    cut,
    formats,
    labels,
    numbers,
    reasons,
    texts,
)

CLOCK = Clock(day=1, second=1_000, before=3_653)
"""Days, and milliseconds, from 1960-01-01 on."""

FORMATS: Mapping[Form, str] = {"day": "%td", "time": "%tcHH:MM", "moment": "%tc"}
LABEL, TEXT = 80, 2_000_000_000
"""Characters, and bytes."""

LETTERS = {LEFT_EMPTY: "a", NOT_ASKED: "b"}
BESIDE = {LEFT_EMPTY: 1.0, NOT_ASKED: 2.0}


def write(frame: pl.DataFrame, variables: Sequence[Variable], title: str, out: str) -> None:
    """`frame` has values in their types, and why there is none."""
    import pyreadstat

    written = set(texts(frame, variables, TEXT))
    names = Names()
    for one in variables:
        names.name([one.name])
    columns: list[pl.Series] = []
    letters: dict[str, list[str]] = {}
    beside: dict[str, str | None] = {}
    for one in variables:
        why = reasons(frame, one)
        if one in written:
            columns.append(frame[one.name].fill_null(""))
            if why is not None:
                told = why.replace_strict(BESIDE, default=None, return_dtype=pl.Float64)
                name = names.name([one.name, "missing"])
                beside[name] = cut(f"Why there is none: {one.label}", LABEL)
                columns.append(told.alias(name))
            continue
        said = numbers(frame[one.name], one, CLOCK)
        if why is not None and why.count():
            said = _with_letters(said, why)
            letters[one.name] = list(LETTERS.values())
        columns.append(said.alias(one.name))
    values = {one.name: _values(one, one.name in letters) for one in variables}
    told_beside: dict[Any, str] = {BESIDE[reason]: words for reason, words in MISSING.items()}
    pyreadstat.write_dta(
        pl.DataFrame(columns),
        out,
        file_label=cut(title, LABEL),
        column_labels=labels(variables, lambda words: cut(words, LABEL)) | beside,
        variable_value_labels={name: one for name, one in values.items() if one}
        | dict.fromkeys(beside, told_beside),
        missing_user_values=letters,
        variable_format=formats(variables, FORMATS),
    )


def _with_letters(said: pl.Series, why: pl.Series) -> pl.Series:
    told = why.replace_strict(LETTERS, default=None, return_dtype=pl.String)
    mixed = [one if letter is None else letter for one, letter in zip(said, told, strict=True)]
    return pl.Series(said.name, mixed, dtype=pl.Object)


def _values(one: Variable, letters: bool) -> dict[Any, str]:
    own: dict[Any, str] = {float(each.number): each.label for each in one.categories}
    if own and letters:
        own |= {LETTERS[reason]: words for reason, words in MISSING.items()}
    return own
