"""Values that arrive with a link."""

from urllib.parse import parse_qsl, urlencode

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.carry import Filled, read_link
from jotgate.core.errors import LinkRefused
from tests.documents import TODAY, item, options, page, plan

PLAN = plan(
    page(
        "a",
        item("carried", "district", options=options("saltings", "long_moss")),
        item("carried", "ref", longest=4),
        item("short_text", "name", longest=10),
        item("yes_no", "car"),
        item("number", "days", at_most="9"),
        item("pick_one", "way", options=options("left", "right")),
        item("note", "hello"),
    )
)


def link(query: str) -> Filled:
    return read_link(PLAN, parse_qsl(query, keep_blank_values=True), TODAY)


@pytest.mark.parametrize("value", ["long_moss", "LONG_MOSS", " Long_moss "])
def test_a_code_or_a_label_in_any_case(value: str) -> None:
    assert link(urlencode({"district": value})).carried == {"district": "long_moss"}


def test_questions_are_filled_in_when_their_checks_hold() -> None:
    filled = link("name=Ines&car=YES&days=4&way=Left")
    assert filled.answers == {"name": "Ines", "car": True, "days": "4", "way": "left"}
    assert link("name=far+too+long+for+it&car=maybe&days=10&way=up").answers == {}


def test_unknown_keys_are_ignored_and_the_first_value_counts() -> None:
    filled = link("who=me&hello=x&ref=one&ref=two&%00=1")
    assert filled == Filled({"ref": "one"}, {}, ())


def test_a_wrong_carried_value_is_flagged() -> None:
    assert link("district=atlantis&ref=toolong").flags == ("district", "ref")


def test_or_refused_as_its_item_says() -> None:
    strict = plan(
        page(
            "a",
            item("carried", "ref", longest=4, required=True, when_wrong="refuse"),
            item("yes_no", "x"),
        )
    )
    for pairs in ([("ref", "toolong")], []):
        with pytest.raises(LinkRefused):
            read_link(strict, pairs, TODAY)
    assert read_link(strict, [("ref", "ok")], TODAY).carried == {"ref": "ok"}


@given(st.lists(st.tuples(st.sampled_from([*PLAN.items, "x"]), st.text(max_size=30))))
def test_any_link_is_read_without_a_fault(pairs: list[tuple[str, str]]) -> None:
    """Percent-encoding by urllib, which follows RFC 3986, brings the same values back."""
    assert link(urlencode(pairs)) == read_link(PLAN, pairs, TODAY)
