"""The common answers checked the short way, so that a full entry costs little.

A short check gives the value that `checks.check` would give, or None where it is not sure;
then `check` decides and names what fails. It never gives a value that `check` would refuse.
"""

import re
from collections.abc import Callable
from datetime import time
from decimal import Decimal
from typing import Any

from jotgate.core.checking.texts import plain_email
from jotgate.core.common.patterns import BadPattern, likely
from jotgate.core.common.values import Value
from jotgate.core.items import (
    Item,
    LongText,
    Number,
    PickMany,
    PickOne,
    Scale,
    ShortText,
    Time,
)

Quick = Callable[[Any], Value | None]


def quick_of(item: Item) -> Quick:
    """The short check of `item`, made once."""
    make = _MAKE.get(item.kind)
    return make(item) if make else _unsure


def _unsure(_: Any) -> None:
    return None


def _short_text(item: ShortText) -> Quick:
    low, high = max(item.shortest or 1, 1), item.longest or 1000
    try:
        fits = likely(item.pattern.expression) if item.pattern else None
    except BadPattern:
        return _unsure

    def quick(raw: Any) -> str | None:
        if raw.__class__ is not str or not raw.isascii() or not raw.isprintable():
            return None
        written: str = raw.strip(" ")
        if not low <= len(written) <= high or (fits is not None and fits(written) is None):
            return None
        return written

    return quick


def _long_text(item: LongText) -> Quick:
    low, high = max(item.shortest or 1, 1), item.longest or 20_000

    def quick(raw: Any) -> str | None:
        if raw.__class__ is not str or not raw.isascii() or not raw.isprintable():
            return None
        written: str = raw.strip(" ")
        return written if low <= len(written) <= high else None

    return quick


def _scale(item: Scale) -> Quick:
    low, high = Decimal(item.low), Decimal(item.high)

    def quick(raw: Any) -> Decimal | None:
        if raw.__class__ is not str or len(raw) > 18 or not raw.isascii() or not raw.isdigit():
            return None
        number = Decimal(raw)
        return number if low <= number <= high else None

    return quick


def _number(item: Number) -> Quick:
    if item.step is not None:
        return _unsure
    low = Decimal("-Infinity") if item.at_least is None else item.at_least
    high = Decimal("Infinity") if item.at_most is None else item.at_most
    decimals = rf"(?:\.[0-9]{{1,{item.decimals}}})?" if item.decimals else ""
    fits = re.compile("[0-9]{1,12}" + decimals).fullmatch

    def quick(raw: Any) -> Decimal | None:
        if raw.__class__ is not str or fits(raw) is None:
            return None
        number = Decimal(raw)
        return number if low <= number <= high else None

    return quick


def _yes_no(_: Item) -> Quick:
    return lambda raw: raw if raw is True or raw is False else None


def _pick_one(item: PickOne) -> Quick:
    if item.varies:
        return _unsure
    codes = item.codes

    def quick(raw: Any) -> str | None:
        return raw if raw.__class__ is str and raw in codes else None

    return quick


def _pick_many(item: PickMany) -> Quick:
    if item.varies:
        return _unsure
    places = {option.code: place for place, option in enumerate(item.options)}
    alone = frozenset(option.code for option in item.options if option.alone)
    low, high = item.fewest or 1, item.most or len(item.options)

    def quick(raw: Any) -> tuple[str, ...] | None:
        if raw.__class__ is not list or not low <= len(raw) <= high:
            return None
        last = -1
        for one in raw:
            place = places.get(one, -1) if one.__class__ is str and one not in alone else -1
            if place <= last:
                return None
            last = place
        return tuple(raw)

    return quick


_CLOCK = re.compile("(?:[01][0-9]|2[0-3]):[0-5][0-9]")


def _time(item: Time) -> Quick:
    low = time.fromisoformat(item.earliest) if item.earliest else time.min
    high = time.fromisoformat(item.latest) if item.latest else time.max

    def quick(raw: Any) -> time | None:
        if raw.__class__ is not str or _CLOCK.fullmatch(raw) is None:
            return None
        found = time.fromisoformat(raw)
        return found if low <= found <= high else None

    return quick


def _email(_: Item) -> Quick:
    def quick(raw: Any) -> str | None:
        return plain_email(raw) if raw.__class__ is str and len(raw) <= 254 else None

    return quick


_MAKE: dict[str, Callable[[Any], Quick]] = {
    "short_text": _short_text,
    "long_text": _long_text,
    "number": _number,
    "scale": _scale,
    "yes_no": _yes_no,
    "pick_one": _pick_one,
    "pick_many": _pick_many,
    "email": _email,
    "time": _time,
}
