"""Outcome rates by AAPOR's Standard Definitions: response, cooperation, refusal and contact.

With I complete and P partial interviews, R refusals and break-offs, NC non-contacts, O others who
are eligible, UH and UO cases of unknown eligibility, and e the share of these that is taken to be
eligible. The formulas are written down from memory of the ninth and tenth editions.
"""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from jotgate.core.rounds.dispositions import DISPOSITIONS, Group

Rate = Literal[
    "RR1",
    "RR2",
    "RR3",
    "RR4",
    "RR5",
    "RR6",
    "COOP1",
    "COOP2",
    "COOP3",
    "COOP4",
    "REF1",
    "REF2",
    "REF3",
    "CON1",
    "CON2",
    "CON3",
]

FORMULAS: Mapping[Rate, tuple[str, str]] = {
    "RR1": ("I", "(I + P) + (R + NC + O) + (UH + UO)"),
    "RR2": ("I + P", "(I + P) + (R + NC + O) + (UH + UO)"),
    "RR3": ("I", "(I + P) + (R + NC + O) + e(UH + UO)"),
    "RR4": ("I + P", "(I + P) + (R + NC + O) + e(UH + UO)"),
    "RR5": ("I", "(I + P) + (R + NC + O)"),
    "RR6": ("I + P", "(I + P) + (R + NC + O)"),
    "COOP1": ("I", "(I + P) + R + O"),
    "COOP2": ("I + P", "(I + P) + R + O"),
    "COOP3": ("I", "(I + P) + R"),
    "COOP4": ("I + P", "(I + P) + R"),
    "REF1": ("R", "(I + P) + (R + NC + O) + (UH + UO)"),
    "REF2": ("R", "(I + P) + (R + NC + O) + e(UH + UO)"),
    "REF3": ("R", "(I + P) + (R + NC + O)"),
    "CON1": ("(I + P) + R + O", "(I + P) + (R + NC + O) + (UH + UO)"),
    "CON2": ("(I + P) + R + O", "(I + P) + (R + NC + O) + e(UH + UO)"),
    "CON3": ("(I + P) + R + O", "(I + P) + (R + NC + O)"),
}
"""What stands above and below the line, as people read it."""

NAMES: Mapping[str, str] = {
    "RR": "Response rate",
    "COOP": "Cooperation rate",
    "REF": "Refusal rate",
    "CON": "Contact rate",
}


def rate_name(rate: Rate) -> str:
    """Such as *Response rate 2*."""
    return f"{NAMES[rate[:-1]]} {rate[-1]}"


@dataclass(frozen=True)
class Outcomes:
    """How many contacts stand in each group."""

    counts: Mapping[Group, int]

    def of(self, *groups: Group) -> int:
        return sum(self.counts.get(one, 0) for one in groups)

    @property
    def share_eligible(self) -> Fraction:
        """e: of the cases that are decided, the share that is eligible; 1 where none is decided.
        The definitions leave the way to estimate it open, and ask that it is told; this one is
        common practice."""
        not_eligible = self.of("not_eligible")
        decided = self._interviews + self._others + not_eligible
        return Fraction(decided - not_eligible, decided) if decided else Fraction(1)

    @property
    def _interviews(self) -> int:
        return self.of("complete", "partial")

    @property
    def _others(self) -> int:
        return self.of("refusal", "non_contact", "other")

    def rate(self, rate: Rate, share: Fraction | None = None) -> Fraction | None:
        """Exactly; `share` stands for e where it is known better. None where it has nothing below
        the line."""
        below = self._below(rate, self.share_eligible if share is None else share)
        return Fraction(self._above(rate)) / below if below else None

    def _above(self, rate: Rate) -> int:
        match rate[:-1], rate[-1]:
            case "REF", _:
                return self.of("refusal")
            case "CON", _:
                return self._interviews + self.of("refusal", "other")
            case _, odd if int(odd) % 2:
                return self.of("complete")
        return self._interviews

    def _below(self, rate: Rate, share: Fraction) -> Fraction:
        if rate in ("COOP1", "COOP2"):
            return Fraction(self._interviews + self.of("refusal", "other"))
        if rate in ("COOP3", "COOP4"):
            return Fraction(self._interviews + self.of("refusal"))
        unknown = Fraction(self.of("unknown_household", "unknown_other"))
        if rate in ("RR3", "RR4", "REF2", "CON2"):
            unknown *= share
        elif rate in ("RR5", "RR6", "REF3", "CON3"):
            unknown = Fraction(0)
        return self._interviews + self._others + unknown


def outcomes(codes: Iterable[str]) -> Outcomes:
    """Of contacts that stand as these dispositions say. Raises KeyError for none of them."""
    return Outcomes(Counter(DISPOSITIONS[code].group for code in codes))
