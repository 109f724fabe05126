"""The questionnaire document: pages, items by kind, skip rules, finishes.

One open JSON document, `Questionnaire`, is what a draft holds, what an edition freezes and
what is brought in and taken out. Its shape is checked here; whether it is fit to publish is
`core/faults.py`.
"""

from collections.abc import Iterator
from decimal import Decimal
from functools import cached_property
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from jotgate.core.conditions import Condition
from jotgate.core.wording import Language, Text

FORMAT = "jotgate-questionnaire"
VERSION = 1

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Code = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$")]


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Option(_Part):
    """What the respondent reads (`label`) and what is stored (`code`)."""

    code: Code
    label: Text


class _Item(_Part):
    key: Key
    text: Text
    shown_when: Condition | None = None


class _Question(_Item):
    help: Text = {}
    required: bool = False
    restricted: bool = False
    error_text: Text = {}


class _Picking(_Part):
    options: tuple[Option, ...] = Field((), max_length=2000)

    @cached_property
    def codes(self) -> frozenset[str]:
        return frozenset(option.code for option in self.options)


class ShortText(_Question):
    """One line. Lengths are in characters (Unicode code points)."""

    kind: Literal["short_text"]
    placeholder: Text = {}
    shortest: int | None = Field(None, ge=0, le=1000)
    longest: int | None = Field(None, ge=1, le=1000)


class LongText(_Question):
    """Several lines. Lengths are in characters, a line break counting one."""

    kind: Literal["long_text"]
    placeholder: Text = {}
    shortest: int | None = Field(None, ge=0, le=20_000)
    longest: int | None = Field(None, ge=1, le=20_000)


class Number(_Question):
    """A decimal number with at most `decimals` digits after the point; 0 means whole."""

    kind: Literal["number"]
    placeholder: Text = {}
    at_least: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    at_most: Decimal | None = Field(None, max_digits=20, decimal_places=6)
    decimals: int = Field(0, ge=0, le=6)


class YesNo(_Question):
    kind: Literal["yes_no"]


class PickOne(_Question, _Picking):
    kind: Literal["pick_one"]


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


Question = ShortText | LongText | Number | YesNo | PickOne
Item = Annotated[Question | Note | Carried, Field(discriminator="kind")]


class ToPage(_Part):
    kind: Literal["page"]
    page: Key


class ToFinish(_Part):
    kind: Literal["finish"]
    finish: Key


class SkipRule(_Part):
    """After its page: when the condition holds, go to a later page or to a finish."""

    when: Condition
    to: Annotated[ToPage | ToFinish, Field(discriminator="kind")]


class Page(_Part):
    key: Key
    title: Text
    shown_when: Condition | None = None
    items: tuple[Item, ...] = Field((), max_length=2000)
    skips: tuple[SkipRule, ...] = Field((), max_length=200)


class Finish(_Part):
    """An end of the questionnaire. The first one is where a walk ends by default."""

    key: Key
    title: Text
    message: Text = {}


class Questionnaire(_Part):
    format: Literal["jotgate-questionnaire"] = "jotgate-questionnaire"
    version: Literal[1] = 1
    title: Text
    languages: tuple[Language, ...] = Field(("en",), min_length=1, max_length=30)
    pages: tuple[Page, ...] = Field(min_length=1, max_length=500)
    finishes: tuple[Finish, ...] = Field(min_length=1, max_length=100)

    @property
    def first_language(self) -> str:
        return self.languages[0]

    def items(self) -> Iterator[Item]:
        for page in self.pages:
            yield from page.items


def is_asked(item: Item) -> bool:
    """Whether `item` is a question that the respondent is asked."""
    return isinstance(item, Question)


def is_valued(item: Item) -> bool:
    """Whether an entry can hold a value of `item`."""
    return not isinstance(item, Note)


def is_restricted(item: Item) -> bool:
    return not isinstance(item, Note) and item.restricted


def options_of(item: Item) -> tuple[Option, ...]:
    return item.options if isinstance(item, PickOne | Carried) else ()


def blank(title: str, language: str = "en") -> Questionnaire:
    """A new draft: one page without questions, one finish."""
    return Questionnaire(
        title={language: title},
        languages=(language,),
        pages=(Page(key="page_1", title={language: "Page 1"}),),
        finishes=(
            Finish(
                key="done",
                title={language: "Thank you"},
                message={language: "We have your answers."},
            ),
        ),
    )
