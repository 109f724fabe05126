"""What stands on a page: questions by kind, notes, carried values."""

from decimal import Decimal
from functools import cached_property
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from jotgate.core.conditions import Condition
from jotgate.core.wording import Text

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Code = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$")]
Country = Annotated[str, StringConstraints(pattern=r"^[A-Z]{2}$")]
"""An ISO 3166-1 alpha-2 code, such as `GB`."""

DateBound = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2}|today([+-]\d{1,4})?)$")]
"""A date in ISO 8601, or `today`, `today+30`, `today-7`, in days."""

TimeBound = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]


class Part(BaseModel):
    """A frozen part of a document; members it does not know are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Option(Part):
    """What the respondent reads (`label`) and what is stored (`code`).

    `alone` is for pick many: an option that excludes the others, such as "None of these".
    """

    code: Code
    label: Text
    alone: bool = False


class Pattern(Part):
    """A shape that a text must have as a whole: an expression for RE2, with a name for people.

    `like` completes "Write it like …". The examples are held against the expression.
    """

    expression: Annotated[str, StringConstraints(min_length=1, max_length=500)]
    like: Text = {}
    fits: tuple[Annotated[str, StringConstraints(max_length=1000)], ...] = Field((), max_length=50)
    fails: tuple[Annotated[str, StringConstraints(max_length=1000)], ...] = Field((), max_length=50)


class _Item(Part):
    key: Key
    text: Text
    shown_when: Condition | None = None


class _Question(_Item):
    help: Text = {}
    required: bool = False
    restricted: bool = False
    error_text: Text = {}


class _Typed(_Question):
    placeholder: Text = {}


class _Picking(Part):
    options: tuple[Option, ...] = Field((), max_length=2000)

    @cached_property
    def codes(self) -> frozenset[str]:
        return frozenset(option.code for option in self.options)


class ShortText(_Typed):
    """One line. Lengths are in characters (Unicode code points)."""

    kind: Literal["short_text"]
    shortest: int | None = Field(None, ge=0, le=1000)
    longest: int | None = Field(None, ge=1, le=1000)
    pattern: Pattern | None = None


class LongText(_Typed):
    """Several lines. Lengths are in characters, a line break counting one."""

    kind: Literal["long_text"]
    shortest: int | None = Field(None, ge=0, le=20_000)
    longest: int | None = Field(None, ge=1, le=20_000)


class Email(_Typed):
    """A mail address (RFC 5322 and 6531), kept with its domain in lower case."""

    kind: Literal["email"]


class Phone(_Typed):
    """A phone number, kept as E.164. A number without `+` is taken for the first country's.

    With `countries` only their numbers are accepted, without any country's, with `+`.
    """

    kind: Literal["phone"]
    countries: tuple[Country, ...] = Field((), max_length=250)


class WebAddress(_Typed):
    """An http or https address; one without a scheme gets https."""

    kind: Literal["web_address"]


class Number(_Typed):
    """A decimal number with at most `decimals` digits after the point; 0 means whole."""

    kind: Literal["number"]
    at_least: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    at_most: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    decimals: int = Field(0, ge=0, le=6)


class Date(_Question):
    """A calendar date. `today` in a bound is the day in the questionnaire's time zone."""

    kind: Literal["date"]
    earliest: DateBound | None = None
    latest: DateBound | None = None


class Time(_Question):
    """A time of day, to the minute."""

    kind: Literal["time"]
    earliest: TimeBound | None = None
    latest: TimeBound | None = None


class YesNo(_Question):
    kind: Literal["yes_no"]


class PickOne(_Question, _Picking):
    kind: Literal["pick_one"]


class PickMany(_Question, _Picking):
    """Any number of options, or between `fewest` and `most` of them."""

    kind: Literal["pick_many"]
    fewest: int | None = Field(None, ge=1, le=2000)
    most: int | None = Field(None, ge=1, le=2000)


class Scale(_Question):
    """A whole number from `low` to `high`, its ends in words."""

    kind: Literal["scale"]
    low: int = Field(1, ge=0, le=1)
    high: int = Field(5, ge=2, le=10)
    low_label: Text = {}
    high_label: Text = {}


class Note(_Item):
    """Words between the questions; nothing is asked."""

    kind: Literal["note"]


class Carried(_Item, _Picking):
    """A value that nobody is asked: it arrives with the link, under the item's key.

    With options, the link may give a code or a label. `when_wrong` says what happens to a
    value that fails: the visitor is refused, or the entry is taken and flagged.
    """

    kind: Literal["carried"]
    restricted: bool = False
    required: bool = False
    longest: int = Field(200, ge=1, le=1000)
    when_wrong: Literal["refuse", "flag"] = "flag"


Question = (
    ShortText
    | LongText
    | Email
    | Phone
    | WebAddress
    | Number
    | Date
    | Time
    | YesNo
    | PickOne
    | PickMany
    | Scale
)
Item = Annotated[Question | Note | Carried, Field(discriminator="kind")]


def is_asked(item: Item) -> bool:
    """Whether `item` is a question that the respondent is asked."""
    return isinstance(item, Question)


def is_valued(item: Item) -> bool:
    """Whether an entry can hold a value of `item`."""
    return not isinstance(item, Note)


def is_restricted(item: Item) -> bool:
    return not isinstance(item, Note) and item.restricted


def options_of(item: Item) -> tuple[Option, ...]:
    return item.options if isinstance(item, PickOne | PickMany | Carried) else ()
