"""What kind of question some words ask, and why it is taken for that."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from jotgate.core.outline.lines import Mark
from jotgate.core.outline.words import (
    CLUES,
    ELSE,
    EXAMPLE,
    HELP,
    MANY,
    NAME,
    NAMED,
    NO,
    NONE,
    OPTIONAL,
    RANK,
    RATES,
    REQUIRED,
    SCALE,
    TELLS,
    YES,
    YES_NO,
)


@dataclass(frozen=True)
class Asked:
    """A question as it was read. `kind` is what was written, `marks` what its options had."""

    line: int
    words: str
    required: bool = False
    kind: str = ""
    help: str = ""
    example: str = ""
    options: tuple[str, ...] = ()
    marks: frozenset[Mark] = frozenset()


@dataclass(frozen=True)
class Guess:
    """`more` are members of the item that follow from its words; `why` completes "since …"."""

    kind: str
    why: str
    more: dict[str, Any] = field(default_factory=dict)


LONGEST_LOOKED_AT = 500
"""Characters of a line that are looked into for what it asks; a longer one is taken as it is."""

_BLANKS = re.compile(r"[_.…]{3}")
_ROUND = re.compile(r"[(\[]([^()\[\]]{1,200})[)\]]\s*([*]?)\s*([?؟:]?)$")
_DATE_FORM = re.compile(r"(?:[dDtTmMyYjJaA]{1,4}[./ -]){2}[dDtTmMyYjJaA]{1,4}")
"""How a day is to be written: DD/MM/YYYY, TT.MM.JJJJ, AAAA-MM-DD."""

_DIVIDER = re.compile(r"[/|;]")
_COLON = re.compile(r"[?؟:]")
MOST_COLONS = 4
"""Places behind which choices on the same line are looked for."""

_BOXES = re.compile(r"\s*(?:\[ ?\]|[☐□○◯])\s*")


def read(line: int, words: str) -> Asked:
    """The parts that stand in the line of a question, taken apart."""
    asked = Asked(line, words.strip())
    if len(asked.words) > LONGEST_LOOKED_AT:
        return asked
    if asked.words.startswith("*") and not asked.words.startswith("* "):
        asked = replace(asked, words=asked.words[1:].strip(), required=True)
    asked = _boxes(asked)
    while True:
        further = _trailing(asked)
        if further == asked:
            break
        asked = further
    found = EXAMPLE.search(asked.words)
    if found and found.start() > 0 and not asked.example:
        example = asked.words[found.end() :].strip(" .)")
        asked = replace(asked, words=asked.words[: found.start()].rstrip(" ,;(-–"), example=example)
    at = None if asked.options or "://" in asked.words else _inline(asked.words)
    if at is not None:
        asked = replace(asked, words=asked.words[:at], options=_split(asked.words[at:]))
    return replace(asked, words=asked.words.removesuffix(":").strip())


def _are_choices(words: str, longest: int) -> bool:
    parts = _DIVIDER.split(words)
    return len(parts) > 1 and all(0 < len(part.strip()) <= longest for part in parts)


def _inline(words: str) -> int | None:
    """Where choices begin that stand behind a question on its own line."""
    start = max(words.rfind("?"), 0)
    ends = [found.end() for found in _COLON.finditer(words, start)][:MOST_COLONS]
    return next((end for end in ends if _are_choices(words[end:], 40)), None)


def _boxes(asked: Asked) -> Asked:
    """Options that stand behind the question, each with a box or a ring."""
    first = _BOXES.search(asked.words)
    parts = [part for part in _BOXES.split(asked.words) if part.strip()]
    if not first or first.start() == 0 or len(parts) < 3:
        return asked
    mark: Mark = "ring" if first[0].strip() in "○◯" else "box"
    return replace(asked, words=parts[0].strip(), options=tuple(parts[1:]), marks=frozenset({mark}))


def _trailing(asked: Asked) -> Asked:
    """Take one thing off the end: a star, a gap to write in, something in brackets."""
    words = asked.words
    if words.endswith("*"):
        return replace(asked, words=words.rstrip("* "), required=True)
    written = _without_gap(words)
    if written and written != words:
        return replace(asked, words=written)
    inside = _ROUND.search(words.rstrip())
    if not inside:
        return asked
    rest = words[: inside.start()].rstrip() + (inside[3] if inside[3] != ":" else "")
    kept = _inside(asked, inside[1].strip())
    if kept is None or not rest.strip():
        return asked
    return replace(kept, words=rest.strip(), required=kept.required or bool(inside[2]))


def _without_gap(words: str) -> str:
    """`words` without a line of underscores, dots or an empty box to write in behind it."""
    if words.endswith("]") and not words[:-1].rstrip().removesuffix("[").strip():
        return words
    box = words[:-1].rstrip() if words.endswith("]") else ""
    if box.endswith("["):
        return box[:-1].rstrip(" :")
    before = words.rstrip(" \t:._…")
    tail = words[len(before) :]
    return before if tail[-1:] in "_.…" and _BLANKS.search(tail) else words


def _inside(asked: Asked, words: str) -> Asked | None:
    """What brackets at the end mean, None where they belong to the question."""
    if words.lower() in NAMED:
        return replace(asked, kind=NAMED[words.lower()])
    if REQUIRED.fullmatch(words):
        return replace(asked, required=True)
    if OPTIONAL.fullmatch(words):
        return replace(asked, required=False)
    example = EXAMPLE.match(words)
    if example:
        return replace(asked, example=words[example.end() :].strip())
    if _DATE_FORM.fullmatch(words):
        return replace(asked, kind=asked.kind or "date")
    listed = [part.strip() for part in words.split(",")]
    if len(listed) > 2 and not asked.options and all(0 < len(one.split()) < 4 for one in listed):
        return replace(asked, options=tuple(listed))
    if _are_choices(words, 60) and not asked.options and "://" not in words:
        return replace(asked, options=_split(words))
    if SCALE.fullmatch(words) or MANY.search(words) or len(words.split()) < 3:
        return None
    return None if asked.help else replace(asked, help=words)


def _split(words: str) -> tuple[str, ...]:
    return tuple(part.strip(" .") for part in re.split(r"[/|;]", words) if part.strip(" ."))


def hint(asked: Asked, words: str) -> Asked | None:
    """`asked` with a line below it that only explains; None where it is none."""
    bare = words.strip()
    example = EXAMPLE.match(bare.lstrip("("))
    if example:
        said = bare.lstrip("(")[example.end() :].strip(" .)")
        return replace(asked, example=said)
    found = HELP.match(bare)
    if found:
        return replace(asked, help=bare[found.end() :])
    if bare.startswith("(") and bare.endswith(")") and len(bare) > 2:
        inside = _inside(asked, bare[1:-1])
        return inside or replace(asked, help=bare[1:-1])
    return None


def guess(asked: Asked) -> Guess:
    """The kind of `asked`, which can hold options or none."""
    options = asked.options
    if len(asked.words) > LONGEST_LOOKED_AT and not options:
        return Guess("short_text", "it is too long to be looked into")
    if asked.kind:
        return Guess(asked.kind, "its kind is written beside it", _ends(asked.words, options))
    if len(options) > 1:
        return _picked(asked)
    scale = SCALE.search(asked.words)
    if scale and (RATES.search(asked.words) or "(" in scale[0]):
        ends = {"low": int(scale[1]), "high": int(scale[2])}
        return Guess("scale", f"it asks for {scale[1]} to {scale[2]}", ends)
    if NAME.match(asked.words):
        return Guess("name", "it asks for a person's name")
    if YES_NO.search(asked.words):
        return Guess("yes_no", "it can be answered with yes or no")
    for kind, clue, wanted in CLUES:
        found = clue.search(asked.words)
        if found:
            return Guess(kind, f'"{found[0].strip()}" asks for {wanted}')
    return Guess("short_text", "nothing says otherwise")


def _ends(words: str, options: Sequence[str]) -> dict[str, Any]:
    found = SCALE.search(words)
    return {"low": int(found[1]), "high": int(found[2])} if found and not options else {}


def _picked(asked: Asked) -> Guess:
    options = asked.options
    answers = {_answer(one) for one in options}
    if len(options) == 2 and answers == {"yes", "no"}:
        return Guess("yes_no", "its options are yes and no")
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


def tells(words: str) -> bool:
    """Whether a sentence asks for something without a question mark."""
    return bool(TELLS.match(words)) or any(clue.search(words) for _, clue, _ in CLUES)
