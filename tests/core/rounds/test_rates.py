"""Outcome rates against the formulas of AAPOR's *Standard Definitions* (ninth and tenth editions,
from memory), read from what is shown to people, and worked by hand."""

import re
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.rounds.dispositions import DISPOSITIONS, Group
from jotgate.core.rounds.rates import FORMULAS, Outcomes, Rate, outcomes, rate_name

LETTERS: dict[str, Group] = {
    "I": "complete",
    "P": "partial",
    "R": "refusal",
    "NC": "non_contact",
    "O": "other",
    "UH": "unknown_household",
    "UO": "unknown_other",
    "NE": "not_eligible",
}
COUNTS = st.fixed_dictionaries({name: st.integers(0, 10_000) for name in LETTERS})


def counted(given: dict[str, int]) -> Outcomes:
    return Outcomes({LETTERS[name]: many for name, many in given.items()})


def worked(formula: str, given: dict[str, int], share: Fraction) -> Fraction:
    """The value of a formula as it is written."""
    written = re.sub(r"\be\(", "e * (", formula)
    value: Fraction = eval(written, {}, {**given, "e": share})
    return Fraction(value)


@given(COUNTS, st.fractions(0, 1))
def test_every_rate_is_its_formula(given: dict[str, int], share: Fraction) -> None:
    found = counted(given)
    for rate, (above, below) in FORMULAS.items():
        under = worked(below, given, share)
        wanted = worked(above, given, share) / under if under else None
        assert found.rate(rate, share) == wanted, rate


WORKED = {"I": 400, "P": 50, "R": 200, "NC": 150, "O": 30, "UH": 100, "UO": 70, "NE": 200}
"""Decided are 400 + 50 + 200 + 150 + 30 = 830 who are eligible and 200 who are not: e is 83/103."""

BY_HAND: dict[Rate, Fraction] = {
    "RR1": Fraction(400, 1000),
    "RR2": Fraction(450, 1000),
    "RR3": Fraction(400) / (830 + Fraction(83, 103) * 170),
    "RR4": Fraction(450) / (830 + Fraction(83, 103) * 170),
    "RR5": Fraction(400, 830),
    "RR6": Fraction(450, 830),
    "COOP1": Fraction(400, 680),
    "COOP2": Fraction(450, 680),
    "COOP3": Fraction(400, 650),
    "COOP4": Fraction(450, 650),
    "REF1": Fraction(200, 1000),
    "REF2": Fraction(200) / (830 + Fraction(83, 103) * 170),
    "REF3": Fraction(200, 830),
    "CON1": Fraction(680, 1000),
    "CON2": Fraction(680) / (830 + Fraction(83, 103) * 170),
    "CON3": Fraction(680, 830),
}


@pytest.mark.parametrize("rate", FORMULAS)
def test_worked_by_hand(rate: Rate) -> None:
    assert counted(WORKED).rate(rate) == BY_HAND[rate]


@given(COUNTS)
def test_they_stand_in_their_order(given: dict[str, int]) -> None:
    """As the definitions say of them: the first is the smallest, and partial ones only add."""
    found = counted(given)
    for smaller, larger in (("RR1", "RR3"), ("RR3", "RR5"), ("RR1", "RR2"), ("REF1", "REF2")):
        low, high = found.rate(smaller), found.rate(larger)  # type: ignore[arg-type]
        assert low is None or high is None or low <= high
        assert low is None or 0 <= low <= 1


def test_dispositions_fall_into_their_groups() -> None:
    found = outcomes(["1.1", "1.2", "2.112", "2.12", "2.21", "2.31", "3.19", "3.30", "4.70", "1.1"])
    assert found.counts == {
        "complete": 2,
        "partial": 1,
        "refusal": 2,
        "non_contact": 1,
        "other": 1,
        "unknown_household": 1,
        "unknown_other": 1,
        "not_eligible": 1,
    }
    with pytest.raises(KeyError):
        outcomes(["5.0"])
    assert {one.group for one in DISPOSITIONS.values()} == set(LETTERS.values())
    assert [*DISPOSITIONS] == sorted(DISPOSITIONS)
    assert all(
        one.eligible is (code[0] in "12") or code[0] == "3" for code, one in DISPOSITIONS.items()
    )
    assert DISPOSITIONS["3.90"].eligible is None


def test_nothing_asked_has_no_rate() -> None:
    assert Outcomes({}).rate("RR1") is None
    assert Outcomes({}).share_eligible == 1
    assert rate_name("COOP2") == "Cooperation rate 2"
