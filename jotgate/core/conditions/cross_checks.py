"""Checks across answers: two of them held against each other, as a sentence with its message."""

from collections.abc import Mapping
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from jotgate.core.common.part import Key, Part
from jotgate.core.common.today import Today
from jotgate.core.common.values import Else, Value, Values, as_decimal
from jotgate.core.common.wording import Text
from jotgate.core.conditions.comparison import RELATIONS
from jotgate.core.conditions.condition import Condition, holds

Relation = Literal["is", "is_not", "at_least", "at_most", "more_than", "less_than"]


class CrossCheck(Part):
    """`left` must stand in `relation` to the answer `right`, or to the number `number`.

    Numbers, days and times are compared as they are; of picks, files and rosters it is how
    many there are. It is passed over where an answer is missing or `when` does not hold.
    """

    left: Key
    relation: Relation
    right: Key | None = None
    number: Annotated[str, Field(pattern=r"^-?\d{1,14}(\.\d{1,6})?$")] | None = None
    message: Text
    when: Condition | None = None

    def names(self) -> tuple[str, ...]:
        return (self.left,) if self.right is None else (self.left, self.right)


ALIKE = frozenset({"is", "is_not"})
"""The relations of what has no order: texts, picks, yes or no, names and addresses."""


def measure(value: Value) -> Value:
    """What of an answer is compared: itself, its own words, or how many it has."""
    if isinstance(value, tuple):
        return Decimal(len(value))
    return value.words if isinstance(value, Else) else value


def broken(check: CrossCheck, values: Values, today: Today) -> bool:
    """Whether `check` applies to `values` and does not hold."""
    left = values.get(check.left)
    right: Value | None = (
        as_decimal(check.number or "") if check.right is None else values.get(check.right)
    )
    if left is None or right is None or not holds(check.when, values, today):
        return False
    mine, other = measure(left), measure(right)
    unordered = isinstance(mine, str | bool | Mapping) and check.relation not in ALIKE
    if type(mine) is not type(other) or unordered:
        return check.relation == "is"
    return not RELATIONS[check.relation](mine, other)
