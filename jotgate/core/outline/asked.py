"""A question as its line says it: its words, and what stands around them."""

import re
from dataclasses import dataclass, replace

from jotgate.core.outline.lines import Mark
from jotgate.core.outline.words import (
    ENDS,
    EXAMPLE,
    HELP,
    MANY,
    NAMED,
    OPTIONAL,
    REQUIRED,
    SCALE,
)


@dataclass(frozen=True)
class OutlineQuestion:
    """A question as it was read. `kind` is what was written, `marks` what its options had.

    `ends` are those of a scale, with their words. Where the `options` stood with the question
    itself (`offered`), lines below it are `rows` that are answered with them.
    """

    line: int
    words: str
    required: bool = False
    kind: str = ""
    help: str = ""
    example: str = ""
    options: tuple[str, ...] = ()
    marks: frozenset[Mark] = frozenset()
    ends: tuple[int, int, str, str] | None = None
    offered: bool = False
    rows: tuple[str, ...] = ()


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

_BOXES = re.compile(r"\s*(?:\[ ?\]|\( ?\)|[☐□○◯])\s*")
_NUMBERS = re.compile(r"(?:\s+\d{1,2}){3,11}$")
_COMMA = re.compile(r"[,،]")

_DIGITS = {ord("٠") + digit: str(digit) for digit in range(10)}


def latin(words: str) -> str:
    """`words` with their digits as 0 to 9."""
    return words.translate(_DIGITS)


def read(line: int, words: str) -> OutlineQuestion:
    """The parts that stand in the line of a question, taken apart."""
    asked = OutlineQuestion(line, words.strip())
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
        asked = _offering(asked, _split(asked.words[at:]), asked.words[:at])
    return replace(asked, words=asked.words.removesuffix(":").strip())


def _are_choices(words: str, longest: int) -> bool:
    parts = _DIVIDER.split(words)
    return len(parts) > 1 and all(0 < len(part.strip()) <= longest for part in parts)


def _inline(words: str) -> int | None:
    """Where choices begin that stand behind a question on its own line."""
    start = max(words.rfind("?"), 0)
    ends = [found.end() for found in _COLON.finditer(words, start)][:MOST_COLONS]
    return next((end for end in ends if _are_choices(words[end:], 40)), None)


def _boxes(asked: OutlineQuestion) -> OutlineQuestion:
    """Options that stand behind the question, each with a box or a ring."""
    first = _BOXES.search(asked.words)
    parts = [part for part in _BOXES.split(asked.words) if part.strip()]
    if not first or first.start() == 0 or len(parts) < 3:
        return asked
    mark: Mark = "ring" if first[0].strip()[0] in "(○◯" else "box"
    offering = _offering(asked, tuple(part.strip() for part in parts[1:]), parts[0].strip())
    return replace(offering, marks=frozenset({mark}))


def _offering(asked: OutlineQuestion, options: tuple[str, ...], words: str) -> OutlineQuestion:
    return replace(asked, words=words, options=options, offered=True)


def _trailing(asked: OutlineQuestion) -> OutlineQuestion:
    """Take one thing off the end: a star, a gap to write in, something in brackets."""
    words = asked.words
    if words.endswith("*"):
        return replace(asked, words=words.rstrip("* "), required=True)
    numbers = _NUMBERS.search(words)
    if numbers and not asked.options:
        return _offering(asked, tuple(numbers[0].split()), words[: numbers.start()])
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


def _inside(asked: OutlineQuestion, words: str) -> OutlineQuestion | None:
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
    ends = ENDS.fullmatch(latin(words))
    if ends:
        low, high = int(ends["low"]), int(ends["high"])
        return replace(asked, ends=(low, high, ends["least"].strip(), ends["most"].strip()))
    listed = tuple(part.strip() for part in _COMMA.split(words))
    if len(listed) > 2 and not asked.options and all(0 < len(one.split()) < 4 for one in listed):
        return _offering(asked, listed, asked.words)
    if _are_choices(words, 60) and not asked.options and "://" not in words:
        return _offering(asked, _split(words), asked.words)
    if SCALE.fullmatch(latin(words)) or MANY.search(words) or len(words.split()) < 3:
        return None
    return None if asked.help else replace(asked, help=words)


def _split(words: str) -> tuple[str, ...]:
    return tuple(part.strip(" .") for part in re.split(r"[/|;]", words) if part.strip(" ."))


def hint(asked: OutlineQuestion, words: str) -> OutlineQuestion | None:
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
