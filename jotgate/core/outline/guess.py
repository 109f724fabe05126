"""What kind of question some words ask, and why it is taken for that."""

from dataclasses import dataclass, field, replace
from typing import Any

from jotgate.core.outline.asked import LONGEST_LOOKED_AT, OutlineQuestion, latin
from jotgate.core.outline.clues import CLUES
from jotgate.core.outline.words import (
    CONSENT,
    ELSE,
    MANY,
    MORE,
    NAME,
    NO,
    NONE,
    RANK,
    RATES,
    SCALE,
    TELLS,
    YES,
    YES_NO,
)

MOST_ROWS = 100
"""Statements that can stand in one grid."""


@dataclass(frozen=True)
class Guess:
    """`more` are members of the item that follow from its words; `why` completes "since …"."""

    kind: str
    why: str
    more: dict[str, Any] = field(default_factory=dict)


def guess(asked: OutlineQuestion) -> Guess:
    """The kind of `asked`, which can hold options or none."""
    options = asked.options + asked.rows
    if len(asked.words) > LONGEST_LOOKED_AT and not options:
        return Guess("short_text", "it is too long to be looked into")
    if asked.kind:
        ends = _ends(asked.words) if asked.kind == "scale" and not options else {}
        return Guess(asked.kind, "its kind is written beside it", ends)
    if 1 < len(asked.rows) <= MOST_ROWS:
        cell = _cell(asked)
        return Guess("grid", f"{len(asked.rows)} lines are answered alike", {"cell": cell})
    if len(options) > 1:
        return _picked(replace(asked, options=options, rows=()))
    if asked.ends:
        more = _ended(*asked.ends)
        return Guess("scale", f"it asks for {asked.ends[0]} to {asked.ends[1]}", more)
    if CONSENT.match(asked.words):
        return Guess("yes_no", "it asks to agree")
    scale = SCALE.search(latin(asked.words))
    if scale and (RATES.search(asked.words) or "(" in scale[0]):
        return Guess("scale", f"it asks for {scale[1]} to {scale[2]}", _ends(asked.words))
    if NAME.match(asked.words):
        return Guess("name", "it asks for a person's name")
    further = MORE.search(asked.words)
    if further:
        return Guess("long_text", f'"{further[0]}" asks for words at length')
    if YES_NO.search(asked.words):
        return Guess("yes_no", "it can be answered with yes or no")
    for kind, clue, wanted in CLUES:
        found = clue.search(asked.words)
        if found:
            return Guess(kind, f'"{found[0].strip()}" asks for {wanted}')
    return Guess("short_text", "nothing says otherwise")


def _cell(asked: OutlineQuestion) -> Guess:
    """What each of the rows is answered with."""
    found = _picked(replace(asked, rows=(), ends=None))
    return Guess("pick_one", found.why) if found.kind in ("rank", "grid") else found


def _ended(low: int, high: int, least: str, most: str) -> dict[str, Any]:
    return {"low": low, "high": high, "low_label": least, "high_label": most}


def _ends(words: str) -> dict[str, Any]:
    """The ends of the scale that stands in `words`, empty where none does."""
    found = SCALE.search(latin(words))
    return {"low": int(found[1]), "high": int(found[2])} if found else {}


def _picked(asked: OutlineQuestion) -> Guess:
    options = asked.options
    answers = {_answer(one) for one in options}
    if len(options) == 2 and answers == {"yes", "no"}:
        return Guess("yes_no", "its options are yes and no")
    stated = not any(one.strip().isdigit() for one in options)
    rated = _ends(f"{asked.words} {asked.help}") if RATES.search(asked.words) else {}
    scale = _ended(*asked.ends) if asked.ends else rated
    if scale and stated and len(options) <= MOST_ROWS:
        cell = Guess("scale", "", scale)
        return Guess("grid", f"{len(options)} lines are put on one scale", {"cell": cell})
    numbers = [int(one) for one in options if one.isascii() and one.isdigit()]
    run = bool(numbers) and numbers == list(range(numbers[0], numbers[0] + len(options)))
    if run and numbers[0] in (0, 1) and 2 <= numbers[-1] <= 10:
        ends = {"low": numbers[0], "high": numbers[-1]}
        return Guess("scale", "its options are numbers in a row", ends)
    if RANK.search(asked.words):
        return Guess("rank", "it asks for an order")
    many = MANY.search(asked.words) or MANY.search(asked.help)
    if many:
        return Guess("pick_many", f'it says "{many[0]}"')
    if "box" in asked.marks:
        return Guess("pick_many", "its options have boxes")
    return Guess("pick_one", f"{len(options)} options stand below it")


def _answer(option: str) -> str:
    return "yes" if YES.match(option) else "no" if NO.match(option) else option


def is_else(option: str) -> bool:
    """Whether an option offers something else in the respondent's own words."""
    return bool(ELSE.match(option))


def is_none(option: str) -> bool:
    """Whether an option excludes the others, such as "None of these"."""
    return bool(NONE.match(option))


def asks_nothing_else(asked: OutlineQuestion) -> bool:
    """Whether nothing gives away what `asked` could ask for."""
    found = guess(asked)
    return (
        found.kind == "short_text"
        and not asked.kind
        and not asked.required
        and not tells(asked.words)
    )


def tells(words: str) -> bool:
    """Whether a sentence asks for something without a question mark."""
    return bool(TELLS.match(words)) or any(clue.search(words) for _, clue, _ in CLUES)
