"""Places as people write them, held against a formula of our own for the way between two."""

from decimal import Decimal
from math import acos, cos, degrees, radians, sin
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.locations import EARTH_RADIUS, kilometres
from tests.core.kinds import of, outcome

PLACE = of("location")

WELL = {"latitude": Decimal("54.12345"), "longitude": Decimal("-2.5678")}
WRITTEN = [
    "54.12345, -2.5678",
    "54.12345 -2.5678",
    " 54.12345,-2.5678 ",
    "54,12345; -2,5678",
    "54,12345 -2,5678",
    "54.12345/−2.5678",
    "54.12345N 2.5678W",
    "54.12345° N, 2.5678° W",
    "n54.12345 w2.5678",
    "2.5678W 54.12345N",
    "54°07'24.42\"N 2°34'04.08\"W",
    "54° 07′ 24.42″ N, 2° 34′ 04.08″ W",
    "N 54° 7.407' W 2° 34.068'",
    "54 7 24.42 N 2 34 4.08 W",
    "+54 7 24.42, -2 34 4.08",
    "geo:54.12345,-2.5678;u=35",
    "GEO:54.12345,-2.5678,120",
    "+54.12345-002.5678/",
    "+5407.407-00234.068/",
    "+540724.42-0023404.08/",
    {"latitude": "54.12345", "longitude": "-2.5678"},
    {"latitude": 54.12345, "longitude": -2.5678},
]
"""Common practice; the last forms of text are those of RFC 5870 and of ISO 6709, annex H."""

WRONG: list[Any] = [
    "54",
    "the old well",
    "91, 0",
    "0, 180.1",
    "54 60 0 N 2 0 0 W",
    "54N 2N",
    "54.5 30 N, 2.5 0 W",
    "54N 2",
    "-54N 2W",
    "54, 2, 3",
    "54,, 2 ; 3 4",
    "1e3, 2",
    "54.1.2, 2",
    "54.12345, -2.5678" + " " * 200,
    "geo:54",
    "+5-002/",
    {"latitude": "54"},
    {"latitude": "54", "longitude": "x"},
    *(
        "° 2.1 2.1",
        "54 + , 2.1",
        "54 +- 2",
        "S2.1 2.1 W",
        "54 N, 2 W E",
        "54 N 2",
        "54, 2,",
        "N, 54 E 2",
    ),
    {"latitude": True, "longitude": "1"},
    ["54", "2"],
    54,
    True,
]


@pytest.mark.parametrize("raw", WRITTEN)
def test_a_place_is_read_in_every_usual_notation(raw: Any) -> None:
    assert outcome(PLACE, raw) == WELL


@pytest.mark.parametrize("raw", WRONG)
def test_what_is_no_place_is_refused(raw: Any) -> None:
    assert outcome(PLACE, raw) == "not_a_location"


BOX = {"south": "54", "west": "-3", "north": "55", "east": "-2"}
ACROSS = {"south": "-20", "west": "170", "north": "0", "east": "-170"}


@pytest.mark.parametrize(
    ("box", "raw", "inside"),
    [
        (BOX, "54, -3", True),
        (BOX, "54.5, -1.99999", False),
        (BOX, "55.00001, -2.5", False),
        (ACROSS, "-10, 175", True),
        (ACROSS, "-10, -175", True),
        (ACROSS, "-10, 0", False),
    ],
)
def test_it_has_to_lie_in_its_box(box: dict[str, str], raw: str, inside: bool) -> None:
    found = outcome(of("location", box=box), raw)
    assert (found != "outside_area") is inside


def test_it_has_to_lie_around_a_place() -> None:
    """A degree of latitude is 111.195 km on a sphere of this radius."""
    near = {"latitude": "54", "longitude": "-2", "kilometres": "111.2"}
    one = of("location", near=near)
    assert outcome(one, "55, -2") != "too_far"
    assert outcome(one, "55.01, -2") == "too_far"


places = st.tuples(
    st.decimals(-90, 90, places=5, allow_nan=False), st.decimals(-180, 180, places=5)
)


@given(places, places)
def test_the_way_is_that_of_the_law_of_cosines(one: Any, other: Any) -> None:
    """The spherical law of cosines, which is exact where the two are not next to each other."""
    (a, b), (c, d) = ((radians(x), radians(y)) for x, y in (one, other))
    angle = acos(max(-1.0, min(1.0, sin(a) * sin(c) + cos(a) * cos(c) * cos(b - d))))
    if 0.1 < degrees(angle) < 179.9:
        assert kilometres(one, other) == pytest.approx(EARTH_RADIUS * angle, rel=1e-6)


@given(places)
def test_what_is_read_back_is_read_as_the_same(place: Any) -> None:
    latitude, longitude = place
    north, east = "NS"[latitude < 0], "EW"[longitude < 0]
    written = f"{abs(latitude)}° {north}, {abs(longitude)}° {east}"
    assert outcome(PLACE, written) == {"latitude": latitude + 0, "longitude": longitude + 0}


@given(st.text("0123456789.,;-+NSEWo°'\" /", max_size=40) | st.text(max_size=40))
def test_any_text_is_a_place_or_refused(raw: str) -> None:
    found = outcome(PLACE, raw)
    assert found in ("not_a_location", None) or set(found) == {"latitude", "longitude"}
