"""Answer checking: what a respondent sent, to the value that is kept or a failure.

The browser may show the same failures earlier; this is the final word.
"""

from collections.abc import Callable, Mapping
from typing import Any

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.offered import as_offered
from jotgate.core.answers.rows import CheckOne, blank, grid, roster
from jotgate.core.answers.rules import FastCheck, Raw
from jotgate.core.answers.texts import says_nothing
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.items import IN_PARTS, NOT_ASKED, Item
from jotgate.core.items.kinds import OFFERING


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


def fast_check_of(item: Item) -> FastCheck:
    """The short check of `item`, made once, so that a full entry costs little.

    It gives the value that `check` would give, or None where it is not sure; then `check` decides
    and names what fails. It never gives a value that `check` would refuse.
    """
    make = RULES[item.kind].fast
    return make(item) if make else _unsure


def _unsure(_: Raw) -> None:
    return None


def _nothing(_: Item, _raw: Raw, _today: Today) -> Value:
    raise CheckFailed("wrong_kind")


_CHECKS: Mapping[str, Callable[[Any, Raw, Today], Value]] = {
    kind: rules.check or _nothing for kind, rules in RULES.items()
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
