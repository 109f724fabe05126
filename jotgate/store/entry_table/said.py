"""What an entry says under a key, held against an operand, as SQL."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, time
from functools import partial
from typing import Any

from sqlalchemy import Boolean, ColumnElement, Text, and_, cast, false, func, literal, or_, true
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, as_decimal, read_operand
from jotgate.core.conditions.comparison import RELATIONS
from jotgate.core.entries.table import Held
from jotgate.core.items import Item
from jotgate.store.entry_table.days import CLASSES, Test, day_of_zone, in_day, short, utc
from jotgate.store.entry_table.sorting import Part, expression

Likes = Mapping[tuple[str, str], Sequence[str]]
"""By key and pattern: the texts under that key that are like it. PostgreSQL has other patterns."""


@dataclass(frozen=True)
class Said:
    """What is held under a key: `all` is the JSON that has the key, `guard` that an entry's edition
    holds something of the form that is meant. `falling` has what is ordered compared as it stands
    with the largest first, so that one index serves both ends of a range."""

    key: str
    held: Held
    all: ColumnElement[Any]
    guard: Test | None
    item: Item
    inner: bool
    falling: bool = False

    @property
    def json(self) -> ColumnElement[Any]:
        found: ColumnElement[Any] = self.all.op("->", return_type=JSONB())(literal(self.key, Text))
        return found

    @property
    def text(self) -> ColumnElement[Any]:
        found: ColumnElement[Any] = self.all.op("->>", return_type=Text())(literal(self.key, Text))
        return found

    def has(self, value: Any) -> Test:
        """That the JSON under the key contains `value`."""
        found: Test = self.all.op("@>", return_type=Boolean())(literal({self.key: value}, JSONB))
        return found

    @property
    def there(self) -> Test:
        return self.all.op("?", return_type=Boolean())(literal(self.key, Text))


def is_one(value: str | bool, said: Said, today: Today, likes: Likes) -> Test:
    found = []
    if said.held in ("picks", "first"):
        found.append(includes(value, said))
    if said.held != "picks":
        found.append(compares("is", value, said, today, likes))
    return or_(*found)


def compares(op: str, value: str | bool, said: Said, today: Today, likes: Likes) -> Test:
    if said.held in ("number", "day", "time", "moment"):
        return _ordered(op, value, said, today)
    if op == "includes":
        return includes(value, said) if said.held in ("picks", "first") else false()
    if said.held not in ("text", "pick", "truth", "first"):
        return false()
    if op == "contains":
        return _contains(value, said)
    if op == "like":
        return said.text.in_(list(likes.get((said.key, str(value)), ())))
    if op not in ("is", "is_not"):
        return false()
    same = _is(value, said)
    if op == "is":
        return same
    single = func.jsonb_typeof(said.json).in_(["string", "boolean"])
    kinds = true() if said.held == "pick" else single
    return and_(said.there, kinds, same.is_not(true()))


def _is(value: str | bool, said: Said) -> Test:
    if said.held == "pick" and value == ELSE:
        return func.jsonb_typeof(said.json) == "object"
    if isinstance(value, bool) is not (said.held == "truth") and said.held != "first":
        return false()
    return said.has(value)


def includes(value: str | bool, said: Said) -> Test:
    if value == ELSE:
        pattern = '$[*] ? (@.type() == "object")'
        is_list = func.jsonb_typeof(said.json) == "array"
        other = func.jsonb_path_exists(said.json, cast(literal(pattern), JSONB.JSONPathType))
        return and_(is_list, or_(said.has([ELSE]), other))
    return said.has([value]) if isinstance(value, str) else false()


def _contains(value: str | bool, said: Said) -> Test:
    if not isinstance(value, str) or said.held not in ("text", "first", "pick"):
        return false()
    is_text = func.jsonb_typeof(said.json) == "string"
    letters = expression(Part(said.key, "letters"), said.all)
    return and_(letters.like(f"%{_escaped(value.casefold())}%"), is_text)


def _escaped(words: str) -> str:
    for one in "\\%_":
        words = words.replace(one, f"\\{one}")
    return words


def folded(text: ColumnElement[Any]) -> ColumnElement[Any]:
    """As `entry_letters` does: as `str.casefold`, but for letters that few keyboards have."""
    found: ColumnElement[Any] = func.lower(text.collate("und-x-icu"))
    for letter, folded in (("ß", "ss"), ("ς", "σ"), ("ŉ", "ʼn"), ("ſ", "s")):
        found = func.replace(found, letter, folded)
    return found


def _ordered(op: str, value: str | bool, said: Said, today: Today) -> Test:
    """Text in ISO 8601, and moments in UTC, stand in the order of what they mean."""
    if said.held == "number":
        number = as_decimal(value)
        if number is None:
            return said.there if op == "is_not" else false()
        return _related(op, number, said, "number")
    kind = CLASSES[said.held]
    operand: Any = read_operand(kind, value, today)
    if operand is None:
        return said.there if op == "is_not" else false()
    if kind is datetime:
        if not isinstance(operand, datetime):
            begin, end = (utc(one) for one in day_of_zone(operand, today))
            related = partial(_related, said=said, by="raw")
            return in_day(op, said.there, related, begin, end)
        operand = utc(operand)
    elif kind is time:
        operand = short(operand)
    else:
        operand = operand.isoformat()
    return _related(op, operand, said, "raw")


def _related(op: str, operand: Any, said: Said, by: Any) -> Test:
    """What is empty stands below for what is to be large, above for what is to be small."""
    relation = RELATIONS.get(op)
    if relation is None:
        return false()
    falling = said.falling or op not in ("at_most", "less_than")
    part = Part(said.key, by, descending=falling)
    found: Any = relation(expression(part, said.all), operand)
    return and_(said.there, found) if op == "is_not" or said.inner else found
