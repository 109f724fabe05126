"""An entry's answers as JSON Schema (draft 2020-12), as far as that can say it.

Answers stand in the form in which they are kept: text, codes, lists of codes, ISO 8601, and
numbers as JSON numbers. What a schema cannot say stands in a `$comment`, so that nobody relies on
it.
"""

from collections.abc import Iterator
from typing import Any, assert_never

from jotgate.core.items import (
    Carried,
    Date,
    Email,
    Item,
    LongText,
    Note,
    Number,
    Phone,
    PickMany,
    PickOne,
    Question,
    Scale,
    ShortText,
    Time,
    WebAddress,
    YesNo,
)
from jotgate.core.questionnaire import Questionnaire
from jotgate.core.texts import LONGEST_ADDRESS
from jotgate.core.wording import say

DIALECT = "https://json-schema.org/draft/2020-12/schema"

ONE_LINE = "^[^\\u0000-\\u001f\\u007f-\\u009f]*$"
LINES = "^[^\\u0000-\\u0008\\u000b-\\u001f\\u007f-\\u009f]*$"
CLOCK = "^([01][0-9]|2[0-3]):[0-5][0-9]$"


def entry_schema(questionnaire: Questionnaire) -> dict[str, Any]:
    """The schema of one entry's answers, by key."""
    first = questionnaire.first_language
    return {
        "$schema": DIALECT,
        "title": say(questionnaire.title, first, first),
        "type": "object",
        "properties": {
            item.key: {"title": say(item.text, first, first), **_answer(item), **_comment(item)}
            for item in questionnaire.items()
            if not isinstance(item, Note)
        },
        "required": [item.key for item in _always(questionnaire)],
        "additionalProperties": False,
    }


def _comment(item: Item) -> dict[str, str]:
    missing = list(_unsaid(item))
    return {"$comment": f"Not said here: {', '.join(missing)}."} if missing else {}


def _always(questionnaire: Questionnaire) -> Iterator[Question]:
    """Required questions that everybody is asked: on the first page, without a condition."""
    first_page = questionnaire.pages[0]
    if first_page.shown_when is None:
        for item in first_page.items:
            if isinstance(item, Question) and item.required and item.shown_when is None:
                yield item


def _text(shortest: int | None, longest: int, pattern: str = ONE_LINE) -> dict[str, Any]:
    found = {"type": "string", "minLength": max(shortest or 1, 1), "maxLength": longest}
    return {**found, "pattern": pattern}


def _answer(item: Question | Carried) -> dict[str, Any]:
    """The schema of one answer."""
    match item:
        case ShortText():
            return _shaped(item)
        case LongText():
            return _text(item.shortest, item.longest or 20_000, LINES)
        case Email():
            return {**_text(None, 254), "format": "email"}
        case Phone():
            return {"type": "string", "pattern": "^\\+[1-9][0-9]{1,14}$"}
        case WebAddress():
            return {**_text(None, LONGEST_ADDRESS), "format": "uri"}
        case Number():
            return _range("number" if item.decimals else "integer", item.at_least, item.at_most)
        case Scale():
            return _range("integer", item.low, item.high)
        case Date():
            return {"type": "string", "format": "date"}
        case Time():
            return {"type": "string", "pattern": CLOCK}
        case YesNo():
            return {"type": "boolean"}
        case PickOne():
            return {"enum": [option.code for option in item.options]}
        case PickMany():
            return _picks(item)
        case Carried():
            if item.options:
                return {"enum": [option.code for option in item.options]}
            return _text(None, item.longest)
    assert_never(item)


def _shaped(item: ShortText) -> dict[str, Any]:
    found = _text(item.shortest, item.longest or 1000)
    if item.pattern:
        found["allOf"] = [{"pattern": f"^(?:{item.pattern.expression})$"}]
    return found


def _range(kind: str, low: Any, high: Any) -> dict[str, Any]:
    found: dict[str, Any] = {"type": kind}
    for name, limit in (("minimum", low), ("maximum", high)):
        if limit is not None:
            found[name] = int(limit) if limit == int(limit) else float(limit)
    return found


def _picks(item: PickMany) -> dict[str, Any]:
    """Codes, each once; an option that stands alone makes a list of one, which is enough."""
    among = {"minItems": item.fewest or 1, "maxItems": item.most or len(item.options)}
    alone = [option.code for option in item.options if option.alone]
    found: dict[str, Any] = {
        "type": "array",
        "items": {"enum": [option.code for option in item.options]},
        "uniqueItems": True,
    }
    if not alone:
        return {**found, **among}
    others = {"items": {"not": {"enum": alone}}, **among}
    single = {"items": {"enum": alone}, "minItems": 1, "maxItems": 1}
    return {**found, "anyOf": [others, single]}


def unsaid(questionnaire: Questionnaire) -> list[tuple[str, str]]:
    """What the schema leaves out, as pairs of key and plain words."""
    return [(item.key, why) for item in questionnaire.items() for why in _unsaid(item)]


def _unsaid(item: Item) -> Iterator[str]:
    if item.shown_when is not None:
        yield "when it is shown"
    match item:
        case ShortText(pattern=pattern) if pattern is not None:
            yield "that its pattern is read by RE2"
        case Number(decimals=decimals) if decimals:
            yield f"at most {decimals} digits after the point"
        case Date() | Time() if item.earliest or item.latest:
            yield "its earliest and latest"
        case Phone() if item.countries:
            yield "its countries"
        case Email() | WebAddress():
            yield "its form in full"
