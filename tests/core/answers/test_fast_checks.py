"""The short check gives what the full check gives, or leaves it to that."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jotgate.core.answers.checks import fast_check_of
from tests.core.kinds import of, outcome
from tests.documents import is_, options

pytestmark = pytest.mark.long

ITEMS = [
    of("short_text"),
    of("short_text", shortest=2, longest=4),
    of("short_text", pattern={"expression": "[a-c]{1,3}"}),
    of("short_text", pattern={"expression": "("}),
    of("long_text", shortest=2, longest=4),
    of("number", at_least="-3", at_most="12"),
    of("number", at_least="0.5", decimals=1),
    of("number", step="5"),
    of("scale"),
    of("yes_no"),
    of("pick_one", options=options("a", "b", "c")),
    of("pick_one", options=[*options("a"), {**options("b")[0], "shown_when": is_("x", True)}]),
    of("pick_many", options=options("a", "b", "c"), fewest=2, most=2),
    of("pick_many", options=[*options("a", "b"), {**options("c")[0], "alone": True}]),
    of("email"),
    of("date"),
    of("number", at_least="0.5", at_most="300", decimals=1),
    of("time", earliest="07:00", latest="20:00"),
    of("time"),
]
WORDS = st.text("abc é\n\t\x7f", max_size=6) | st.sampled_from(
    ["a@example.org", "A.B@Example.ORG", "a@b", "007", "-1", "12", "13", "1.5", "²", "٣", " a "]
)
SIMPLE = WORDS | st.integers(-5, 20) | st.booleans() | st.none()
RAW: st.SearchStrategy[Any] = st.one_of(
    SIMPLE,
    st.floats(allow_nan=False),
    st.from_regex(r"[012]?[0-9]:[0-6][0-9]", fullmatch=True),
    st.decimals(-1, 400, places=1).map(str),
    st.lists(st.sampled_from(["a", "b", "c", "d", 1]), max_size=4),
)


@settings(max_examples=2000)
@given(st.sampled_from(ITEMS), RAW)
def test_the_short_check_never_says_otherwise(one: Any, raw: Any) -> None:
    if one.kind == "short_text" and one.pattern and one.pattern.expression == "(":
        assert fast_check_of(one)(raw) is None
        return
    found = fast_check_of(one)(raw)
    if found is not None:
        assert found == outcome(one, raw)
        assert type(found) is type(outcome(one, raw))


def test_common_answers_go_the_short_way() -> None:
    number, clock = ITEMS[-3], ITEMS[-2]
    common = [
        (ITEMS[0], "Ines Carvalho"),
        (ITEMS[2], "abc"),
        (ITEMS[5], "12"),
        (ITEMS[9], False),
        (ITEMS[10], "b"),
        (ITEMS[12], ["a", "c"]),
        (ITEMS[13], ["a", "b"]),
        (ITEMS[14], "ines@example.org"),
        (number, "12.5"),
        (clock, "07:30"),
    ]
    assert all(fast_check_of(one)(raw) is not None for one, raw in common)
