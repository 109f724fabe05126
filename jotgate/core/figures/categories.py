"""Answers as categories that can be counted: options, yes and no, steps of a scale."""

from collections.abc import Mapping
from typing import Any, NamedTuple

from jotgate.core.common.values import ELSE, FALSE, TRUE
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import held_by
from jotgate.core.items import Item, Scale, options_of
from jotgate.core.words import figures


def has_categories(item: Item) -> bool:
    return held_by(item) in ("pick", "picks", "truth") or isinstance(item, Scale)


def categories(item: Item, reader: Reader) -> dict[str, str]:
    """What `item` offers, in its order: the code of each, and how it reads. The words of somebody's
    own stand together at the end."""
    if isinstance(item, Scale):
        ends = {item.low: item.low_label, item.high: item.high_label}
        steps = range(item.low, item.high + 1)
        return {str(one): f"{one} {reader.say(ends.get(one))}".strip() for one in steps}
    if held_by(item) == "truth":
        return {TRUE: reader.words["yes"], FALSE: reader.words["no"]}
    found = {one.code: reader.say(one.label) or one.code for one in options_of(item)}
    if other := reader.say(getattr(item, "else_label", None)):
        found[ELSE] = other
    return found


def codes_in(value: Any) -> tuple[str, ...]:
    """The categories of an answer as it is stored."""
    if isinstance(value, list):
        return tuple(code for one in value for code in codes_in(one))
    if isinstance(value, bool):
        return (TRUE if value else FALSE,)
    if isinstance(value, Mapping):
        return (ELSE,)
    return (str(value),)


class Category(NamedTuple):
    code: str
    label: str
    many: int


def in_order(item: Item, said: Mapping[str, int], reader: Reader) -> list[Category]:
    """How many said each: what is offered in its order, before the words of somebody's own what is
    not offered any more."""
    offered = categories(item, reader)
    gone = [code for code in said if code not in offered and code != ELSE]
    last = [ELSE] if ELSE in offered or ELSE in said else []
    order = [*(code for code in offered if code != ELSE), *gone, *last]
    labels = {ELSE: figures(reader.language)["other"], **offered}
    return [Category(code, labels.get(code, code), said.get(code, 0)) for code in order]
