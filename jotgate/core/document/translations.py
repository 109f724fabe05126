"""The texts of a questionnaire, by where they stand, and how each translation stands to them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel

from jotgate.core.common.wording import OF, Text
from jotgate.core.conditions.saved import SavedCondition
from jotgate.core.document.questionnaire import Finish, Page, Questionnaire
from jotgate.core.items.parts import ItemPart

State = Literal["none", "missing", "older", "current"]
"""None where there is no original; older than its original where that was changed since."""


@dataclass(frozen=True)
class PlacedText:
    """A text and its place: `title`, `items/source/options/own/label`, `finishes/done/message`.

    Pages, items and finishes stand under their keys, options and rows under their codes, and
    what has neither under its number from 1.
    """

    at: str
    text: Text


def texts(questionnaire: Questionnaire) -> tuple[PlacedText, ...]:
    """Every text, in reading order; empty ones too."""
    return tuple(_in_part(questionnaire, questionnaire.model_dump(mode="json"), ""))


def text_members(part: type[BaseModel]) -> tuple[str, ...]:
    """The members of a part that are texts."""
    return tuple(name for name, field in part.model_fields.items() if field.annotation == Text)


def _in_part(part: BaseModel, dumped: dict[str, Any], at: str) -> Iterator[PlacedText]:
    """The texts of `part` as they stand in `dumped`, its own before those of what it holds."""
    members = text_members(type(part))
    places = {name: f"{at}/{name}" if at else name for name in type(part).model_fields}
    for name in members:
        yield PlacedText(places[name], dumped[name])
    for name, place in places.items():
        value = getattr(part, name)
        if isinstance(value, BaseModel):
            yield from _in_part(value, dumped[name], place)
        elif isinstance(value, tuple):
            for number, (one, each) in enumerate(zip(value, dumped[name], strict=True), start=1):
                if isinstance(one, BaseModel):
                    yield from _in_part(one, each, _place(one, place, number))


def _place(part: BaseModel, at: str, number: int) -> str:
    if isinstance(part, ItemPart):
        return f"items/{part.key}"
    if isinstance(part, Page | Finish | SavedCondition):
        return f"{at}/{part.key}"
    return f"{at}/{getattr(part, 'code', number)}"


def state(text: Text, language: str, first: str) -> State:
    """How the words in `language` stand to those in the `first`."""
    original = text.get(first, "")
    if not original.strip():
        return "none"
    if not text.get(language, "").strip():
        return "missing"
    return "older" if text.get(language + OF, original) != original else "current"


@dataclass(frozen=True)
class Translated:
    """Words in a language, and the original that they were made from."""

    words: str
    original: str


def translated(
    questionnaire: Questionnaire, language: str, given: Mapping[str, Translated]
) -> Questionnaire:
    """`questionnaire` with `given` words in `language`, by place. Raises ValidationError."""
    document = questionnaire.model_dump(mode="json")
    for said in _in_part(questionnaire, document, ""):
        one = given.get(said.at)
        if one is not None:
            said.text[language] = one.words
            said.text[language + OF] = one.original
    if language not in document["languages"]:
        document["languages"].append(language)
    return Questionnaire.model_validate(document)
