"""Values that arrive with a link: carried values, and answers filled in beforehand.

Link values go by key, those of the parts of a name or address by `key.part`. For options a
label or a code will do, letter case ignored; other words are something else where that is
offered. Unknown keys are ignored; a value that fails its item's checks is not filled in and
the visitor is asked; a carried value that fails is refused or flagged, as its item says.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.decimals import plain
from jotgate.core.common.errors import LinkRefused
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Value, Values
from jotgate.core.items import IN_PARTS, Carried, Item, YesNo, is_asked, options_of
from jotgate.core.items.kinds import BY_LINK, kinds_that_hold
from jotgate.core.walking.plan import Plan

LONGEST_VALUE = 2000
"""Characters of one link value that are looked at; a longer one fails."""

_YES = frozenset({"yes", "true", "1"})
_NO = frozenset({"no", "false", "0"})


@dataclass(frozen=True)
class Filled:
    """What a link brings: accepted carried values, filled in answers, keys that failed."""

    carried: Values
    answers: Mapping[str, Raw]
    flags: tuple[str, ...]


_MANY = kinds_that_hold("picks", "order")


def read_link(plan: Plan, pairs: Iterable[tuple[str, str]], today: Today) -> Filled:
    """Take each known key's values from a link. Raises LinkRefused.

    Of several values of one key all count where many are picked, else the first.
    """
    given = _by_key(plan, pairs)
    carried: dict[str, Value] = {}
    answers: dict[str, Raw] = {}
    flags: list[str] = []
    for key, texts in given.items():
        item = plan.items[key]
        try:
            raw = _raw_of(item, texts)
            value = check(item, raw, today)
        except (CheckFailed, FailedInside):
            if isinstance(item, Carried):
                _refuse_or_flag(item, flags)
            continue
        if value is None:
            continue
        if isinstance(item, Carried):
            carried[key] = value
        else:
            answers[key] = plain(value) if isinstance(value, Decimal) else raw
    for missing in plan.carried:
        if missing.required and missing.key not in given:
            _refuse_or_flag(missing, flags)
    return Filled(carried, answers, tuple(flags))


_Given = dict[str, list[tuple[str, str]]]
"""Key -> the values given for it, each with the part that it is for."""


def _by_key(plan: Plan, pairs: Iterable[tuple[str, str]]) -> _Given:
    given: _Given = {}
    for name, text in pairs:
        key, _, part = name.partition(".")
        item = plan.items.get(key)
        if item is None or key in plan.owners or item.kind not in BY_LINK:
            continue
        if bool(part) is (item.kind in IN_PARTS) and (is_asked(item) or item.kind == "carried"):
            given.setdefault(key, []).append((part, text))
    return given


def _raw_of(item: Item, given: list[tuple[str, str]]) -> Raw:
    """The values of a link as the answer that a respondent would have sent. Raises CheckFailed."""
    if item.kind in IN_PARTS:
        return {part: _trimmed(text) for part, text in reversed(given)}
    if item.kind in _MANY:
        return [as_raw(item, text) for _, text in given]
    return as_raw(item, given[0][1])


def _refuse_or_flag(item: Carried, flags: list[str]) -> None:
    if item.when_wrong == "refuse":
        raise LinkRefused(
            "This link is not complete or was changed. Ask whoever sent it for a new one.",
            key=item.key,
        )
    flags.append(item.key)


def _trimmed(text: str) -> str:
    if len(text) > LONGEST_VALUE:
        raise CheckFailed("too_long", limit=LONGEST_VALUE, length=len(text))
    return text.strip()


def as_raw(item: Item, text: str) -> Raw:
    """The text of one link value as the answer that a respondent would have sent."""
    text = _trimmed(text)
    folded = text.casefold()
    if isinstance(item, YesNo):
        if folded in _YES or folded in _NO:
            return folded in _YES
        raise CheckFailed("wrong_kind")
    for option in options_of(item):
        names = {option.code, *option.label.values()}
        if folded in {name.strip().casefold() for name in names}:
            return option.code
    return {ELSE: text} if text and getattr(item, "else_label", None) else text
