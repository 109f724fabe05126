"""Values that arrive with a link: carried values, and answers filled in beforehand.

Link values go by key. For options a label or a code will do, letter case ignored. Unknown
keys are ignored; a value that fails its item's checks is not filled in and the visitor is
asked; a carried value that fails is refused or flagged, as its item says.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from jotgate.core.checks import Raw, check
from jotgate.core.conditions import Value, Values
from jotgate.core.errors import LinkRefused
from jotgate.core.failures import Failed
from jotgate.core.items import Carried, Item, PickMany, YesNo, is_asked, options_of
from jotgate.core.plan import Plan

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


def read_link(plan: Plan, pairs: Iterable[tuple[str, str]], today: date) -> Filled:
    """Take each known key's value from a link, for pick many all of them. Raises LinkRefused."""
    given: dict[str, list[str]] = {}
    for key, text in pairs:
        given.setdefault(key, []).append(text)
    raw: Raw
    carried: dict[str, Value] = {}
    answers: dict[str, Raw] = {}
    flags: list[str] = []
    for key, texts in given.items():
        item = plan.items.get(key)
        if item is None or not (is_asked(item) or isinstance(item, Carried)):
            continue
        try:
            many = isinstance(item, PickMany)
            raw = [as_raw(item, text) for text in texts] if many else as_raw(item, texts[0])
            value = check(item, raw, today)
        except Failed:
            if isinstance(item, Carried):
                _refuse_or_flag(item, flags)
            continue
        if value is None:
            continue
        if isinstance(item, Carried):
            carried[key] = value
        else:
            answers[key] = raw
    for missing in plan.carried:
        if missing.required and missing.key not in given:
            _refuse_or_flag(missing, flags)
    return Filled(carried, answers, tuple(flags))


def _refuse_or_flag(item: Carried, flags: list[str]) -> None:
    if item.when_wrong == "refuse":
        raise LinkRefused(
            "This link is not complete or was changed. Ask whoever sent it for a new one.",
            key=item.key,
        )
    flags.append(item.key)


def as_raw(item: Item, text: str) -> str | bool:
    """The text of a link value as the answer that a respondent would have sent."""
    if len(text) > LONGEST_VALUE:
        raise Failed("too_long", limit=LONGEST_VALUE, length=len(text))
    text = text.strip()
    folded = text.casefold()
    if isinstance(item, YesNo):
        if folded in _YES or folded in _NO:
            return folded in _YES
        raise Failed("wrong_kind")
    for option in options_of(item):
        names = {option.code, *option.label.values()}
        if folded in {name.strip().casefold() for name in names}:
            return option.code
    return text
