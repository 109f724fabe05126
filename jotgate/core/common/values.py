"""Answers as the core holds them, and the operands that conditions compare them with."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from decimal import Decimal, InvalidOperation
from typing import Union

from jotgate.core.common.today import Today, day_of

ELSE = "else"
"""The code under which something else, in the respondent's own words, is picked."""


TRUE, FALSE = "true", "false"
"""The codes of yes and no, where they stand among codes."""


@dataclass(frozen=True)
class Else:
    """Something else that was picked, in the respondent's own words."""

    words: str


@dataclass(frozen=True)
class FileFacts:
    """A file that was sent and looked at. `size` is in bytes, `type` a media type (RFC 6838)."""

    id: str
    name: str
    size: int
    type: str


Value = Union[  # noqa: UP007 - it names itself
    str, bool, Decimal, date, time, Else, FileFacts, tuple["Value", ...], Mapping[str, "Value"]
]
"""An answer as the core holds it: text and option codes, yes/no, numbers, dates, times of day,
moments (in UTC), and what was picked of many. Names, addresses and signatures are maps of their
parts; files a tuple; a roster a tuple of maps from key to answer, a grid a map from row to such
a tuple."""

Values = Mapping[str, Value]
"""Answers that count, by key: only of items that are shown, on the path, and answered.

Visitor facts that arrive with a pass or a sign-in stand under dotted keys, such as
`contact.email`; no item has such a key."""


def as_decimal(raw: object) -> Decimal | None:
    """`raw` as a finite decimal, or None where it is not one."""
    if isinstance(raw, bool) or not isinstance(raw, str | int | Decimal):
        return None
    try:
        number = Decimal(raw)
    except InvalidOperation:
        return None
    return number if number.is_finite() else None


def read_operand(
    answer_type: type, operand: str | bool, today: Today
) -> Decimal | date | time | None:
    """`operand` as an ordered value to hold an answer of `answer_type` against, else None.

    A day may be relative, such as `today-7`. A moment is held against a day, where the
    questionnaire is at home, or against a moment with its offset from UTC, such as
    `2026-11-25T09:00+00:00`.
    """
    if answer_type is Decimal:
        return as_decimal(operand)
    if not isinstance(operand, str):
        return None
    if answer_type is time:
        return _from_iso(time, operand)
    if answer_type is datetime and len(operand) > 10 and not operand.startswith("today"):
        found = _from_iso(datetime, operand)
        return found if isinstance(found, datetime) and found.tzinfo else None
    return day_of(operand, today.day) if answer_type in (date, datetime) else None


def _from_iso(kind: type[time] | type[datetime], written: str) -> time | datetime | None:
    try:
        return kind.fromisoformat(written)
    except ValueError:
        return None
