"""Days as people write them in a cell, where only one day can be meant."""

import calendar
import re
from datetime import date

MONTHS = tuple(calendar.month_name)[1:]

_ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})")
_DOTS = re.compile(r"(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})")
_DAY_FIRST = re.compile(r"(\d{1,2})\.? ([A-Za-z]{3,9})\.?,? (\d{4})")
_MONTH_FIRST = re.compile(r"([A-Za-z]{3,9})\.? (\d{1,2}),? (\d{4})")
_SLASHES = re.compile(r"\d{1,4}/\d{1,2}(/\d{1,4})?")


class NoDay(ValueError):
    """What is written is no day; the words say why."""


def day(written: str) -> date:
    """A day such as `2026-11-27`, `27 Nov 2026`, `November 27, 2026` or `27.11.2026` (day first
    where there are points: common practice). Raises NoDay."""
    found = _parts(" ".join(written.split()))
    if found is None:
        if _SLASHES.fullmatch(written.strip()):
            raise NoDay("Two days can be meant by this. Write the month as a word: 3 Nov 2026.")
        raise NoDay("Write a day such as 27 Nov 2026, or 2026-11-27.")
    year, month, number = found
    if not 1 <= month <= 12:
        raise NoDay(f"There is no month {month}.")
    if not 1 <= year <= 9999:
        raise NoDay(f"There is no year {year}.")
    days = calendar.monthrange(year, month)[1]
    if not 1 <= number <= days:
        in_year = f" in {year}" if month == 2 else ""
        raise NoDay(f"{MONTHS[month - 1]} has {days} days{in_year}.")
    return date(year, month, number)


def _parts(written: str) -> tuple[int, int, int] | None:
    if found := _ISO.fullmatch(written):
        return int(found[1]), int(found[2]), int(found[3])
    if found := _DOTS.fullmatch(written):
        return int(found[3]), int(found[2]), int(found[1])
    if found := _DAY_FIRST.fullmatch(written):
        month = _month(found[2])
        return (int(found[3]), month, int(found[1])) if month else None
    if found := _MONTH_FIRST.fullmatch(written):
        month = _month(found[1])
        return (int(found[3]), month, int(found[2])) if month else None
    return None


def _month(word: str) -> int | None:
    """By its name or the beginning of it, from three letters on (Sept is such a one)."""
    lower = word.lower()
    for number, name in enumerate(MONTHS, 1):
        if name.lower().startswith(lower):
            return number
    return None
