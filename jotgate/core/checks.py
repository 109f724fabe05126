"""Answer checking: what a respondent sent, to the value that is kept or a failure.

The browser may show the same failures earlier; this is the final word.
"""

from collections.abc import Callable
from datetime import date, time
from decimal import Decimal
from typing import Any

from jotgate.core.conditions import Value, as_decimal
from jotgate.core.dates import clock_time, day
from jotgate.core.failures import Failed
from jotgate.core.items import (
    Carried,
    Date,
    Item,
    LongText,
    Note,
    Number,
    PickMany,
    PickOne,
    Scale,
    ShortText,
    Time,
    YesNo,
)
from jotgate.core.texts import email, phone, shaped, text, web_address
from jotgate.core.wording import say

Raw = str | bool | int | float | None | list[object] | dict[str, object]
"""An answer as it comes over the wire: any JSON value."""

Json = str | bool | list[str]
"""A value as it is stored and sent."""

_DIGITS = 25
"""The longest number that is read; longer ones cannot be inside any range."""


def is_empty(raw: Raw) -> bool:
    return raw is None or raw == [] or (isinstance(raw, str) and not raw.strip())


def check(item: Item, raw: Raw, today: date, language: str = "") -> Value | None:
    """The value kept for `raw`, None where it is left unanswered. Raises Failed.

    `today` is the day in the questionnaire's time zone; `language` is that of the words in
    failures.
    """
    if is_empty(raw):
        if item.kind in ASKED and item.required:  # type: ignore[union-attr]
            raise Failed("required")
        return None
    return _CHECKS[item.kind](item, raw, today, language)


def _short_text(item: ShortText, raw: Raw, _: date, language: str) -> str:
    written = text(raw, item.shortest, item.longest or 1000)
    return shaped(item.pattern, written, language) if item.pattern else written


def _long_text(item: LongText, raw: Raw, *_: object) -> str:
    return text(raw, item.shortest, item.longest or 20_000, lines=True)


def _yes_no(item: YesNo, raw: Raw, *_: object) -> bool:
    if not isinstance(raw, bool):
        raise Failed("wrong_kind")
    return raw


def _carried(item: Carried, raw: Raw, *_: object) -> str:
    return _option(item, raw) if item.options else text(raw, None, item.longest)


def _note(item: Note, *_: object) -> Value:
    raise Failed("wrong_kind")


Check = Callable[[Any, Raw, date, str], Value]

_CHECKS: dict[str, Check] = {
    "short_text": _short_text,
    "long_text": _long_text,
    "email": lambda _item, raw, _today, _language: email(raw),
    "phone": lambda item, raw, _today, _language: phone(item, raw),
    "web_address": lambda _item, raw, _today, _language: web_address(raw),
    "number": lambda item, raw, _today, _language: _number(
        raw, item.at_least, item.at_most, item.decimals
    ),
    "scale": lambda item, raw, _today, _language: _number(raw, item.low, item.high, 0),
    "date": lambda item, raw, today, _language: day(item, raw, today),
    "time": lambda item, raw, _today, _language: clock_time(item, raw),
    "yes_no": _yes_no,
    "pick_one": lambda item, raw, _today, _language: _option(item, raw),
    "pick_many": lambda item, raw, _today, language: _picks(item, raw, language),
    "carried": _carried,
    "note": _note,
}
"""The check of each kind, looked up by its name: asking an item for its class costs far more."""

ASKED = frozenset(_CHECKS) - {"note", "carried"}


def _number(
    raw: Raw, low: Decimal | int | None, high: Decimal | int | None, decimals: int
) -> Decimal:
    if isinstance(raw, float):
        raw = repr(raw)
    if isinstance(raw, str):
        raw = raw.strip()
        if not raw.isascii() or "_" in raw:
            raise Failed("not_a_number")
    number = as_decimal(raw) if len(str(raw)) <= _DIGITS else None
    if number is None or abs(number.adjusted()) > _DIGITS:
        raise Failed("not_a_number")
    if -int(number.as_tuple().exponent) > decimals < -int(number.normalize().as_tuple().exponent):
        if decimals == 0:
            raise Failed("not_whole")
        raise Failed("too_many_decimals", limit=decimals)
    if low is not None and number < low:
        raise Failed("too_small", limit=plain(Decimal(low)))
    if high is not None and number > high:
        raise Failed("too_large", limit=plain(Decimal(high)))
    return number


def plain(number: Decimal) -> str:
    """`number` without exponent or trailing zeros: `12`, `0.5`, `-3`."""
    text = f"{number:f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def _option(item: PickOne | Carried, raw: Raw) -> str:
    if not isinstance(raw, str) or raw not in item.codes:
        raise Failed("not_an_option")
    return raw


def _picks(item: PickMany, raw: Raw, language: str) -> tuple[str, ...]:
    """The picked codes, each once, in the order of the options."""
    if not isinstance(raw, list) or not all(isinstance(one, str) for one in raw):
        raise Failed("wrong_kind")
    picked = {one for one in raw if isinstance(one, str)}
    if not picked <= item.codes:
        raise Failed("not_an_option")
    for option in item.options:
        if option.alone and option.code in picked and len(picked) > 1:
            label = say(option.label, language, language) or option.code
            raise Failed("not_alone", label=label)
    if item.fewest is not None and len(picked) < item.fewest and not _alone(item, picked):
        raise Failed("too_few", limit=item.fewest)
    if item.most is not None and len(picked) > item.most:
        raise Failed("too_many", limit=item.most)
    return tuple(option.code for option in item.options if option.code in picked)


def _alone(item: PickMany, picked: set[str]) -> bool:
    """Whether the only pick is one that excludes the others; that is enough of an answer."""
    return any(option.alone and {option.code} == picked for option in item.options)


def as_json(value: Value) -> Json:
    """`value` as it is stored and sent: decimal text, ISO 8601, lists of codes."""
    match value:
        case Decimal():
            return plain(value)
        case time():
            return value.isoformat("minutes")
        case date():
            return value.isoformat()
        case tuple():
            return list(value)
    return value


def from_json(item: Item, stored: Json) -> Value:
    """The value of `item` that `as_json` wrote."""
    if isinstance(stored, list):
        return tuple(stored)
    if isinstance(stored, str):
        match item:
            case Number() | Scale():
                return Decimal(stored)
            case Date():
                return date.fromisoformat(stored)
            case Time():
                return time.fromisoformat(stored)
    return stored
