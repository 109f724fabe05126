"""Values that arrive with a link."""

from urllib.parse import parse_qsl, urlencode

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.errors import LinkRefused
from jotgate.core.walking.prefill import Filled, read_arrival
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
    return read_arrival(PLAN, parse_qsl(query, keep_blank_values=True), TODAY)


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
            read_arrival(strict, pairs, TODAY)
    assert read_arrival(strict, [("ref", "ok")], TODAY).carried == {"ref": "ok"}


@given(st.lists(st.tuples(st.sampled_from([*PLAN.items, "x"]), st.text(max_size=30))))
def test_any_link_brings_what_stands_in_it_and_nothing_else(pairs: list[tuple[str, str]]) -> None:
    """Percent-encoded by urllib, which follows RFC 3986: the first value of each key, where it is
    one that the item takes, told here anew for a pick and a yes or no."""
    found = link(urlencode(pairs))
    first: dict[str, str] = {}
    for key, value in pairs:
        first.setdefault(key, value.strip().casefold())
    codes = {"saltings": "saltings", "long_moss": "long_moss"}
    assert found.carried.get("district") == codes.get(first.get("district", ""))
    assert ("district" in found.flags) == (first.get("district", "") not in ("", *codes))
    assert found.answers.get("way") == {"left": "left", "right": "right"}.get(first.get("way", ""))
    yes = {"yes": True, "true": True, "1": True, "no": False, "false": False, "0": False}
    assert found.answers.get("car") == yes.get(first.get("car", ""))
    assert set(found.answers) <= {"name", "car", "days", "way"}
    assert set(found.carried) <= {"district", "ref"}
