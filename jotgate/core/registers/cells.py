"""Cells of a register: what is given for one read as its column keeps it, or told why it cannot."""

from collections.abc import Callable, Mapping
from datetime import UTC, date, datetime, time
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email, text, web_address
from jotgate.core.common.decimals import plain
from jotgate.core.common.values import as_decimal
from jotgate.core.registers.columns import Column, ColumnType

Cell = str | bool | list[str]
"""A cell in JSON: text, decimal text, dates and times in ISO 8601, moments in UTC, codes."""

LONGEST = 10_000
"""Characters of one cell at most."""


class NotFit(ValueError):
    """What is given does not fit its column; the words say why."""


def read_cell(column: Column, given: object) -> Cell | None:
    """What a column keeps of what is `given`: a text as people write it, or a cell of before. None
    where that is empty. Raises NotFit."""
    if given is None or given == [] or (isinstance(given, str) and not given.strip()):
        return None
    return _READING[column.type](column, given)


def _said(given: object) -> str:
    if not isinstance(given, str):
        raise NotFit("This is not a text.")
    return given.strip()


def _text(column: Column, given: object) -> str:
    lines = column.type == "long_text"
    said = _said(given) if lines else " ".join(_said(given).split())
    try:
        return text(said, None, LONGEST, lines)
    except CheckFailed as failed:
        if failed.code == "too_long":
            raise NotFit(f"It has more than {LONGEST:,} characters.") from None
        raise NotFit("It has a character that cannot be kept.") from None


def _number(column: Column, given: object) -> str:
    found = as_decimal(_said(given))
    if found is None or len(str(given)) > 60 or abs(found.adjusted()) > 30:
        raise NotFit("Write a number with a point for decimals, such as 12.5.")
    return plain(found)


def _date(column: Column, given: object) -> str:
    try:
        return date.fromisoformat(_said(given)).isoformat()
    except ValueError:
        raise NotFit("Write a day as year-month-day, such as 2026-03-01.") from None


def _time(column: Column, given: object) -> str:
    try:
        found = time.fromisoformat(_said(given))
    except ValueError:
        found = None
    if found is None or found.tzinfo is not None:
        raise NotFit("Write a time of day such as 14:05.")
    return found.isoformat("minutes")


def _date_time(column: Column, given: object) -> str:
    try:
        found = datetime.fromisoformat(_said(given))
        return found.astimezone(UTC).isoformat(timespec="minutes")
    except (ValueError, OverflowError):
        raise NotFit("Write a day and a time such as 2026-03-01 14:05.") from None


_YES, _NO = frozenset({"yes", "y", "true", "1"}), frozenset({"no", "n", "false", "0"})


def _yes_no(column: Column, given: object) -> bool:
    if isinstance(given, bool):
        return given
    folded = _said(given).casefold()
    if folded not in _YES | _NO:
        raise NotFit("Write yes or no.")
    return folded in _YES


def _code(column: Column, given: object) -> str:
    said = " ".join(_said(given).split())
    folded = said.casefold()
    for option in column.options:
        if said == option.code or folded == option.label.casefold():
            return option.code
    raise NotFit(f"{said[:80]} is not among the options of {column.label}.")


def _codes(column: Column, given: object) -> list[str]:
    """Several are written with commas between them."""
    each = given if isinstance(given, list | tuple) else _said(given).split(",")
    found = [_code(column, one) for one in each if not isinstance(one, str) or one.strip()]
    return list(dict.fromkeys(found))


def _checked(check: Callable[[str], str], told: str) -> Callable[[Column, object], str]:
    def read(column: Column, given: object) -> str:
        try:
            return check(_said(given))
        except CheckFailed:
            raise NotFit(told) from None

    return read


def _phone(given: str) -> str:
    found = text(given, None, 60)
    if sum(one.isdigit() for one in found) < 3:
        raise CheckFailed("not_phone")
    return found


_READING: Mapping[ColumnType, Callable[[Column, Any], Cell]] = {
    "text": _text,
    "long_text": _text,
    "number": _number,
    "date": _date,
    "time": _time,
    "date_time": _date_time,
    "yes_no": _yes_no,
    "pick_one": _code,
    "pick_many": _codes,
    "email": _checked(email, "This is not a mail address."),
    "phone": _checked(_phone, "This is not a phone number."),
    "web_address": _checked(web_address, "This is not a web address."),
}
