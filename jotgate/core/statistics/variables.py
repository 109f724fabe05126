"""Variables: the columns of a table for statistics programs, each with one value for an entry."""

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from jotgate.core.common.wording import SLOT, say

Form = Literal["text", "whole", "number", "day", "time", "moment", "truth", "code"]
"""What a variable holds: `truth` is yes or no, `code` one of its categories."""

LEFT_EMPTY, NOT_ASKED = "left_empty", "not_asked"
"""Why nothing is said where somebody could have said something."""

MISSING: Mapping[str, str] = {LEFT_EMPTY: "Left empty", NOT_ASKED: "Not asked"}

Read = Callable[[Any], str | None]
"""What a variable says in an answer as it is stored: text, codes as they are, numbers in decimals,
days, times and moments in ISO 8601, moments in UTC. None for nothing."""


class Category(NamedTuple):
    """What can be said: its `code`, the `number` that stands for it where a file knows numbers
    only, and how it reads."""

    code: str
    number: int
    label: str


@dataclass(frozen=True)
class Draft:
    """A variable that has no name yet: `stem` stands in it behind the question's key, `part` says
    which part of the question it is."""

    form: Form
    read: Read
    stem: tuple[str, ...] = ()
    part: str = ""
    categories: tuple[Category, ...] = ()


@dataclass(frozen=True)
class Variable:
    """`of` is the key of the question or fact, `wording` what it asks, `part` which part of it
    this is; `told_apart` says that where nothing is said it is known why. `inside` is the key of a
    question that is asked in each line of `of`."""

    name: str
    form: Form
    of: str
    wording: str
    part: str
    categories: tuple[Category, ...]
    told_apart: bool
    inside: str = ""

    @property
    def label(self) -> str:
        return f"{self.wording}: {self.part}" if self.part else self.wording


class Wording:
    """Texts of a questionnaire in a language, or else in its first one, on one line and without
    what only a page can fill in."""

    def __init__(self, language: str, first: str) -> None:
        self.language, self._first = language, first

    def __call__(self, text: Mapping[str, str] | None) -> str:
        words = say(dict(text or {}), self.language, self._first)
        plain = SLOT.sub(lambda found: found[2] or "…", words)
        return " ".join(plain.replace("*", "").split())


LONGEST = 32
"""Characters of a name: the least that programs which read such files take (common practice)."""

RESERVED = frozenset(
    "all and by eq ge gt le lt ne not or to with if in using byte int long float double".split()
)
"""Words that programs keep for themselves (from memory)."""


class Names:
    """Names of letters, digits and low lines that begin with a letter, each once, in whatever
    case."""

    def __init__(self) -> None:
        self._taken: set[str] = set(RESERVED)

    def name(self, parts: Iterable[str]) -> str:
        whole = re.sub(r"[^A-Za-z0-9_]", "_", "_".join(parts)).rstrip("_")
        found, again = whole[:LONGEST].rstrip("_"), 1
        while found.casefold() in self._taken or re.fullmatch(r"(?i)str\d+", found):
            again += 1
            found = f"{whole[: LONGEST - len(str(again)) - 1].rstrip('_')}_{again}"
        self._taken.add(found.casefold())
        return found


def numbered(codes: Sequence[str], other: str) -> dict[str, int]:
    """The number of each code: itself where all are whole numbers, and for `other` then the first
    of 97, 997 and so on that is none of them; else by their order, from 1."""
    own = [one for one in codes if one != other]
    if own and all(re.fullmatch(r"0|[1-9]\d{0,8}", one) for one in own):
        found = {one: int(one) for one in own}
        free = (10**digits - 3 for digits in range(2, 11))
        last = next(one for one in free if one not in found.values())
        return found | ({other: last} if other in codes else {})
    return {one: number for number, one in enumerate(codes, 1)}
