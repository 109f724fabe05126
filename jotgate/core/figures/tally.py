"""Answers as they are counted: each once, with how many gave it."""

from collections.abc import Sequence
from typing import Any, NamedTuple


class Said(NamedTuple):
    """An answer as it is stored, and how many gave it: none where it is drawn as far as that answer
    reaches, so that pictures can stand beside each other."""

    value: Any
    many: int


Tally = Sequence[Said]
"""All answers to one question, each once."""


def answered(tally: Tally) -> int:
    return sum(one.many for one in tally)


def framed(tally: Tally, other: Tally) -> Tally:
    """`tally`, to be drawn as far as the answers of the `other` reach too."""
    known = {repr(one.value) for one in tally}
    return [*tally, *(Said(one.value, 0) for one in other if repr(one.value) not in known)]
