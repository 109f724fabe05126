"""What arrives with a visitor: from where, in which order, seen or not, locked or to be changed."""

from typing import Any
from urllib.parse import parse_qsl, urlencode

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.errors import LinkRefused
from jotgate.core.items.carried import FORGED
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.given import Giving
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan, compile_plan
from jotgate.core.walking.prefill import Filled, read_arrival
from tests.documents import TODAY, is_, item, options, page, plan, questionnaire

DISTRICTS = options("saltings", "millbeck")
KNOWN = Arrival(
    values=(("v", "by pass"),),
    handed=(("v", "handed on"),),
    contact={"email": "ines@example.org"},
    claims={"groups": "crew"},
    page="https://example.org/wells",
    moment="2026-11-25T09:00+00:00",
)


def carried(*sources: dict[str, str], key: str = "v", **more: Any) -> dict[str, Any]:
    return item("carried", key, sources=list(sources), **more)


def read(made: Plan, query: str = "", arrival: Arrival = KNOWN) -> Filled:
    return read_arrival(made, parse_qsl(query), TODAY, arrival, edition=3)


def of(one: dict[str, Any]) -> Plan:
    return plan(page("p", one, item("yes_no", "x")))


@pytest.mark.parametrize(
    ("source", "value"),
    [
        ({"kind": "pass"}, "by pass"),
        ({"kind": "hand_off"}, "handed on"),
        ({"kind": "contact", "field": "email"}, "ines@example.org"),
        ({"kind": "claim", "claim": "groups"}, "crew"),
        ({"kind": "page"}, "https://example.org/wells"),
        ({"kind": "moment"}, "2026-11-25T09:00+00:00"),
        ({"kind": "edition"}, "3"),
        ({"kind": "constant", "value": "always"}, "always"),
    ],
)
def test_every_source(source: dict[str, str], value: str) -> None:
    assert read(of(carried(source)), "v=by+link").carried["v"] == value


def test_the_first_source_that_has_one_counts() -> None:
    both = of(carried({"kind": "claim", "claim": "role"}, {"kind": "link"}))
    assert read(both, "v=x", Arrival()).carried == {"v": "x"}
    assert read(both, "v=x", Arrival(claims={"role": "r"})).carried["v"] == "r"
    assert read(both, "", Arrival()).carried == {}


def test_what_a_way_stands_for_is_not_changed_by_its_address() -> None:
    plain = of(item("carried", "v"))
    assert read(plain, "v=forged").carried["v"] == "by pass"
    assert read(plain, "v=own", Arrival()).carried == {"v": "own"}


def test_nothing_but_a_finish_sets_one_without_a_source() -> None:
    assert "v" not in read(of(carried()), "v=x").carried


def test_facts_of_the_visitor_are_there_for_conditions() -> None:
    found = read(of(carried()))
    assert found.carried == {"contact.email": "ines@example.org", "claim.groups": "crew"}


SOURCES = st.sampled_from(
    [{"kind": kind} for kind in ("pass", "hand_off", "moment", "edition")]
    + [
        {"kind": "contact", "field": "email"},
        {"kind": "claim", "claim": "role"},
        {"kind": "constant", "value": "saltings"},
    ]
)
NAMES = st.sampled_from(["v", "V", "v.given", "contact.email", "claim.role", "x", " v"])


@given(
    st.lists(SOURCES, max_size=3, unique_by=str),
    st.lists(st.tuples(NAMES, st.text(max_size=20)), max_size=6),
    st.booleans(),
)
def test_no_address_changes_a_sealed_value(
    sources: list[dict[str, str]], pairs: list[tuple[str, str]], picked: bool
) -> None:
    """Whatever somebody writes behind the address: what is sealed stays as it came."""
    more: dict[str, Any] = {"options": DISTRICTS} if picked else {}
    one = carried(*sources, sealed=True, **more)
    made = of(one)
    known = Arrival(values=(("v", "saltings"),), handed=(("v", "millbeck"),), moment="m")
    plain, forged = (read_arrival(made, given, TODAY, known) for given in ([], pairs))
    assert forged.carried == plain.carried
    assert forged.flags == plain.flags
    assert "v" not in forged.answers


def test_a_sealed_value_cannot_come_by_what_anybody_changes() -> None:
    for kind in sorted(FORGED):
        made = questionnaire(page("p", carried({"kind": kind}, sealed=True), item("yes_no", "x")))
        assert [one.code for one in faults(made)] == ["forged_source"]
    shown = carried({"kind": "pass"}, sealed=True, shown="locked")
    made = questionnaire(page("p", shown, item("yes_no", "x")))
    assert [one.code for one in faults(made)] == ["sealed_shown"]


@pytest.mark.parametrize(
    ("one", "code"),
    [
        (carried({"kind": "link"}, {"kind": "link"}), "double_source"),
        (carried({"kind": "contact"}), "not_chosen"),
        (carried({"kind": "claim"}), "not_chosen"),
        (carried({"kind": "constant", "value": "x"}, options=DISTRICTS), "no_such_answer"),
        (carried(required=True), "no_source"),
    ],
)
def test_what_cannot_be_meant_is_a_fault(one: dict[str, Any], code: str) -> None:
    made = questionnaire(page("p", one, item("yes_no", "x")))
    assert [fault.code for fault in faults(made)] == [code]


def walked(made: Plan, answers: dict[str, Any], arrival: Arrival) -> Any:
    filled = read_arrival(made, [], TODAY, arrival)
    given = {**filled.answers, **answers, **filled.locked}
    return walk(made, given, filled.carried, TODAY)


def test_one_to_be_changed_is_asked_with_what_arrived_in_it() -> None:
    made = of(carried({"kind": "pass"}, shown="changeable", required=True))
    arrival = Arrival(values=(("v", "by pass"),))
    assert read(made, "", arrival).answers == {"v": "by pass"}
    assert walked(made, {}, arrival).kept == {"v": "by pass"}
    assert walked(made, {"v": "own"}, arrival).kept == {"v": "own"}
    emptied = walked(made, {"v": None}, arrival)
    assert emptied.stuck is not None
    assert emptied.stuck.failed["v"].code == "required"


def test_a_locked_one_is_shown_and_not_to_be_changed() -> None:
    made = of(carried({"kind": "pass"}, shown="locked"))
    arrival = Arrival(values=(("v", "by pass"),))
    whole = walked(made, {"v": "forged"}, arrival)
    assert whole.kept["v"] == "by pass"
    assert [one.key for one in whole.steps[0].shown] == ["v", "x"]
    assert [one.key for one in walked(made, {}, Arrival()).steps[0].shown] == ["x"]


def test_a_wrong_one_is_asked_for_where_that_was_said() -> None:
    one = carried({"kind": "pass"}, when_wrong="ask", required=True, options=DISTRICTS)
    made = of(one)
    right, wrong = (Arrival(values=(("v", text),)) for text in ("Saltings", "Atlantis"))
    assert walked(made, {"v": "millbeck"}, right).kept == {"v": "saltings"}
    asked = walked(made, {"v": "millbeck"}, wrong)
    assert asked.kept == {"v": "millbeck"}
    assert walked(made, {}, wrong).stuck is not None
    assert read(made, "", wrong).flags == ()


def test_or_refused_or_flagged() -> None:
    for when_wrong in ("refuse", "flag"):
        made = of(carried({"kind": "pass"}, when_wrong=when_wrong, options=DISTRICTS))
        wrong = Arrival(values=(("v", "Atlantis"),))
        if when_wrong == "refuse":
            with pytest.raises(LinkRefused):
                read(made, "", wrong)
        else:
            assert read(made, "", wrong).flags == ("v",)


def test_a_seen_one_counts_from_its_place_on() -> None:
    made = questionnaire(
        page("a", item("yes_no", "x"), shown_when=is_("v", "y")),
        page("b", carried({"kind": "link"}, shown="changeable"), item("yes_no", "z")),
    )
    assert [one.code for one in faults(made)] == ["not_earlier"]


LOCKABLE = plan(
    page(
        "p",
        item("name", "who"),
        item("pick_one", "way", options=options("left", "right")),
        item("pick_one", "varied", options=[{**DISTRICTS[0], "shown_when": is_("way", "left")}]),
    )
)


def test_a_locked_answer_stays_as_it_came() -> None:
    handed = (("who.given", "Ines"), ("who.family", "Carvalho"), ("way", "Left"))
    arrival = Arrival(handed=handed, locked=frozenset({"who"}))
    found = read(LOCKABLE, "who.given=Eve", arrival)
    assert found.locked == {"who": {"given": "Ines", "family": "Carvalho"}}
    assert found.answers == {"way": "left"}
    whole = walked(LOCKABLE, {"who": {"given": "Eve", "family": "X"}}, arrival)
    assert whole.kept["who"] == {"given": "Ines", "family": "Carvalho"}


def test_what_does_not_fit_is_not_locked_but_asked() -> None:
    arrival = Arrival(handed=(("who.given", "Ines"),), locked=frozenset({"who", "varied"}))
    assert read(LOCKABLE, "", arrival).locked == {}


WORDS = st.text(st.characters(exclude_categories=["Cs", "Cc"]), min_size=1, max_size=40)


@given(WORDS, WORDS, st.sampled_from(["saltings", "Millbeck"]), st.booleans())
def test_addresses_made_by_the_standard_library_are_read_the_same(
    given: str, text: str, district: str, yes: bool
) -> None:
    """`urllib.parse.urlencode` writes application/x-www-form-urlencoded (WHATWG URL, 5)."""
    made = plan(
        page(
            "p",
            item("name", "who", parts=["given"], needed=["given"]),
            item("carried", "ref", longest=200),
            item("carried", "district", options=DISTRICTS),
            item("yes_no", "car"),
        )
    )
    values = {"who.given": given, "ref": text, "district": district, "car": "yes" if yes else "no"}
    pairs = parse_qsl(urlencode(values), keep_blank_values=True)
    assert dict(pairs) == values
    found = read_arrival(made, pairs, TODAY)
    direct = read_arrival(made, values.items(), TODAY)
    assert (found.carried, found.answers) == (direct.carried, direct.answers)
    assert found.carried["district"] == district.lower()


def test_values_of_the_office_are_looked_at_beforehand() -> None:
    made = compile_plan(
        questionnaire(
            page(
                "p",
                carried({"kind": "pass"}, key="d", options=DISTRICTS, required=True),
                item("name", "who"),
                item("number", "n", at_most="9"),
            )
        )
    )
    wrong = [("d", "Atlantis"), ("n", "10"), ("who", "Ines"), ("who.x", "I"), ("zzz", "1")]
    found = {one.at: one.code for one in Giving(made, TODAY, stored=True).faults(wrong)}
    assert found == {
        "d": "not_an_option",
        "n": "too_large",
        "who": "no_item",
        "who.x": "no_item",
        "zzz": "no_item",
    }
    right = [("d", "Saltings"), ("n", "9"), ("who.given", "Ines")]
    assert list(Giving(made, TODAY, stored=True).faults(right)) == []
    assert [one.at for one in Giving(made, TODAY, stored=False).faults(right)] == ["d"]
    assert Giving(made, TODAY, stored=True).missing([("n", "1")]) == ["d"]
