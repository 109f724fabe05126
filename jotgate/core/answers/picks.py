"""Checking what is picked: of options, on a scale, in an order."""

from collections.abc import Iterator, Mapping
from decimal import Decimal
from random import Random
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.numbers import range_schema, read_number, within
from jotgate.core.answers.rules import (
    FastCheck,
    Limits,
    Raw,
    Rules,
    Schema,
    always,
    as_set,
    closed,
    range_faults,
)
from jotgate.core.answers.texts import says_nothing, text
from jotgate.core.answers.written import text_schema
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Else, Value
from jotgate.core.items import Carried, PickMany, PickOne, Rank, Scale, YesNo

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


def _yes_no(_: YesNo, raw: Raw, _today: Today) -> bool:
    if not isinstance(raw, bool):
        raise CheckFailed("wrong_kind")
    return raw


def _fast_one(item: PickOne) -> FastCheck:
    if item.varies:
        return lambda _: None
    codes = item.codes
    return lambda raw: raw if raw.__class__ is str and raw in codes else None


def _fast_many(item: PickMany) -> FastCheck:
    if item.varies:
        return lambda _: None
    places = {option.code: place for place, option in enumerate(item.options)}
    alone = frozenset(option.code for option in item.options if option.alone)
    low, high = item.fewest or 1, item.most or len(item.options)

    def fast(raw: Raw) -> tuple[str, ...] | None:
        if raw.__class__ is not list or not low <= len(raw) <= high:
            return None
        last = -1
        for one in raw:
            place = places.get(one, -1) if one.__class__ is str and one not in alone else -1
            if place <= last:
                return None
            last = place
        return tuple(raw)

    return fast


def _fast_scale(item: Scale) -> FastCheck:
    low, high = Decimal(item.low), Decimal(item.high)

    def fast(raw: Raw) -> Decimal | None:
        if raw.__class__ is not str or len(raw) > 18 or not raw.isascii() or not raw.isdigit():
            return None
        found = Decimal(raw)
        return found if low <= found <= high else None

    return fast


def codes_of(item: PickOne | PickMany | Rank | Carried) -> list[str]:
    return [option.code for option in item.options]


ELSE_SCHEMA = closed({ELSE: text_schema(None, LONGEST_ELSE)}, [ELSE])


def _one_schema(item: PickOne) -> Schema:
    listed: Schema = {"enum": codes_of(item)}
    return {"anyOf": [listed, ELSE_SCHEMA]} if item.else_label else listed


def _many_schema(item: PickMany) -> Schema:
    """Codes, each once; an option that stands alone makes a list of one, which is enough."""
    most = item.most or len(item.options) + bool(item.else_label)
    among = {"minItems": item.fewest or 1, "maxItems": most}
    alone = [option.code for option in item.options if option.alone]
    listed: Schema = {"enum": codes_of(item)}
    found: Schema = {"type": "array", "items": listed, "uniqueItems": True}
    if item.else_label:
        found["items"] = {"anyOf": [listed, ELSE_SCHEMA]}
        found |= {"contains": {"type": "object"}, "minContains": 0, "maxContains": 1}
    if not alone:
        return {**found, **among}
    others = {"items": {"not": {"enum": alone}}, **among}
    single = {"items": {"enum": alone}, "minItems": 1, "maxItems": 1}
    return {**found, "anyOf": [others, single]}


def _rank_schema(item: Rank) -> Schema:
    count = ranked(item)
    found = {"type": "array", "items": {"enum": codes_of(item)}, "uniqueItems": True}
    return {**found, "minItems": count, "maxItems": count}


def _picked(stored: Any) -> Value:
    return Else(stored[ELSE]) if isinstance(stored, dict) else stored


def _make_one(item: PickOne, _: Today, dice: Random) -> Raw:
    return dice.choice(item.options).code if item.options else None


def _make_many(item: PickMany, _: Today, dice: Random) -> Raw:
    alone = [one for one in item.options if one.alone]
    others = [one for one in item.options if not one.alone]
    if alone and (not others or dice.random() < 0.2) and (item.fewest or 1) == 1:
        return [dice.choice(alone).code]
    most = min(item.most or len(others), len(others))
    fewest = min(item.fewest or 1, most)
    picked = dice.sample(others, dice.randint(fewest, most)) if others else []
    return [one.code for one in picked]


def _make_rank(item: Rank, _: Today, dice: Random) -> Raw:
    return [one.code for one in dice.sample(item.options, len(item.options))[: item.top]]


def _many_faults(item: PickMany) -> Iterator[tuple[str, str]]:
    most = len(item.options) + bool(item.else_label) if item.most is None else item.most
    return range_faults(item.fewest, most)


def _rank_limits(item: Rank, _: Today) -> Limits:
    return {"most": ranked(item), "shuffled": item.shuffled}


RULES: Mapping[str, Rules] = {
    "yes_no": Rules(
        check=_yes_no,
        fast=lambda _: lambda raw: raw if raw is True or raw is False else None,
        schema=always({"type": "boolean"}),
        make=lambda _, _today, dice: dice.random() < 0.5,
    ),
    "pick_one": Rules(
        check=lambda item, raw, _: pick_one(item, raw),
        fast=_fast_one,
        schema=_one_schema,
        read=lambda _, stored: _picked(stored),
        make=_make_one,
        limits=as_set("look", "shuffled"),
    ),
    "pick_many": Rules(
        check=lambda item, raw, _: pick_many(item, raw),
        fast=_fast_many,
        schema=_many_schema,
        read=lambda _, stored: tuple(_picked(one) for one in stored),
        make=_make_many,
        limits=as_set("fewest", "most", "shuffled"),
        faults=_many_faults,
    ),
    "rank": Rules(
        check=lambda item, raw, _: rank(item, raw),
        schema=_rank_schema,
        read=lambda _, stored: tuple(stored),
        make=_make_rank,
        limits=_rank_limits,
    ),
    "scale": Rules(
        check=lambda item, raw, _: scale(item, raw),
        fast=_fast_scale,
        schema=lambda item: range_schema("integer", item.low, item.high),
        read=lambda _, stored: Decimal(stored),
        make=lambda item, _, dice: dice.randint(item.low, item.high),
        limits=lambda item, _: {"at_least": str(item.low), "at_most": str(item.high)},
    ),
}
