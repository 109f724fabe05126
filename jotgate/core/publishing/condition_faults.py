"""What is wrong with a condition where it stands."""

import re
from collections.abc import Iterator, Mapping
from datetime import UTC, date, datetime, time

from jotgate.core.common.errors import Fault
from jotgate.core.common.patterns import BadPattern, compiled
from jotgate.core.common.today import Today
from jotgate.core.common.values import as_decimal, read_operand
from jotgate.core.conditions.condition import (
    Condition,
    Entries,
    EntryCount,
    Leaf,
    Saved,
    leaves,
    operands,
)
from jotgate.core.conditions.formulas import First
from jotgate.core.items import Computed, Item, PickingPart, PickMany, PickOne, Rank, Roster, holding
from jotgate.core.items.kinds import OPERATORS, Holds
from jotgate.core.items.staff_names import staff_name

Earlier = Mapping[str, Item]
"""What stands before the place that is looked at, by key."""

VISITOR = re.compile(r"contact\.[a-z][a-z0-9_]{0,39}|claim\.[A-Za-z0-9_.-]{1,60}")
"""The facts of a visitor that a condition can name: fields of the contact that a pass belongs
to, and claims of a sign-in (OpenID Connect Core 1.0, 5.1). All are texts."""


def fault(code: str, at: str, message: str) -> Fault:
    return Fault(code=code, at=at, message=message)


NOT_EARLIER = ("not_earlier", "which is not asked before it")


def condition_faults(
    condition: Condition | None,
    earlier: Earlier,
    first: str,
    at: str,
    lead: str,
    missing: tuple[str, str] = NOT_EARLIER,
) -> Iterator[Fault]:
    """Faults of a condition, wherever it stands; only what stands in `earlier` can be named.

    `first` is the questionnaire's first language, `missing` the code and the words for what is
    named and does not.
    """
    for leaf in leaves(condition):
        if isinstance(leaf, Saved):
            message = f"{lead} the saved condition {leaf.name}, which is not there."
            yield fault("no_saved", at, message)
            continue
        if not leaf.item:
            yield fault("not_chosen", at, f"{lead} something that is not chosen yet.")
            continue
        item = earlier.get(leaf.item)
        if item is None and not VISITOR.fullmatch(leaf.item):
            yield fault(missing[0], at, f"{lead} {leaf.item}, {missing[1]}.")
            continue
        meant = taken_from(item, earlier)
        name = staff_name(item, first) if item else leaf.item
        yield from _leaf_faults(leaf, meant, at, f"{lead} {name}")
        if isinstance(leaf, Entries | EntryCount) and isinstance(item, Roster):
            own = {one.key: one for one in item.items}
            yield from condition_faults(leaf.where, {**earlier, **own}, first, at, lead, missing)


def taken_from(item: Item | None, earlier: Earlier) -> tuple[Item | None, ...]:
    """The items whose answers the value of `item` can be: itself, or those of a first answer."""
    if not isinstance(item, Computed) or not isinstance(item.formula, First):
        return (item,)
    found: list[Item | None] = []
    for key in item.formula.of:
        one = earlier.get(key)
        if one is not None and one is not item:
            found += taken_from(one, earlier)
    return tuple(found)


def _leaf_faults(leaf: Leaf, meant: tuple[Item | None, ...], at: str, lead: str) -> Iterator[Fault]:
    op = leaf.op
    said = op.replace("_", " ")
    if not all(op in operators_for(one) for one in meant):
        yield fault("no_such_answer", at, f"{lead} {said}: it has no such answer.")
        return
    for operand in operands(leaf):
        if operand == "":
            message = f"{lead} {said} what? Say what it is compared with."
            yield fault("no_operand", at, message)
        elif op == "like":
            yield from _pattern(operand, at, lead)
        elif not any(_fits(one, operand) for one in meant):
            message = f"{lead} {said} {operand}: it has no such answer."
            yield fault("no_such_answer", at, message)
    if isinstance(leaf, EntryCount):
        low, high = leaf.at_least, leaf.at_most
        if (low is None and high is None) or (high is not None and (low or 0) > high):
            yield fault("no_count", at, f"{lead} has how many entries? Say how many.")


def _pattern(operand: str | bool, at: str, lead: str) -> Iterator[Fault]:
    try:
        compiled(str(operand))
    except BadPattern as why:
        yield fault("bad_pattern", at, f"{lead} is like a pattern that cannot be used: {why}.")


_TIMED: Mapping[Holds, type] = {"day": date, "time": time, "moment": datetime}
_NOON = Today(datetime(2000, 1, 1, 12, tzinfo=UTC))
"""Any day will do to see whether an operand can be read."""


def operators_for(item: Item | None) -> frozenset[str]:
    """What an answer to `item`, or a fact of the visitor, can be asked."""
    found = OPERATORS[holding(item) if item else "text"]
    return frozenset({"answered", "unanswered", *found})


def _fits(item: Item | None, operand: str | bool) -> bool:
    if item is None:
        return isinstance(operand, str)
    if is_number(item):
        return as_decimal(operand) is not None
    held = holding(item)
    if held in _TIMED:
        return read_operand(_TIMED[held], operand, _NOON) is not None
    if held == "truth":
        return isinstance(operand, bool)
    return isinstance(operand, str) and operand in codes_of(item, operand)


def codes_of(item: Item, any_text: str) -> frozenset[str]:
    """The codes that an answer to `item` can be; `any_text` where it is not picked."""
    if isinstance(item, PickOne | PickMany):
        return item.code_set
    if isinstance(item, PickingPart) and (item.options or isinstance(item, Rank)):
        return item.codes
    return frozenset({any_text})


def is_number(item: Item) -> bool:
    """Whether the value of `item` is a number, asked or computed."""
    return holding(item) == "number"
