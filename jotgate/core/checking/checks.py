"""Answer checking: what a respondent sent, to the value that is kept or a failure.

The browser may show the same failures earlier; this is the final word.
"""

from collections.abc import Callable, Mapping
from typing import Any

from jotgate.core.checking.composites import address, files, name, signature
from jotgate.core.checking.dates import clock_time, day, moment
from jotgate.core.checking.failures import CheckFailed
from jotgate.core.checking.locations import location
from jotgate.core.checking.numbers import number
from jotgate.core.checking.offered import as_offered
from jotgate.core.checking.picks import option_of, pick_many, pick_one, rank, scale
from jotgate.core.checking.rows import CheckOne, blank, grid, roster
from jotgate.core.checking.texts import email, phone, says_nothing, shaped, text, web_address
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.items import IN_PARTS, NOT_ASKED, Carried, Item, LongText, ShortText, YesNo
from jotgate.core.items.kinds import OFFERING

Raw = Any
"""An answer as it comes over the wire: any JSON value, with files in place of their ids."""


def is_empty(raw: Raw) -> bool:
    if raw is None:
        return True
    if isinstance(raw, str):
        return says_nothing(raw)
    return isinstance(raw, list | dict) and not raw


def check(item: Item, raw: Raw, today: Today, values: Values | None = None) -> Value | None:
    """The value kept for `raw`, None where it is left unanswered.

    `today` is the time where the questionnaire is at home; `values` the answers before this
    one. Raises CheckFailed, and FailedInside where answers inside this one fail.
    """
    known = values if values is not None else {}
    varies = item.kind in OFFERING or getattr(item, "required_when", None) is not None
    found = as_offered(item, known, today) if varies else item
    if item.kind in _WITH_ROWS:
        return _WITH_ROWS[item.kind](found, raw, known, today)
    if is_empty(raw) or (item.kind in IN_PARTS and blank(raw)):
        if item.kind not in NOT_ASKED and found.required:  # type: ignore[union-attr]
            raise CheckFailed("required")
        return None
    return _CHECKS[item.kind](found, raw, today)


def _short_text(item: ShortText, raw: Raw, _: Today) -> str:
    written = text(raw, item.shortest, item.longest or 1000)
    return shaped(item.pattern, written) if item.pattern else written


def _long_text(item: LongText, raw: Raw, _: Today) -> str:
    return text(raw, item.shortest, item.longest or 20_000, lines=True)


def _yes_no(_: YesNo, raw: Raw, _today: Today) -> bool:
    if not isinstance(raw, bool):
        raise CheckFailed("wrong_kind")
    return raw


def carried_value(item: Carried, raw: Raw) -> str:
    """Raises CheckFailed."""
    return option_of(item, raw) if item.options else text(raw, None, item.longest)


def _nothing(_: Item, _raw: Raw, _today: Today) -> Value:
    raise CheckFailed("wrong_kind")


_CHECKS: Mapping[str, Callable[[Any, Raw, Today], Value]] = {
    "short_text": _short_text,
    "long_text": _long_text,
    "email": lambda _, raw, _today: email(raw),
    "phone": lambda item, raw, _: phone(item, raw),
    "web_address": lambda _, raw, _today: web_address(raw),
    "number": lambda item, raw, _: number(item, raw),
    "date": lambda item, raw, today: day(item, raw, today.day),
    "time": lambda item, raw, _: clock_time(item, raw),
    "date_time": moment,
    "yes_no": _yes_no,
    "pick_one": lambda item, raw, _: pick_one(item, raw),
    "pick_many": lambda item, raw, _: pick_many(item, raw),
    "rank": lambda item, raw, _: rank(item, raw),
    "scale": lambda item, raw, _: scale(item, raw),
    "name": lambda item, raw, _: name(item, raw),
    "address": lambda item, raw, _: address(item, raw),
    "location": lambda item, raw, _: location(item, raw),
    "file": lambda item, raw, _: files(item, raw),
    "signature": lambda item, raw, _: signature(item, raw),
    "carried": lambda item, raw, _: carried_value(item, raw),
    "note": _nothing,
    "picture": _nothing,
    "video": _nothing,
    "computed": _nothing,
}
"""The check of each kind, looked up by its name: asking an item for its class costs far more."""


def checking(today: Today) -> CheckOne:
    """`check` at one time, for those who look into grids and rosters."""
    return lambda item, raw, values: check(item, raw, today, values)


def _with_rows(rows: Callable[..., Any], nothing: Raw) -> Callable[..., Value | None]:
    def checked(item: Item, raw: Raw, values: Values, today: Today) -> Value | None:
        given = nothing if is_empty(raw) else raw
        found: Value = rows(item, given, values, checking(today), today)
        return found or None

    return checked


_WITH_ROWS: Mapping[str, Callable[..., Value | None]] = {
    "grid": _with_rows(grid, {}),
    "roster": _with_rows(roster, []),
}
"""Grids and rosters are looked into even where they are empty: a row or a count may be required."""
