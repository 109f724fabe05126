"""Condition trees, and what they evaluate to.

A comparison with something unanswered is false, `is_not` included; only `unanswered` is
then true. FHIR R4 gives Questionnaire.item.enableWhen the same meaning.
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StrictBool

from jotgate.core.common.part import Key
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.conditions.comparison import compares, contains_all

Operand = StrictBool | Annotated[str, Field(max_length=400)]
"""What a comparison compares with. Numbers stand as decimal text, such as `"12.5"`, dates and
times of day in ISO 8601, days also as `today` or `today-7`."""

Ordered = Annotated[str, Field(max_length=40)]


class Node(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class AllOf(Node):
    op: Literal["all"]
    parts: tuple["Condition", ...] = Field(min_length=1, max_length=50)


class AnyOf(Node):
    op: Literal["any"]
    parts: tuple["Condition", ...] = Field(min_length=1, max_length=50)


class Not(Node):
    op: Literal["not"]
    part: "Condition"


class Compare(Node):
    """`item` is compared with one operand.

    Numbers, dates and times of day are ordered; `includes` is for pick many; `contains` finds
    words in a text, letter case ignored; `like` is an expression for RE2, for the whole text.
    `item` is a key, or a fact of the visitor such as `contact.email` or `claim.role`.
    """

    op: Literal[
        "is",
        "is_not",
        "at_least",
        "at_most",
        "more_than",
        "less_than",
        "includes",
        "contains",
        "like",
    ]
    item: str
    value: Operand


class Between(Node):
    """From `low` to `high`, both included."""

    op: Literal["between"]
    item: str
    low: Ordered
    high: Ordered


class OneOf(Node):
    """Any of these values, or of pick many at least one; `includes_all` is for pick many."""

    op: Literal["one_of", "includes_all"]
    item: str
    values: tuple[Operand, ...] = Field(min_length=1, max_length=200)


class Answered(Node):
    op: Literal["answered", "unanswered"]
    item: str


class Entries(Node):
    """Whether `where` is true of any entry, or of every one, of the roster `item`."""

    op: Literal["any_entry", "every_entry"]
    item: str
    where: "Condition"


class EntryCount(Node):
    """How many entries the roster `item` has, or how many of them `where` is true of."""

    op: Literal["entry_count"]
    item: str
    where: "Condition | None" = None
    at_least: int | None = Field(None, ge=0, le=200)
    at_most: int | None = Field(None, ge=0, le=200)


class Saved(Node):
    """A condition of the questionnaire that was saved under a name, meant by its key."""

    op: Literal["saved"]
    name: Key


Leaf = Compare | Between | OneOf | Answered | Entries | EntryCount
Condition = Annotated[AllOf | AnyOf | Not | Leaf | Saved, Field(discriminator="op")]
for _model in (AllOf, AnyOf, Not, Entries, EntryCount):
    _model.model_rebuild()


def holds(condition: Condition | None, values: Values, today: Today) -> bool:
    """Whether `condition` is true of `values`; no condition is always true.

    A saved condition counts as false: `core/conditions/saved.py` puts in what it means beforehand.
    """
    return condition is None or _HOLDS[condition.op](condition, values, today)


def _compares(condition: Compare, values: Values, today: Today) -> bool:
    answer = values.get(condition.item)
    return answer is not None and compares(condition.op, answer, condition.value, today)


def _between(condition: Between, values: Values, today: Today) -> bool:
    answer = values.get(condition.item)
    return (
        answer is not None
        and compares("at_least", answer, condition.low, today)
        and compares("at_most", answer, condition.high, today)
    )


def _one_of(condition: OneOf, values: Values, today: Today) -> bool:
    answer = values.get(condition.item)
    op = "includes" if answer.__class__ is tuple else "is"
    return answer is not None and any(compares(op, answer, one, today) for one in condition.values)


def _includes_all(condition: OneOf, values: Values, today: Today) -> bool:
    answer = values.get(condition.item)
    return answer is not None and contains_all(answer, condition.values, today)


def entries_of(answer: Value | None) -> tuple[Mapping[str, Value], ...]:
    """The entries of a roster's answer; none where it has no answer."""
    return answer if isinstance(answer, tuple) else ()  # type: ignore[return-value]


def _fitting(condition: Entries | EntryCount, values: Values, today: Today) -> tuple[int, int]:
    """How many entries there are, and how many of them the condition is about."""
    entries = entries_of(values.get(condition.item))
    if condition.where is None:
        return len(entries), len(entries)
    return len(entries), sum(
        holds(condition.where, {**values, **entry}, today) for entry in entries
    )


def _any_entry(condition: Entries, values: Values, today: Today) -> bool:
    return _fitting(condition, values, today)[1] > 0


def _every_entry(condition: Entries, values: Values, today: Today) -> bool:
    number, fitting = _fitting(condition, values, today)
    return number > 0 and fitting == number


def _entry_count(condition: EntryCount, values: Values, today: Today) -> bool:
    number, fitting = _fitting(condition, values, today)
    low, high = condition.at_least or 0, condition.at_most
    return number > 0 and low <= fitting and (high is None or fitting <= high)


_HOLDS: dict[str, Callable[[Any, Values, Today], bool]] = {
    "all": lambda every, values, today: all(holds(part, values, today) for part in every.parts),
    "any": lambda some, values, today: any(holds(part, values, today) for part in some.parts),
    "not": lambda other, values, today: not holds(other.part, values, today),
    "answered": lambda leaf, values, _: leaf.item in values,
    "unanswered": lambda leaf, values, _: leaf.item not in values,
    "one_of": _one_of,
    "includes_all": _includes_all,
    "between": _between,
    "any_entry": _any_entry,
    "every_entry": _every_entry,
    "entry_count": _entry_count,
    "saved": lambda *_: False,
    "is": _compares,
    "is_not": _compares,
    "includes": _compares,
    "contains": _compares,
    "like": _compares,
    "at_least": _compares,
    "at_most": _compares,
    "more_than": _compares,
    "less_than": _compares,
}
"""What each operator means, looked up by its name: asking a node for its class costs far more."""


def leaves(condition: Condition | None) -> Iterator[Leaf | Saved]:
    """Every comparison in `condition`, in reading order; those of entries whole."""
    match condition:
        case None:
            return
        case AllOf() | AnyOf():
            for part in condition.parts:
                yield from leaves(part)
        case Not():
            yield from leaves(condition.part)
        case _:
            yield condition


def named(condition: Condition | None) -> frozenset[str]:
    """The keys that `condition` names, those inside of rosters too."""
    found: set[str] = set()
    for leaf in leaves(condition):
        if not isinstance(leaf, Saved):
            found.add(leaf.item)
        if isinstance(leaf, Entries | EntryCount):
            found |= named(leaf.where)
    return frozenset(found)


def operands(leaf: Leaf) -> tuple[str | bool, ...]:
    match leaf:
        case Compare():
            return (leaf.value,)
        case Between():
            return (leaf.low, leaf.high)
        case OneOf():
            return leaf.values
        case _:
            return ()
