"""Checking what is picked: of options, on a scale, in an order."""

from decimal import Decimal
from typing import Any

from jotgate.core.checking.failures import CheckFailed
from jotgate.core.checking.numbers import read_number, within
from jotgate.core.checking.texts import says_nothing, text
from jotgate.core.common.values import ELSE, Else, Value
from jotgate.core.items import Carried, PickMany, PickOne, Rank, Scale

LONGEST_ELSE = 500
"""Characters of something else in the respondent's own words."""


def option_of(item: PickOne | Carried, raw: object) -> str:
    if not isinstance(raw, str) or raw not in item.codes:
        raise CheckFailed("not_an_option")
    return raw


def pick_one(item: PickOne, raw: object) -> str | Else:
    return else_of(item, raw) if isinstance(raw, dict) else option_of(item, raw)


def else_of(item: PickOne | PickMany, raw: dict[str, Any]) -> Else:
    """`{"else": "words"}` as something else. Raises CheckFailed."""
    if not item.else_label or set(raw) != {ELSE}:
        raise CheckFailed("not_an_option")
    words = raw[ELSE]
    if words is None or (isinstance(words, str) and says_nothing(words)):
        raise CheckFailed("say_else")
    return Else(text(words, None, LONGEST_ELSE))


def pick_many(item: PickMany, raw: object) -> tuple[Value, ...]:
    """The picked codes, each once, in the order of the options; something else stands last."""
    if not isinstance(raw, list) or not all(isinstance(one, str | dict) for one in raw):
        raise CheckFailed("wrong_kind")
    picked = {one for one in raw if isinstance(one, str)}
    others = [one for one in raw if isinstance(one, dict)]
    if not picked <= item.codes or len(others) > 1:
        raise CheckFailed("not_an_option")
    other = tuple(else_of(item, one) for one in others)
    count = len(picked) + len(other)
    alone = next((one for one in item.options if one.alone and one.code in picked), None)
    if alone is None:
        _count(item, count)
    elif count > 1:
        raise CheckFailed("not_alone", label=alone.label or {"": alone.code})
    return (*(one.code for one in item.options if one.code in picked), *other)


def _count(item: PickMany, count: int) -> None:
    """One pick that excludes the others is enough of an answer; any other picks are counted."""
    if item.fewest is not None and count < item.fewest:
        raise CheckFailed("too_few", limit=item.fewest)
    if item.most is not None and count > item.most:
        raise CheckFailed("too_many", limit=item.most)


def rank(item: Rank, raw: object) -> tuple[str, ...]:
    """The codes in the respondent's order: every option, or the first `top`."""
    if not isinstance(raw, list) or not all(isinstance(one, str) for one in raw):
        raise CheckFailed("wrong_kind")
    if not item.codes.issuperset(raw) or len(set(raw)) != len(raw):
        raise CheckFailed("not_an_option")
    wanted = ranked(item)
    if len(raw) != wanted:
        raise CheckFailed("rank_all", limit=wanted)
    return tuple(raw)


def ranked(item: Rank) -> int:
    """How many options a full answer puts in order."""
    return min(item.top or len(item.options), len(item.options))


def scale(item: Scale, raw: object) -> Decimal:
    return Decimal(int(within(read_number(raw), item.low, item.high, 0)))
