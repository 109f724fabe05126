"""An entry's answers as JSON Schema (draft 2020-12), as far as that can say it.

Answers stand in the form in which they are kept: text, codes, lists of codes, ISO 8601, maps of
parts, and numbers as JSON numbers. What a schema cannot say stands in a `$comment`, so that
nobody relies on it.
"""

from collections.abc import Iterable, Iterator
from typing import Any

from jotgate.core.answers.by_kind import RULES
from jotgate.core.common.wording import say
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Grid, Item, Roster, is_asked, is_valued, with_inside

DIALECT = "https://json-schema.org/draft/2020-12/schema"


def entry_schema(questionnaire: Questionnaire) -> dict[str, Any]:
    """The schema of one entry's answers, by key."""
    first = questionnaire.first_language
    sure = questionnaire.pages[0].items if questionnaire.pages[0].shown_when is None else ()
    return {
        "$schema": DIALECT,
        "title": say(questionnaire.title, first, first),
        **_object(tuple(questionnaire.items()), _always(sure), first),
    }


def _object(items: Iterable[Item], always: Iterable[str], first: str) -> dict[str, Any]:
    """Answers by key; `always` are the keys that must be there."""
    return {
        "type": "object",
        "properties": {
            item.key: {"title": say(item.text, first, first), **_answer(item, first)}
            for item in items
            if is_valued(item)
        },
        "required": list(always),
        "additionalProperties": False,
    }


def _answer(item: Item, first: str) -> dict[str, Any]:
    missing = list(_unsaid(item))
    comment = {"$comment": f"Not said here: {', '.join(missing)}."} if missing else {}
    if isinstance(item, Roster):
        line = _object(item.items, _always(item.items), first)
        return {**_lines(line, item.most, max(item.fewest, 1)), **comment}
    if isinstance(item, Grid):
        return {**_grid(item, first), **comment}
    schema = RULES[item.kind].schema
    return {**(schema(item) if schema else {}), **comment}


def _lines(line: dict[str, Any], most: int, fewest: int) -> dict[str, Any]:
    items = {**line, "minProperties": 1}
    return {"type": "array", "items": items, "minItems": fewest, "maxItems": most}


def _grid(item: Grid, first: str) -> dict[str, Any]:
    line = _object(item.columns, _always(item.columns), first)
    return {
        "type": "object",
        "properties": {row.code: _lines(line, row.repeats, 1) for row in item.rows},
        "required": [row.code for row in item.rows if row.required and row.shown_when is None],
        "minProperties": 1,
        "additionalProperties": False,
    }


def _always(items: Iterable[Item]) -> Iterator[str]:
    """The required questions of `items` that are always asked."""
    for item in items:
        needed = is_asked(item) and (item.required or _needs_lines(item))  # type: ignore[union-attr]
        if needed and item.shown_when is None:
            yield item.key


def _needs_lines(item: Item) -> bool:
    if isinstance(item, Roster):
        return item.fewest > 0
    return isinstance(item, Grid) and any(
        row.required and row.shown_when is None for row in item.rows
    )


def unsaid(questionnaire: Questionnaire) -> list[tuple[str, str]]:
    """What the schema leaves out, as pairs of key and plain words."""
    every = with_inside(tuple(questionnaire.items()))
    checks = [
        (page.key, "its checks across answers") for page in questionnaire.pages if page.checks
    ]
    return [(item.key, why) for item in every for why in _unsaid(item)] + checks


def _unsaid(item: Item) -> Iterator[str]:
    if item.shown_when is not None:
        yield "when it is shown"
    if getattr(item, "required_when", None) is not None:
        yield "when it is required"
    if getattr(item, "varies", False):
        yield "when each option or row is shown"
    if isinstance(item, Roster) and item.checks:
        yield "its checks across answers"
    yield from RULES[item.kind].unsaid(item)
