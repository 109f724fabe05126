"""The questionnaire document: pages of items, checks across answers, skip rules, finishes.

One open JSON document, `Questionnaire`, is what a draft holds, what an edition freezes and
what is imported and exported. Its shape is checked here; whether it is fit to publish is
`core/publishing/faults.py`.
"""

from collections.abc import Iterator
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from jotgate.core.common.wording import Language, Text
from jotgate.core.common.zones import TimeZone
from jotgate.core.conditions.condition import Condition
from jotgate.core.conditions.cross_checks import CrossCheck
from jotgate.core.conditions.saved import SavedCondition
from jotgate.core.document.look import Look
from jotgate.core.items import Item, Key, Part, inside, options_of


class ToPage(Part):
    kind: Literal["page"]
    page: Key


class ToFinish(Part):
    """`finish` is empty while nobody has chosen where a rule leads."""

    kind: Literal["finish"]
    finish: Key | Literal[""]


class SkipRule(Part):
    """After its page: when the condition holds, go to a later page or to a finish."""

    when: Condition
    to: Annotated[ToPage | ToFinish, Field(discriminator="kind")]


class Page(Part):
    key: Key
    title: Text
    shown_when: Condition | None = None
    items: tuple[Item, ...] = Field((), max_length=2000)
    skips: tuple[SkipRule, ...] = Field((), max_length=200)
    checks: tuple[CrossCheck, ...] = Field((), max_length=100)


class FinishLink(Part):
    """A link that a finish offers; the address may hold slots, such as `?ref={entry_number}`. With
    `signed` it takes along `result`: a token that tells the program there what was done here."""

    label: Text = {}
    address: Annotated[str, StringConstraints(max_length=2000)] = ""
    signed: bool = False


class Finish(Part):
    """An end of the questionnaire. The first one is where a walk ends by default.

    The message may hold slots, such as `{name}`. `sets` are carried values, by key, that every
    entry ending here gets.
    """

    key: Key
    title: Text
    message: Text = {}
    link: FinishLink | None = None
    sets: dict[Key, Annotated[str, StringConstraints(max_length=1000)]] = {}


MOST_ITEMS = 3_000
"""Items of one questionnaire, those inside of rosters and grids too."""

MOST_OPTIONS = 30_000
"""Options of all its questions."""


class Questionnaire(Part):
    """`finish_freed` says that where an entry ended may be seen, whatever that depends on."""

    format: Literal["jotgate-questionnaire"] = "jotgate-questionnaire"
    version: Literal[1] = 1
    title: Text
    languages: tuple[Language, ...] = Field(("en",), min_length=1, max_length=30)
    time_zone: TimeZone = "UTC"
    look: Look = Look()
    pages: tuple[Page, ...] = Field(min_length=1, max_length=500)
    finishes: tuple[Finish, ...] = Field(min_length=1, max_length=100)
    saved: tuple[SavedCondition, ...] = Field((), max_length=200)
    finish_freed: bool = False

    @model_validator(mode="after")
    def _not_too_large(self) -> Self:
        items = [one for page in self.pages for item in page.items for one in (item, *inside(item))]
        options = sum(len(options_of(one)) for one in items)
        if len(items) > MOST_ITEMS:
            raise ValueError(f"there can be at most {MOST_ITEMS} questions in all")
        if options > MOST_OPTIONS:
            raise ValueError(f"there can be at most {MOST_OPTIONS} options in all")
        return self

    @property
    def first_language(self) -> str:
        return self.languages[0]

    def items(self) -> Iterator[Item]:
        for page in self.pages:
            yield from page.items


def blank(title: str, language: str = "en", time_zone: str = "UTC") -> Questionnaire:
    """A new draft: one page without questions, one finish."""
    return Questionnaire(
        title={language: title},
        languages=(language,),
        time_zone=time_zone,
        pages=(Page(key="page_1", title={language: "Page 1"}),),
        finishes=(
            Finish(
                key="done",
                title={language: "Thank you"},
                message={language: "We have your answers."},
            ),
        ),
    )
