"""Answer checking: what a respondent sent, to the value that is kept or a failure.

Every failure is a code with parameters; the words come from `MESSAGES`. The browser shows
the same failures earlier, this is the final word.
"""

import re
import unicodedata
from decimal import Decimal

from jotgate.core.conditions import Value, as_decimal
from jotgate.core.errors import Fault
from jotgate.core.questionnaire import (
    Carried,
    Item,
    LongText,
    Note,
    Number,
    PickOne,
    Question,
    ShortText,
    YesNo,
)
from jotgate.core.wording import say

Raw = str | bool | int | float | None | list[object] | dict[str, object]
"""An answer as it comes over the wire: any JSON value."""

MESSAGES = {
    "required": "Answer this question.",
    "wrong_kind": "This is not an answer that the question takes.",
    "too_short": "Write at least {limit} characters; it has {length}.",
    "too_long": "Write at most {limit} characters; it has {length}.",
    "not_a_number": "Write a number, such as 12.",
    "not_whole": "Write a whole number, without a decimal part.",
    "too_many_decimals": "Write at most {limit} digits after the decimal point.",
    "too_small": "Give a number of at least {limit}.",
    "too_large": "Give a number of at most {limit}.",
    "not_an_option": "Pick one of the options.",
    "control_character": "Take out the invisible control characters.",
}
"""Code -> English words; `{...}` stand for the failure's parameters."""

_CONTROL = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff]")
"""Control characters and lone surrogates: the Unicode categories Cc and Cs."""

_CONTROL_IN_LINES = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff]")
"""The same but for tabs and line feeds."""

_DIGITS = 25
"""The longest number that is read; longer ones cannot be inside any range."""


class Failed(Exception):
    """An answer that fails a check, by code and parameters."""

    def __init__(self, code: str, **params: int | str) -> None:
        super().__init__(code)
        self.code = code
        self.params = params


def is_empty(raw: Raw) -> bool:
    return raw is None or raw == [] or (isinstance(raw, str) and not raw.strip())


def check(item: Item, raw: Raw) -> Value | None:
    """The value kept for `raw`, None where it is left unanswered. Raises Failed."""
    if is_empty(raw):
        if isinstance(item, Question) and item.required:
            raise Failed("required")
        return None
    match item:
        case ShortText():
            return _text(raw, item.shortest, item.longest or 1000, lines=False)
        case LongText():
            return _text(raw, item.shortest, item.longest or 20_000, lines=True)
        case Number():
            return _number(item, raw)
        case YesNo():
            if not isinstance(raw, bool):
                raise Failed("wrong_kind")
            return raw
        case PickOne():
            return _option(item, raw)
        case Carried():
            if item.options:
                return _option(item, raw)
            return _text(raw, None, item.longest, lines=False)
        case Note():
            raise Failed("wrong_kind")


def _text(raw: Raw, shortest: int | None, longest: int, lines: bool) -> str:
    if not isinstance(raw, str):
        raise Failed("wrong_kind")
    text = unicodedata.normalize("NFC", raw.replace("\r\n", "\n").replace("\r", "\n")).strip()
    if (_CONTROL_IN_LINES if lines else _CONTROL).search(text):
        raise Failed("control_character")
    if len(text) > longest:
        raise Failed("too_long", limit=longest, length=len(text))
    if shortest is not None and len(text) < shortest:
        raise Failed("too_short", limit=shortest, length=len(text))
    return text


def _number(item: Number, raw: Raw) -> Decimal:
    if isinstance(raw, float):
        raw = repr(raw)
    if isinstance(raw, str):
        raw = raw.strip()
        if not raw.isascii() or "_" in raw:
            raise Failed("not_a_number")
    number = as_decimal(raw) if len(str(raw)) <= _DIGITS else None
    if number is None or abs(number.adjusted()) > _DIGITS:
        raise Failed("not_a_number")
    if -int(number.normalize().as_tuple().exponent) > item.decimals:
        if item.decimals == 0:
            raise Failed("not_whole")
        raise Failed("too_many_decimals", limit=item.decimals)
    if item.at_least is not None and number < item.at_least:
        raise Failed("too_small", limit=plain(item.at_least))
    if item.at_most is not None and number > item.at_most:
        raise Failed("too_large", limit=plain(item.at_most))
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


def fault_of(item: Item, failed: Failed, language: str, first: str) -> Fault:
    """`failed` as a fault at `item`, in the item's own words where it has some."""
    own = item.error_text if isinstance(item, Question) else {}
    message = MESSAGES[failed.code].format(**failed.params)
    if failed.code != "required":
        message = say(own, language, first) or message
    return Fault(code=failed.code, at=item.key, message=message, params=failed.params)


def as_json(value: Value) -> str | bool:
    """`value` as it is stored and sent: numbers as decimal text, the rest as it is."""
    return plain(value) if isinstance(value, Decimal) else value


def from_json(item: Item, stored: str | bool) -> Value:
    """The value of `item` that `as_json` wrote."""
    return Decimal(stored) if isinstance(item, Number) else stored
