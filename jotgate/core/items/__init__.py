"""What stands on a page: questions by kind, notes, carried and computed values."""

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field

from jotgate.core.common.part import Code, Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import Condition
from jotgate.core.conditions.cross_checks import CrossCheck
from jotgate.core.conditions.formulas import First, Formula
from jotgate.core.items.carried import Carried
from jotgate.core.items.gathered import (
    Address,
    File,
    Gathered,
    Grid,
    Inner,
    Name,
    Row,
    Signature,
)
from jotgate.core.items.kinds import IN_PARTS, KINDS, NOT_ASKED, SHOWN, Holds
from jotgate.core.items.parts import (
    Country,
    ItemPart,
    Option,
    Pattern,
    PickingPart,
    QuestionPart,
)
from jotgate.core.items.picked import Picked, PickMany, PickOne, Rank, Scale, YesNo
from jotgate.core.items.shown import Note, Picture, Video
from jotgate.core.items.written import (
    Date,
    DateTime,
    Email,
    LongText,
    Number,
    Phone,
    ShortText,
    Time,
    WebAddress,
    Written,
)


class Roster(QuestionPart):
    """Questions answered once for each person, well, child …, between `fewest` and `most` times.

    `noun` is what one of them is called, such as "well". `title` names an entry by its own
    answers, such as `{well_name}`. Conditions inside see the same entry's earlier answers.
    """

    kind: Literal["roster"]
    noun: Text = {}
    title: Text = {}
    fewest: int = Field(0, ge=0, le=200)
    most: int = Field(10, ge=1, le=200)
    items: tuple[Inner, ...] = Field((), max_length=100)
    checks: tuple[CrossCheck, ...] = Field((), max_length=50)


class Computed(ItemPart):
    """A value that follows from answers; the respondent sees it where `visible`."""

    kind: Literal["computed"]
    formula: Formula
    visible: bool = False
    restricted: bool = False


Question = Written | Picked | Gathered | Roster
AnyQuestion = Annotated[Question, Field(discriminator="kind")]
Shown = Note | Picture | Video
Item = Annotated[Question | Shown | Carried | Computed, Field(discriminator="kind")]


def holding(item: Item) -> Holds:
    """What an entry holds of `item`."""
    if isinstance(item, Carried):
        return "pick" if item.options else "text"
    if isinstance(item, Computed):
        return "text" if isinstance(item.formula, First) else "number"
    return KINDS[item.kind].holds


def is_asked(item: Item) -> bool:
    """Whether `item` is a question that the respondent is asked."""
    return isinstance(item, Question)


def is_valued(item: Item) -> bool:
    """Whether an entry can hold a value of `item`."""
    return item.kind not in SHOWN


def is_restricted(item: Item) -> bool:
    return not isinstance(item, Shown) and item.restricted


def options_of(item: Item) -> tuple[Option, ...]:
    return item.options if isinstance(item, PickingPart) else ()


def inside(item: Item) -> tuple[Item, ...]:
    """The questions inside a roster or a grid."""
    match item:
        case Roster():
            return item.items
        case Grid():
            return item.columns
    return ()


def conditions_in(item: Item) -> Iterator[Condition | None]:
    """The conditions that decide whether and how `item` and what is inside it is shown."""
    yield item.shown_when
    yield getattr(item, "required_when", None)
    yield from (option.shown_when for option in options_of(item))
    if isinstance(item, Grid):
        yield from (row.shown_when for row in item.rows)
    for one in inside(item):
        yield from conditions_in(one)


def with_inside(items: tuple[Item, ...]) -> Iterator[Item]:
    """`items`, each followed by what is inside it."""
    for item in items:
        yield item
        yield from inside(item)


__all__ = [
    "IN_PARTS",
    "KINDS",
    "NOT_ASKED",
    "SHOWN",
    "Address",
    "AnyQuestion",
    "Carried",
    "Code",
    "Computed",
    "Country",
    "Date",
    "DateTime",
    "Email",
    "File",
    "Grid",
    "Inner",
    "Item",
    "Key",
    "LongText",
    "Name",
    "Note",
    "Number",
    "Option",
    "Part",
    "Pattern",
    "Phone",
    "PickMany",
    "PickOne",
    "PickingPart",
    "Picture",
    "Question",
    "QuestionPart",
    "Rank",
    "Roster",
    "Row",
    "Scale",
    "ShortText",
    "Shown",
    "Signature",
    "Time",
    "Video",
    "WebAddress",
    "YesNo",
    "conditions_in",
    "holding",
    "inside",
    "is_asked",
    "is_restricted",
    "is_valued",
    "options_of",
    "with_inside",
]
