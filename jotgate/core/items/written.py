"""Questions that are answered by writing: texts, addresses, numbers, days and times."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from jotgate.core.common.wording import Text
from jotgate.core.items.parts import (
    Country,
    DateBound,
    MomentBound,
    Pattern,
    QuestionPart,
    TimeBound,
    TypedPart,
)


class ShortText(TypedPart):
    """One line. Lengths are in characters (Unicode code points)."""

    kind: Literal["short_text"]
    shortest: int | None = Field(None, ge=0, le=1000)
    longest: int | None = Field(None, ge=1, le=1000)
    pattern: Pattern | None = None


class LongText(TypedPart):
    """Several lines. Lengths are in characters, a line break counting one."""

    kind: Literal["long_text"]
    shortest: int | None = Field(None, ge=0, le=20_000)
    longest: int | None = Field(None, ge=1, le=20_000)


class Email(TypedPart):
    """A mail address (RFC 5322 and 6531), kept with its domain in lower case."""

    kind: Literal["email"]


class Phone(TypedPart):
    """A phone number, kept as E.164. A number without `+` is taken for the first country's.

    With `countries` only their numbers are accepted, without any country's, with `+`.
    """

    kind: Literal["phone"]
    countries: tuple[Country, ...] = Field((), max_length=250)


class WebAddress(TypedPart):
    """An http or https address; one without a scheme gets https."""

    kind: Literal["web_address"]


class Number(TypedPart):
    """A decimal number with at most `decimals` digits after the point; 0 means whole.

    `step` is counted from `at_least`, or from 0 where there is none. `unit`, such as "litres",
    stands behind the field.
    """

    kind: Literal["number"]
    at_least: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    at_most: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    decimals: int = Field(0, ge=0, le=6)
    step: Decimal | None = Field(None, gt=0, max_digits=20, decimal_places=6)
    unit: Text = {}


class Date(QuestionPart):
    """A calendar date. `today` in a bound is the day in the questionnaire's time zone."""

    kind: Literal["date"]
    earliest: DateBound | None = None
    latest: DateBound | None = None


class Time(QuestionPart):
    """A time of day, to the minute."""

    kind: Literal["time"]
    earliest: TimeBound | None = None
    latest: TimeBound | None = None


class DateTime(QuestionPart):
    """A moment, to the minute: asked and shown in the questionnaire's time zone, kept in UTC.

    A bound that is a day means the whole of it.
    """

    kind: Literal["date_time"]
    earliest: MomentBound | None = None
    latest: MomentBound | None = None


Written = ShortText | LongText | Email | Phone | WebAddress | Number | Date | Time | DateTime
