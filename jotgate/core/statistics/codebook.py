"""A codebook: what each variable of a table means, what it can be, and how often it is what."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal

from jotgate.core.statistics.variables import Variable

DataFormat = Literal["csv", "parquet", "sav", "dta"]
"""The forms of data that a codebook is of."""


@dataclass(frozen=True)
class Counted:
    """How many rows say something of a variable; where that is told apart, why the others do not:
    they left it empty, or were not asked, and the rest came before that was noted. `by_code` counts
    categories; `low` and `high` are the ends of numbers and days."""

    answered: int
    left_empty: int = 0
    not_asked: int = 0
    by_code: Mapping[str, int] = field(default_factory=dict)
    low: str | None = None
    high: str | None = None


@dataclass(frozen=True)
class Described:
    """A variable; `kind` is the form of its question, and `when` in words when that is asked, empty
    where always."""

    variable: Variable
    counted: Counted
    kind: str = ""
    when: str = ""


@dataclass(frozen=True)
class DescribedTable:
    """`name` is that of its file, without an ending."""

    name: str
    title: str
    rows: int
    variables: tuple[Described, ...]


@dataclass(frozen=True)
class Codebook:
    """`made` is in the questionnaire's time zone, in which its moments are told."""

    title: str
    language: str
    editions: tuple[int, ...]
    made: datetime
    tables: tuple[DescribedTable, ...]
