"""Checking numbers, which are exact decimals."""

import re
from collections.abc import Iterator, Mapping
from decimal import Decimal
from random import Random
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.rules import FastCheck, Limits, Raw, Rules, Schema, Words, range_faults
from jotgate.core.common.decimals import plain, stepped, whole_steps
from jotgate.core.common.formatting import number as in_words
from jotgate.core.common.today import Today
from jotgate.core.common.values import as_decimal
from jotgate.core.items.written import Number

_DIGITS = 25
"""The longest number that is read; longer ones cannot be inside any range."""


def read_number(raw: object) -> Decimal:
    """A JSON number, or decimal text. Raises CheckFailed."""
    if isinstance(raw, float):
        raw = repr(raw)
    if isinstance(raw, str):
        raw = raw.strip()
        if not raw.isascii() or "_" in raw:
            raise CheckFailed("not_a_number")
    if isinstance(raw, int) and abs(raw) >= 10**_DIGITS:
        raise CheckFailed("not_a_number")
    number = as_decimal(raw) if len(str(raw)) <= _DIGITS else None
    if number is None or abs(number.adjusted()) > _DIGITS:
        raise CheckFailed("not_a_number")
    return number


def within(
    number: Decimal, low: Decimal | int | None, high: Decimal | int | None, decimals: int
) -> Decimal:
    """`number`, if it lies between the ends. Raises CheckFailed."""
    if -int(number.as_tuple().exponent) > decimals < -int(number.normalize().as_tuple().exponent):
        if decimals == 0:
            raise CheckFailed("not_whole")
        raise CheckFailed("too_many_decimals", limit=decimals)
    if low is not None and number < low:
        raise CheckFailed("too_small", limit=Decimal(low))
    if high is not None and number > high:
        raise CheckFailed("too_large", limit=Decimal(high))
    return number


def number(item: Number, raw: object) -> Decimal:
    found = within(read_number(raw), item.at_least, item.at_most, item.decimals)
    if item.step:
        start = item.at_least or Decimal(0)
        steps = whole_steps(found, start, item.step)
        below = stepped(start, steps, item.step)
        if below != found:
            above = stepped(below, 1, item.step)
            raise CheckFailed("not_a_step", below=below, above=above, step=item.step)
    return found


def _fast(item: Number) -> FastCheck:
    if item.step is not None:
        return lambda _: None
    low = Decimal("-Infinity") if item.at_least is None else item.at_least
    high = Decimal("Infinity") if item.at_most is None else item.at_most
    decimals = rf"(?:\.[0-9]{{1,{item.decimals}}})?" if item.decimals else ""
    fits = re.compile("[0-9]{1,12}" + decimals).fullmatch

    def fast(raw: Raw) -> Decimal | None:
        if raw.__class__ is not str or fits(raw) is None:
            return None
        found = Decimal(raw)
        return found if low <= found <= high else None

    return fast


def range_schema(kind: str, low: Any, high: Any) -> Schema:
    found: Schema = {"type": kind}
    for name, limit in (("minimum", low), ("maximum", high)):
        if limit is not None:
            found[name] = int(limit) if limit == int(limit) else float(limit)
    return found


def _schema(item: Number) -> Schema:
    return range_schema("number" if item.decimals else "integer", item.at_least, item.at_most)


def _unsaid(item: Number) -> Iterator[str]:
    if item.decimals:
        yield f"at most {item.decimals} digits after the point"
    if item.step is not None:
        yield "its step"


def _tell(words: Words, item: Number, value: Decimal) -> str:
    return f"{in_words(value, words.language)} {words.say(item.unit)}".strip()


def _make(item: Number, _: Today, dice: Random) -> Raw:
    unit = item.step or Decimal(1).scaleb(-item.decimals)
    start = item.at_least if item.at_least is not None else Decimal(0)
    room = 12
    if item.at_most is not None:
        if item.at_most < start and item.at_least is None:
            start = stepped(start, whole_steps(item.at_most, start, unit), unit)
        room = min(int(whole_steps(item.at_most, start, unit)), 1000)
    return format(stepped(start, dice.randint(0, room), unit), "f") if room >= 0 else None


def _limits(item: Number, _: Today) -> Limits:
    edges = {"at_least": item.at_least, "at_most": item.at_most, "step": item.step}
    told = {name: None if edge is None else plain(edge) for name, edge in edges.items()}
    return {**told, "decimals": item.decimals}


RULES: Mapping[str, Rules] = {
    "number": Rules(
        check=lambda item, raw, _: number(item, raw),
        fast=_fast,
        schema=_schema,
        unsaid=_unsaid,
        read=lambda _, stored: Decimal(stored),
        tell=_tell,
        make=_make,
        limits=_limits,
        faults=lambda item: range_faults(item.at_least, item.at_most),
    )
}
