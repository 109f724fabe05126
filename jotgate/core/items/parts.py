"""What items are made of: options, patterns, bounds, and what all questions share."""

from functools import cached_property
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Code, Key, Part
from jotgate.core.common.values import ELSE
from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import Condition

Country = Annotated[str, StringConstraints(pattern=r"^[A-Z]{2}$")]
"""An ISO 3166-1 alpha-2 code, such as `GB`."""

DateBound = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2}|today([+-]\d{1,4})?)$")]
"""A date in ISO 8601, or `today`, `today+30`, `today-7`, in days."""

TimeBound = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]

MomentBound = Annotated[
    str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2}|today([+-]\d{1,4})?|now)$")
]
"""A day, as in `DateBound`, the whole of which is meant, or `now`."""


class Option(Part):
    """What the respondent reads (`label`) and what is stored (`code`).

    `alone` is for pick many: an option that excludes the others, such as "None of these".
    """

    code: Code
    label: Text
    alone: bool = False
    shown_when: Condition | None = None


class Pattern(Part):
    """A shape that a text must have as a whole: an expression for RE2, with a name for people.

    `like` completes "Write it …". The examples are held against the expression.
    """

    expression: Annotated[str, StringConstraints(min_length=1, max_length=500)]
    like: Text = {}
    fits: tuple[Annotated[str, StringConstraints(max_length=1000)], ...] = Field((), max_length=50)
    fails: tuple[Annotated[str, StringConstraints(max_length=1000)], ...] = Field((), max_length=50)


class ItemPart(Part):
    """What every item has.

    `short_name` is what staff read for it; respondents never see it. `freed` says that its author
    knows what it depends on: it is not restricted because of that.
    """

    key: Key
    text: Text
    short_name: Annotated[str, StringConstraints(max_length=60)] = ""
    shown_when: Condition | None = None
    freed: bool = False


Width = Literal["full", "half", "third"]
"""The share of the page that a question takes where there is room for others beside it."""


class FromBank(Part):
    """A question of the question bank, and the revision of it that was taken."""

    id: UUID
    revision: int = Field(ge=1)


class QuestionPart(ItemPart):
    """What every question has; `banked` where it stays linked with the question bank.

    It is required always, or under the condition `required_when`.
    """

    help: Text = {}
    required: bool = False
    required_when: Condition | None = None
    restricted: bool = False
    error_text: Text = {}
    width: Width = "full"
    banked: FromBank | None = None


class TypedPart(QuestionPart):
    placeholder: Text = {}


class PickingPart(Part):
    options: tuple[Option, ...] = Field((), max_length=2000)

    @cached_property
    def codes(self) -> frozenset[str]:
        return frozenset(option.code for option in self.options)

    @cached_property
    def varies(self) -> bool:
        """Whether what is offered depends on answers."""
        return any(option.shown_when is not None for option in self.options)


class PickPart(QuestionPart, PickingPart):
    """Picking, perhaps of something else in the respondent's own words.

    Where `else_label` has words, that is offered under the code `else`. `shuffled` options
    stand in another order for each visitor, all but those that are `alone` or else.
    """

    else_label: Text = {}
    shuffled: bool = False

    @cached_property
    def code_set(self) -> frozenset[str]:
        """The codes that a condition may name."""
        return self.codes | {ELSE} if self.else_label else self.codes


Look = Literal["list", "dropdown", "buttons"]
"""How pick one is laid out; more than 12 options in a list or dropdown can be searched."""
