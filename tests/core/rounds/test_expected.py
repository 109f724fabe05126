"""What to expect by the end: Wilson's interval against SciPy, and sound ranges."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binomtest, norm

from jotgate.core.common.intervals import share_interval
from jotgate.core.rounds.expected import Brought, Z, expected


def test_the_range_holds_four_times_in_five() -> None:
    assert pytest.approx(float(norm.ppf(0.9)), abs=1e-4) == Z


@given(st.integers(1, 500), st.data())
def test_against_scipy(of: int, data: st.DataObject) -> None:
    hits = data.draw(st.integers(0, of))
    low, high = share_interval(hits, of, float(norm.ppf(0.975)))
    known = binomtest(hits, of).proportion_ci(0.95, method="wilson")
    assert [low, high] == pytest.approx([known.low, known.high], abs=1e-9)


@given(
    st.lists(
        st.integers(1, 300).flatmap(
            lambda of: st.integers(0, of).map(lambda got: Brought(of, got))
        ),
        min_size=1,
        max_size=5,
    ),
    st.integers(0, 300),
    st.integers(1, 5),
)
def test_never_fewer_than_now_and_never_more_than_there_are(
    done: list[Brought], still: int, left: int
) -> None:
    found = expected(40, still, done, left)
    assert found is not None
    assert 40 <= found.low <= found.high <= 40 + still


def test_nothing_is_known_before_anything_went() -> None:
    assert expected(0, 100, [], 3) is None
