"""Drawing by chance: shown again by its seed, of the right sizes, and fair."""

from collections import Counter
from math import sqrt
from uuid import UUID

from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import chi2, chisquare

from jotgate.core.rounds.drawing import (
    by_chance,
    drawn,
    drawn_by_strata,
    portions,
    proportional,
)

IDS = [UUID(int=at) for at in range(60)]


@given(st.lists(st.uuids(), unique=True, max_size=40), st.integers(0, 50), st.text(max_size=9))
def test_the_same_seed_gives_the_same_people(ids: list[UUID], count: int, seed: str) -> None:
    found = drawn(ids, count, seed)
    assert found == drawn([*reversed(ids), *ids[:3]], count, seed)
    assert len(found) == min(count, len(ids))
    assert set(found) <= set(ids)
    assert drawn(ids, count + 1, seed)[: len(found)] == found


@given(st.lists(st.uuids(), unique=True, min_size=1, max_size=40), st.text(max_size=9))
def test_others_who_are_added_change_the_order_of_nobody(ids: list[UUID], seed: str) -> None:
    before = by_chance(ids[1:], seed)
    assert [one for one in by_chance(ids, seed) if one != ids[0]] == before


def test_everybody_is_drawn_as_often() -> None:
    """Chi-square (SciPy) over 2,000 draws of 15 out of 60. Drawing without replacement, counts of
    people vary by a factor (1 - 15/60) * 60/59 less than chi-square takes for granted; neither an
    uneven nor a too even draw would be chance. The seeds are fixed, and so is what is found."""
    counts: Counter[UUID] = Counter()
    for seed in range(2_000):
        counts.update(drawn(IDS, 15, f"round {seed}"))
    statistic = chisquare([counts[one] for one in IDS]).statistic
    likely = chi2.cdf(statistic / ((1 - 15 / 60) * 60 / 59), df=59)
    assert 0.001 < likely < 0.999


def test_pairs_are_drawn_together_as_often_as_chance_has_it() -> None:
    together = sum({IDS[0], IDS[1]} <= set(drawn(IDS, 15, f"pair {seed}")) for seed in range(1_500))
    chance = 15 / 60 * 14 / 59
    assert abs(together - 1_500 * chance) < 5 * sqrt(1_500 * chance * (1 - chance))


def test_strata_have_their_sizes_and_are_drawn_apart() -> None:
    strata = {"saltings": IDS[:20], "east": IDS[20:50], "fell": IDS[50:]}
    found = drawn_by_strata(strata, {"saltings": 5, "east": 12, "fell": 99}, "x")
    assert {name: len(one) for name, one in found.items()} == {
        "saltings": 5,
        "east": 12,
        "fell": 10,
    }
    assert all(set(found[name]) <= set(ids) for name, ids in strata.items())
    again = drawn_by_strata({**strata, "fell": IDS[50:55]}, {"east": 12}, "x")
    assert again["east"] == found["east"]
    assert again["saltings"] == []


@given(st.dictionaries(st.text(max_size=3), st.integers(0, 500), max_size=8), st.integers(0, 999))
def test_sizes_are_shared_out_as_the_strata_are(counts: dict[str, int], total: int) -> None:
    found = proportional(counts, total)
    every = sum(counts.values())
    assert sum(found.values()) == min(total, every)
    for name, size in found.items():
        assert size <= counts[name]
        assert not every or abs(size - min(total, every) * counts[name] / every) < 1


def test_shares_worked_by_hand() -> None:
    """Of 2,140 households 600: 1,000 are 280.37, 640 are 179.44, 500 are 140.19; the one that is
    left goes where most is cut off."""
    counts = {"a": 1_000, "b": 640, "c": 500}
    assert proportional(counts, 600) == {"a": 280, "b": 180, "c": 140}


def test_released_in_portions() -> None:
    assert portions(IDS[:7], [3, 2]) == [IDS[:3], IDS[3:5], IDS[5:7]]
    assert portions(IDS[:3], [5, 2]) == [IDS[:3]]
    assert portions([], [5]) == []
