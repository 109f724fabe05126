"""Contrast as WCAG 2.2 defines it, and accents that can be read."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.colour import READABLE, contrast, shades

# WCAG 2.2 defines the ratio as (L1 + 0.05) / (L2 + 0.05); that of black and white is 21 by that
# definition. The greys are common knowledge among those who work with it (from memory): #767676
# is the lightest grey that reaches 4.5 on white, #777777 does not.
KNOWN = [
    ("#000000", "#ffffff", 21.0),
    ("#ffffff", "#ffffff", 1.0),
    ("#767676", "#ffffff", 4.54),
    ("#777777", "#ffffff", 4.48),
    ("#ff0000", "#ffffff", 4.0),
    ("#0000ff", "#ffffff", 8.59),
]


@pytest.mark.parametrize(("one", "other", "ratio"), KNOWN)
def test_known_ratios(one: str, other: str, ratio: float) -> None:
    assert contrast(one, other) == pytest.approx(ratio, abs=0.005)
    assert contrast(other, one) == contrast(one, other)


colours = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")


@given(colours)
def test_words_in_and_on_any_accent_can_be_read(accent: str) -> None:
    light, dark = shades(accent)
    for made, papers, ink in (
        (light, ("#ffffff", "#eceee5"), "#1d231a"),
        (dark, ("#1f2419", "#11140c"), "#eef0e6"),
    ):
        assert all(contrast(made.main, paper) >= READABLE for paper in papers)
        assert contrast(made.main, made.on) >= READABLE
        assert contrast(made.hover, made.on) >= READABLE
        assert contrast(ink, made.soft) >= READABLE


def test_an_accent_that_can_be_read_stays_as_it_is() -> None:
    assert shades("#3f5128")[0].main == "#3f5128"
    assert shades("#ffee00")[0].main != "#ffee00"
