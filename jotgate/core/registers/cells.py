"""Cells of a register: what is given for one read as its column keeps it, or told why it cannot."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime, time, tzinfo
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email, text, web_address
from jotgate.core.common.decimals import plain
from jotgate.core.common.values import as_decimal
from jotgate.core.registers.columns import Column, ColumnType
from jotgate.core.registers.days import NoDay, day

Cell = str | bool | list[str]
"""A cell in JSON: text, decimal text, dates and times in ISO 8601, moments in UTC, codes."""

LONGEST = 10_000
"""Characters of one cell at most."""


class NotFit(ValueError):
    """What is given does not fit its column; the words say why."""


@dataclass(frozen=True)
class Person:
    """Somebody of the office; `here` is false of who has left it."""

    name: str
    email: str
    here: bool = True


@dataclass(frozen=True)
class Where:
    """Where cells are written: the time zone of what is written without one, and the people of
    the office by id, where they are known."""

    zone: tzinfo = UTC
    people: Mapping[str, Person] = field(default_factory=dict)


ANYWHERE = Where()


def read_cell(column: Column, given: object, where: Where = ANYWHERE) -> Cell | None:
    """What a column keeps of what is `given`: a text as people write it, or a cell of before. None
    where that is empty. Raises NotFit."""
    if given is None or given == [] or (isinstance(given, str) and not given.strip()):
        return None
    found = _READING[column.type](column, given, where)
    return None if found == [] else found


def _said(given: object) -> str:
    if not isinstance(given, str):
        raise NotFit("This is not a text.")
    return given.strip()


def _text(column: Column, given: object, where: Where) -> str:
    lines = column.type == "long_text"
    said = _said(given) if lines else " ".join(_said(given).split())
    try:
        return text(said, None, LONGEST, lines)
    except CheckFailed as failed:
        if failed.code == "too_long":
            raise NotFit(f"It has more than {LONGEST:,} characters.") from None
        raise NotFit("It has a character that cannot be kept.") from None


def _number(column: Column, given: object, where: Where) -> str:
    found = as_decimal(_said(given))
    if found is None or len(str(given)) > 60 or abs(found.adjusted()) > 30:
        raise NotFit("Write a number with a point for decimals, such as 12.5.")
    return plain(found)


def _date(column: Column, given: object, where: Where) -> str:
    try:
        return day(_said(given)).isoformat()
    except NoDay as why:
        raise NotFit(str(why)) from None


def _time(column: Column, given: object, where: Where) -> str:
    try:
        return _clock(_said(given)).isoformat("minutes")
    except ValueError:
        raise NotFit("Write a time of day such as 14:05.") from None


def _clock(said: str) -> time:
    """A time of day, its hour with one digit or two. Raises ValueError."""
    found = time.fromisoformat(f"0{said}" if said[1:2] == ":" else said)
    if found.tzinfo is not None or ":" not in said:
        raise ValueError(said)
    return found


def _date_time(column: Column, given: object, where: Where) -> str:
    """Without an offset from UTC it is meant where it is written."""
    said = _said(given)
    written, _, clock = said.rpartition(" ")
    try:
        if written:
            found = datetime.combine(day(written.rstrip(",")), _clock(clock))
        else:
            found = datetime.fromisoformat(said)
        if found.tzinfo is None:
            found = found.replace(tzinfo=where.zone)
        return found.astimezone(UTC).isoformat(timespec="minutes")
    except NoDay as why:
        raise NotFit(str(why)) from None
    except (ValueError, OverflowError):
        raise NotFit("Write a day and a time such as 27 Nov 2026 14:05.") from None


_YES, _NO = frozenset({"yes", "y", "true", "1"}), frozenset({"no", "n", "false", "0"})


def _yes_no(column: Column, given: object, where: Where) -> bool:
    if isinstance(given, bool):
        return given
    folded = _said(given).casefold()
    if folded not in _YES | _NO:
        raise NotFit("Write yes or no.")
    return folded in _YES


def _code(column: Column, given: object, where: Where) -> str:
    said = " ".join(_said(given).split())
    folded = said.casefold()
    for option in column.options:
        if said == option.code or folded == option.label.casefold():
            return option.code
    raise NotFit(f"{said[:80]} is not among the options of {column.label}.")


def _codes(column: Column, given: object, where: Where) -> list[str]:
    """Several are written with commas between them."""
    each = given if isinstance(given, list | tuple) else _said(given).split(",")
    found = [_code(column, one, where) for one in each if not isinstance(one, str) or one.strip()]
    return list(dict.fromkeys(found))


def _checked(check: Callable[[str], str], told: str) -> Callable[[Column, object, Where], str]:
    def read(column: Column, given: object, where: Where) -> str:
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


def _person(column: Column, given: object, where: Where) -> str:
    """By id, by mail address, or by a name that only one has."""
    said = " ".join(_said(given).split())
    if said in where.people:
        return said
    folded = said.casefold()
    there = {id: one for id, one in where.people.items() if one.here}
    found = [id for id, one in there.items() if folded in (one.name.casefold(), one.email)]
    if len(found) > 1:
        raise NotFit(f"{len(found)} people have the name {said[:80]}. Write the mail address.")
    if not found:
        raise NotFit(f"Nobody in the office has the name or mail address {said[:80]}.")
    return found[0]


LAST_NUMBER = 2**31 - 1
"""Of an entry, as PostgreSQL counts them."""


def _entry(column: Column, given: object, where: Where) -> str:
    """The number of an entry, also as it stands in lists: 0012."""
    said = _said(given)
    digits = said.lstrip("0") if said.isascii() and said.isdigit() else ""
    if not digits or len(digits) > 10 or int(digits) > LAST_NUMBER:
        raise NotFit("Write the number of an entry, such as 12.")
    return digits


def _not_written(told: str) -> Callable[[Column, object, Where], Cell]:
    def read(column: Column, given: object, where: Where) -> Cell:
        raise NotFit(told)

    return read


_READING: Mapping[ColumnType, Callable[[Column, Any, Where], Cell]] = {
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
    "person": _person,
    "entry": _entry,
    "files": _not_written("Files come from entries, and cannot be written."),
    "computed": _not_written("This is computed from other columns, and cannot be written."),
}
