"""What is wrong with a condition where it stands."""

from collections.abc import Iterator, Mapping
from datetime import date, datetime, time

from jotgate.core.conditions import Condition, as_decimal, leaves, operands, read_operand
from jotgate.core.errors import Fault
from jotgate.core.formulas import First
from jotgate.core.items import Computed, Item, PickingPart, PickMany, PickOne, Rank

Earlier = Mapping[str, Item]
"""What stands before the place that is looked at, by key."""


def fault(code: str, at: str, message: str) -> Fault:
    return Fault(code=code, at=at, message=message)


def condition_faults(
    condition: Condition | None, earlier: Earlier, at: str, lead: str
) -> Iterator[Fault]:
    """Faults of a condition; only what stands in `earlier` can be named."""
    for leaf in leaves(condition):
        item = earlier.get(leaf.item)
        if item is None:
            yield fault("not_earlier", at, f"{lead} {leaf.item}, which is not asked before it.")
            continue
        for operand in operands(leaf):
            if not _fits(item, operand, leaf.op):
                message = f"{lead} {leaf.item} {leaf.op} {operand}: it has no such answer."
                yield fault("no_such_answer", at, message)


ORDERED: Mapping[str, type] = {"date": date, "time": time, "date_time": datetime}
NUMBERS = frozenset({"number", "scale"})
_IN_PARTS = frozenset({"name", "address", "file", "signature", "grid", "roster", "rank"})


def _fits(item: Item, operand: str | bool, op: str) -> bool:
    numeric = is_number(item)
    if op in ("at_least", "at_most") and not numeric and item.kind not in ORDERED:
        return False
    if (op == "includes") is not isinstance(item, PickMany):
        return False
    if numeric:
        return as_decimal(operand) is not None
    if item.kind in ORDERED:
        return read_operand(ORDERED[item.kind], operand) is not None
    if item.kind == "yes_no":
        return isinstance(operand, bool)
    if item.kind in _IN_PARTS:
        return False
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
    if isinstance(item, Computed):
        return not isinstance(item.formula, First)
    return item.kind in NUMBERS
