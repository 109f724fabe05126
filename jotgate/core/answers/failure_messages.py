"""Failures in words: a message in the respondent's language, at the place that it is about."""

from collections.abc import Callable, Mapping
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Fault
from jotgate.core.common.formatting import clock, day, moment, number, plural
from jotgate.core.common.wording import say
from jotgate.core.items import Item, inside
from jotgate.core.words import failures


def fault_of(
    items: Mapping[str, Item],
    place: str,
    failed: CheckFailed,
    language: str,
    first: str,
    filled: Callable[[str], str] = str,
) -> Fault:
    """`failed` as a fault at `place`, in the question's own words where it has some.

    `place` is an item's key, or leads inside an item, such as `wells/0/depth`. `filled` fills in
    the slots of what the author wrote, and of nothing else: some messages repeat what was sent.
    """
    item = item_at(items, place)
    params = {name: _said(param, language, first, filled) for name, param in failed.params.items()}
    message = _words(failed, language).format(**params)
    if failed.code not in _OWN_WORDS:
        message = filled(say(getattr(item, "error_text", {}), language, first)) or message
    return Fault(code=failed.code, at=place, message=message, params=params)


def _words(failed: CheckFailed, language: str) -> str:
    """The message of a failure, in the plural form of its limit where it has one of its own."""
    table, limit = failures(language), failed.params.get("limit")
    form = plural(limit, language) if isinstance(limit, int) else ""
    return table.get(f"{failed.code}.{form}") or table[failed.code]


_OWN_WORDS = frozenset({"required", "check", "part_missing", "row_missing", "too_few_entries"})
"""Failures that an item's own words are not about."""


def item_at(items: Mapping[str, Item], place: str) -> Item:
    """The innermost question that `place` leads to."""
    outer = items[place.partition("/")[0]]
    keys = {one.key: one for one in inside(outer)}
    return next((keys[step] for step in place.split("/")[1:] if step in keys), outer)


def _said(param: Any, language: str, first: str, filled: Callable[[str], str]) -> int | str:
    """A parameter as a person reads it in `language`."""
    if isinstance(param, Mapping):
        return filled(say(dict(param), language, first))
    if isinstance(param, Decimal):
        return number(param, language)
    if isinstance(param, datetime):
        return moment(param, language)
    if isinstance(param, date):
        return day(param, language)
    if isinstance(param, time):
        return clock(param)
    return param if isinstance(param, int) else str(param)
