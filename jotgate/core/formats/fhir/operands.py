"""Operands of `enableWhen` as FHIR writes them (HL7 FHIR R4, 2.24.0.1, the primitive types)."""

import re
from datetime import date
from typing import Any

from jotgate.core.common.values import as_decimal
from jotgate.core.formats.fhir.terms import TYPES
from jotgate.core.items import Item

NOTHING: tuple[str, Any] = ("", None)

_STRING = re.compile(r"[ \r\n\t\S]+")
_CODE = re.compile(r"\S+(\s\S+)*")
_TIME = re.compile(r"([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?")
_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
_DATE_TIME = re.compile(r"(\d{4}-\d{2}-\d{2})T\d{2}:\d{2}:\d{2}(\.\d+)?(Z|[+-]\d{2}:\d{2})")
_WHOLE = range(-(2**31), 2**31)
_PLACES = 12
"""Digits of a decimal that come back as they were written."""


def operand(asked: Item, value: str | bool) -> tuple[str, Any]:
    """The name of the element and its value; no name where FHIR has none for it."""
    kind = TYPES[asked.kind]
    if isinstance(value, bool):
        return ("answerBoolean", value) if kind == "boolean" else NOTHING
    if asked.kind in ("number", "scale"):
        return _number(value, getattr(asked, "decimals", 0) > 0)
    if asked.kind == "computed" or value == "else":
        return NOTHING
    match kind:
        case "choice":
            return ("answerCoding", {"code": value}) if _CODE.fullmatch(value) else NOTHING
        case "date":
            return ("answerDate", value) if _is_day(value) else NOTHING
        case "dateTime":
            return ("answerDateTime", value) if _is_moment(value) else NOTHING
        case "time" if _TIME.fullmatch(value):
            return "answerTime", value if len(value) == 8 else f"{value}:00"
        case "string" | "text" | "url" if _STRING.fullmatch(value):
            return "answerString", value
    return NOTHING


def _number(value: str, decimals: bool) -> tuple[str, Any]:
    number = as_decimal(value)
    if number is None:
        return NOTHING
    if decimals:
        fits = abs(number.adjusted()) < _PLACES and len(number.as_tuple().digits) <= _PLACES
        return ("answerDecimal", float(number)) if fits else NOTHING
    # Bounds first: a number may have more digits than there is room for.
    if not _WHOLE[0] <= number <= _WHOLE[-1] or number != number.to_integral_value():
        return NOTHING
    return "answerInteger", int(number)


def _is_day(value: str) -> bool:
    if not _DATE.fullmatch(value):
        return False
    try:
        date.fromisoformat(value)
    except ValueError:
        return False
    return True


def _is_moment(value: str) -> bool:
    """A day may stand for a moment; a time has seconds and its offset."""
    found = _DATE_TIME.fullmatch(value)
    return _is_day(found[1] if found else value)
