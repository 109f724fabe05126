"""What is counted of variables, of some rows after the other."""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

import polars as pl

from jotgate.core.statistics.codebook import Counted
from jotgate.core.statistics.variables import MISSING, Category, Form, Variable
from jotgate.services.staff.statistics.frames import why

BY: Mapping[Form, tuple[type[pl.DataType], Callable[[str], Any]]] = {
    "whole": (pl.Float64, Decimal),
    "number": (pl.Float64, Decimal),
    "day": (pl.String, str),
    "moment": (pl.String, str),
}
"""By what the ends of a form are found, in a piece and among those of several."""


class Counting:
    """Of frames with text; moments are told in a zone."""

    def __init__(self, variables: Sequence[Variable], zone: ZoneInfo) -> None:
        self.rows = 0
        self._given, self._zone = variables, zone
        self._many: Counter[str] = Counter()
        self._codes: list[Counter[str]] = [Counter() for _ in variables]
        self._ends: list[list[str]] = [[] for _ in variables]
        self._wanted = [one for at, given in enumerate(variables) for one in _wanted(at, given)]

    def add(self, frame: pl.DataFrame) -> None:
        self.rows += len(frame)
        found = frame.select(self._wanted).row(0, named=True)
        for at, one in enumerate(self._given):
            for name in ("said", *MISSING):
                self._many[f"{at} {name}"] += found.get(f"{at} {name}") or 0
            if one.categories or one.form == "code":
                counts = frame[one.name].drop_nulls().value_counts()
                self._codes[at].update(dict(counts.iter_rows()))
            if one.form in BY:
                ends = [*self._ends[at], found[f"{at} low"], found[f"{at} high"]]
                known = sorted((each for each in ends if each is not None), key=BY[one.form][1])
                self._ends[at] = known[:1] + known[-1:]

    def variables(self) -> tuple[Variable, ...]:
        """With the codes that were said and are none of their categories any more."""
        return tuple(
            replace(one, categories=(*one.categories, *self._other(at, one)))
            if one.form == "code"
            else one
            for at, one in enumerate(self._given)
        )

    def _other(self, at: int, one: Variable) -> list[Category]:
        known = {each.code for each in one.categories}
        last = max((each.number for each in one.categories), default=0)
        more = enumerate(sorted(set(self._codes[at]) - known), last + 1)
        return [Category(code, number, code) for number, code in more]

    def counted(self) -> tuple[Counted, ...]:
        return tuple(self._one(at, one) for at, one in enumerate(self._given))

    def _one(self, at: int, one: Variable) -> Counted:
        told = self._told if one.form == "moment" else str
        low, high = (told(each) for each in self._ends[at]) if self._ends[at] else (None, None)
        said, empty, never = (self._many[f"{at} {name}"] for name in ("said", *MISSING))
        return Counted(said, empty, never, self._codes[at], low, high)

    def _told(self, moment: str) -> str:
        at = datetime.fromisoformat(moment[:16]).replace(tzinfo=UTC)
        return at.astimezone(self._zone).isoformat(timespec="minutes")


def _wanted(at: int, one: Variable) -> list[pl.Expr]:
    said = pl.col(one.name)
    found = [said.count().alias(f"{at} said")]
    if one.told_apart:
        reason = pl.col(why(one.of))
        found += [(reason == mark).sum().alias(f"{at} {mark}") for mark in MISSING]
    if one.form in BY:
        by = said.cast(BY[one.form][0])
        for name, place in (("low", by.arg_min()), ("high", by.arg_max())):
            found.append(said.gather(place).first().alias(f"{at} {name}"))
    return found
