"""What to expect of a round by its end, from what its steps have brought so far."""

from collections.abc import Sequence
from dataclasses import dataclass

from jotgate.core.common.intervals import share_interval

Z = 1.2816
"""Of the normal distribution, for a range that holds four times in five."""


@dataclass(frozen=True)
class Brought:
    """A step that went: how many were open when it went, and how many of those answered after it,
    before the next one went."""

    asked: int
    answered: int


@dataclass(frozen=True)
class Range:
    low: int
    high: int


def expected(answered: int, still: int, done: Sequence[Brought], left: int) -> Range | None:
    """How many will have answered once `left` more steps have gone to those who are `still` open:
    each brings a share between the lower and the upper end of what all steps, and the last one,
    have brought so far. Later reminders bring less than earlier ones as a rule (common practice),
    so the last one counts by itself too. None where nothing has gone yet."""
    asked, gained = sum(one.asked for one in done), sum(one.answered for one in done)
    if not asked:
        return None
    last = done[-1]
    low = min(share_interval(gained, asked, Z)[0], share_interval(last.answered, last.asked, Z)[0])
    high = max(share_interval(gained, asked, Z)[1], share_interval(last.answered, last.asked, Z)[1])
    return Range(answered + _more(still, low, left), answered + _more(still, high, left))


def _more(still: int, share: float, left: int) -> int:
    return round(still * (1 - (1 - share) ** left))
