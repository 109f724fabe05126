"""Condition trees, and what they evaluate to.

A comparison with something unanswered is false, `is_not` included; only `unanswered` is
then true. FHIR R4 gives Questionnaire.item.enableWhen the same meaning.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from decimal import Decimal, InvalidOperation
from typing import Annotated, Any, Literal, Union

from pydantic import BaseModel, ConfigDict, Field, StrictBool

ELSE = "else"
"""The code under which something else, in the respondent's own words, is picked."""


@dataclass(frozen=True)
class Else:
    """Something else that was picked, in the respondent's own words."""

    words: str


@dataclass(frozen=True)
class FileFacts:
    """A file that was sent and looked at. `size` is in bytes, `type` a media type (RFC 6838)."""

    id: str
    name: str
    size: int
    type: str


Value = Union[  # noqa: UP007 - it names itself
    str, bool, Decimal, date, time, Else, FileFacts, tuple["Value", ...], Mapping[str, "Value"]
]
"""An answer as the core holds it: text and option codes, yes/no, numbers, dates, times of day,
moments (in UTC), and what was picked of many. Names, addresses and signatures are maps of their
parts; files a tuple; a roster a tuple of maps from key to answer, a grid a map from row to such
a tuple."""

Values = Mapping[str, Value]
"""Answers that count, by key: only of items that are shown, on the path, and answered."""

Operand = StrictBool | Annotated[str, Field(max_length=400)]
"""What a comparison compares with. Numbers stand as decimal text, such as `"12.5"`, dates and
times of day in ISO 8601."""


class _Node(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Every(_Node):
    op: Literal["all"]
    parts: tuple["Condition", ...] = Field(min_length=1, max_length=50)


class Some(_Node):
    op: Literal["any"]
    parts: tuple["Condition", ...] = Field(min_length=1, max_length=50)


class Not(_Node):
    op: Literal["not"]
    part: "Condition"


class Compare(_Node):
    """`item` is compared with one operand: equal, different, ordered, or among the picks.

    Numbers, dates and times of day are ordered; `includes` is for pick many.
    """

    op: Literal["is", "is_not", "at_least", "at_most", "includes"]
    item: str
    value: Operand


class OneOf(_Node):
    op: Literal["one_of"]
    item: str
    values: tuple[Operand, ...] = Field(min_length=1, max_length=200)


class Answered(_Node):
    op: Literal["answered", "unanswered"]
    item: str


Condition = Annotated[Every | Some | Not | Compare | OneOf | Answered, Field(discriminator="op")]
Every.model_rebuild()
Some.model_rebuild()
Not.model_rebuild()


def as_decimal(raw: object) -> Decimal | None:
    """`raw` as a finite decimal, or None where it is not one."""
    if isinstance(raw, bool) or not isinstance(raw, str | int | Decimal):
        return None
    try:
        number = Decimal(raw)
    except InvalidOperation:
        return None
    return number if number.is_finite() else None


def read_operand(answer_type: type, operand: str | bool) -> Decimal | date | time | None:
    """`operand` as an ordered value of `answer_type`, None where it is not one.

    A moment is written with its offset from UTC, such as `2026-11-25T09:00+00:00`.
    """
    if answer_type is Decimal:
        return as_decimal(operand)
    if not isinstance(operand, str) or answer_type not in (date, time, datetime):
        return None
    try:
        found: date | time = answer_type.fromisoformat(operand)
    except ValueError:
        return None
    if isinstance(found, datetime) and found.tzinfo is None:
        return None
    return found


def compares(op: str, answer: Value, operand: str | bool) -> bool:
    """The one comparison of an answer with an operand; false where the two have no order."""
    if isinstance(answer, tuple):
        return op == "includes" and (operand in answer or (operand == ELSE and _has_else(answer)))
    if isinstance(answer, Else):
        return (operand == ELSE) is (op == "is") and op in ("is", "is_not")
    if isinstance(answer, Decimal | date | time):
        value: Any = read_operand(type(answer), operand)
        if value is None:
            return op == "is_not"
        ordered: Any = answer
        match op:
            case "is":
                return bool(ordered == value)
            case "is_not":
                return bool(ordered != value)
            case "at_least":
                return bool(ordered >= value)
            case "at_most":
                return bool(ordered <= value)
        return False
    same = type(answer) is type(operand) and answer == operand
    return same if op == "is" else op == "is_not" and not same


def _has_else(picked: tuple[Value, ...]) -> bool:
    return any(isinstance(one, Else) for one in picked)


def holds(condition: Condition | None, values: Values) -> bool:
    """Whether `condition` is true of `values`; no condition is always true."""
    return condition is None or _HOLDS[condition.op](condition, values)


def _compares(condition: Compare, values: Values) -> bool:
    answer = values.get(condition.item)
    return answer is not None and compares(condition.op, answer, condition.value)


def _one_of(condition: OneOf, values: Values) -> bool:
    answer = values.get(condition.item)
    return answer is not None and any(compares("is", answer, one) for one in condition.values)


_HOLDS: dict[str, Callable[[Any, Values], bool]] = {
    "all": lambda every, values: all(holds(part, values) for part in every.parts),
    "any": lambda some, values: any(holds(part, values) for part in some.parts),
    "not": lambda other, values: not holds(other.part, values),
    "answered": lambda leaf, values: leaf.item in values,
    "unanswered": lambda leaf, values: leaf.item not in values,
    "one_of": _one_of,
    "is": _compares,
    "is_not": _compares,
    "includes": _compares,
    "at_least": _compares,
    "at_most": _compares,
}
"""What each operator means, looked up by its name: asking a node for its class costs far more."""


def leaves(condition: Condition | None) -> Iterator[Compare | OneOf | Answered]:
    """Every comparison in `condition`, in reading order."""
    match condition:
        case None:
            return
        case Every() | Some():
            for part in condition.parts:
                yield from leaves(part)
        case Not():
            yield from leaves(condition.part)
        case _:
            yield condition


def named(condition: Condition | None) -> frozenset[str]:
    """The keys that `condition` names."""
    return frozenset(leaf.item for leaf in leaves(condition))


def operands(leaf: Compare | OneOf | Answered) -> tuple[str | bool, ...]:
    match leaf:
        case Compare():
            return (leaf.value,)
        case OneOf():
            return leaf.values
        case _:
            return ()
