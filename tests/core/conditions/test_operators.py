"""Every operator on every kind of answer that it is for, and what it is refused for."""

from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Else, Value, Values
from jotgate.core.conditions.condition import Condition, holds, named
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from tests.documents import TODAY, is_, item, options, page, plan, questionnaire

CONDITION: TypeAdapter[Condition] = TypeAdapter(Condition)
WELLS: tuple[Value, ...] = (
    {"depth": Decimal(12), "use": "drink"},
    {"depth": Decimal(30), "use": "garden"},
    {"use": "drink"},
)
VALUES: Values = {
    "people": Decimal(4),
    "name": "Ada Birch",
    "uses": ("drink", "cook", Else("bathing")),
    "dug": date(2026, 11, 20),
    "at": time(9, 30),
    "seen": datetime(2026, 11, 24, 23, 30, tzinfo=UTC),
    "wells": WELLS,
    "contact.email": "ada@example.org",
}


def true_of(today: Today = TODAY, **condition: Any) -> bool:
    return holds(CONDITION.validate_python(condition), VALUES, today)


@pytest.mark.parametrize(
    ("op", "item", "value", "expected"),
    [
        ("more_than", "people", "3.9", True),
        ("more_than", "people", "4", False),
        ("less_than", "people", "4.1", True),
        ("less_than", "dug", "2026-11-21", True),
        ("more_than", "dug", "2026-11-20", False),
        ("at_least", "dug", "today-5", True),
        ("more_than", "dug", "today-5", False),
        ("less_than", "dug", "today", True),
        ("is", "dug", "today-5", True),
        ("at_most", "at", "09:30", True),
        ("more_than", "at", "09:29", True),
        ("is", "seen", "2026-11-24", True),
        ("less_than", "seen", "today", True),
        ("is", "seen", "2026-11-24T23:30+00:00", True),
        ("more_than", "seen", "2026-11-24T23:30+00:00", False),
        ("is_not", "seen", "2026-11-24T23:30", True),
        ("contains", "name", "birch", True),
        ("contains", "name", "BIRK", False),
        ("contains", "people", "4", False),
        ("like", "name", "[A-Z][a-z]+ [A-Z][a-z]+", True),
        ("like", "name", "[A-Z][a-z]+", False),
        ("like", "name", "(", False),
        ("includes", "uses", "else", True),
        ("contains", "contact.email", "@example.org", True),
        ("is", "claim.role", "sampler", False),
    ],
)
def test_comparing_with_one_operand(op: str, item: str, value: str, expected: bool) -> None:
    assert true_of(op=op, item=item, value=value) is expected


def test_a_moment_is_held_against_a_day_where_the_questionnaire_is_at_home() -> None:
    """At 23:30 UTC it is the next day in Helsinki, two hours ahead in winter."""
    helsinki = today_in("Europe/Helsinki", datetime(2026, 11, 25, 12, tzinfo=UTC))
    assert true_of(helsinki, op="is", item="seen", value="2026-11-25")
    assert true_of(helsinki, op="is", item="seen", value="today")
    assert not true_of(helsinki, op="is", item="seen", value="2026-11-24")


@pytest.mark.parametrize(
    ("condition", "expected"),
    [
        ({"op": "between", "item": "people", "low": "4", "high": "5"}, True),
        ({"op": "between", "item": "people", "low": "4.1", "high": "5"}, False),
        ({"op": "between", "item": "dug", "low": "today-7", "high": "today"}, True),
        ({"op": "between", "item": "nothing", "low": "1", "high": "5"}, False),
        ({"op": "one_of", "item": "uses", "values": ["wash", "cook"]}, True),
        ({"op": "one_of", "item": "uses", "values": ["wash"]}, False),
        ({"op": "includes_all", "item": "uses", "values": ["cook", "drink"]}, True),
        ({"op": "includes_all", "item": "uses", "values": ["cook", "wash"]}, False),
        ({"op": "includes_all", "item": "nothing", "values": ["cook"]}, False),
        ({"op": "any_entry", "item": "wells", "where": is_("use", "garden")}, True),
        ({"op": "every_entry", "item": "wells", "where": is_("use", "drink")}, False),
        ({"op": "every_entry", "item": "wells", "where": {"op": "answered", "item": "use"}}, True),
        ({"op": "any_entry", "item": "none", "where": is_("use", "drink")}, False),
        ({"op": "every_entry", "item": "none", "where": is_("use", "drink")}, False),
        ({"op": "entry_count", "item": "wells", "at_least": 3}, True),
        ({"op": "entry_count", "item": "wells", "at_least": 4}, False),
        ({"op": "entry_count", "item": "wells", "at_most": 2}, False),
        (
            {
                "op": "entry_count",
                "item": "wells",
                "where": is_("use", "drink"),
                "at_least": 2,
                "at_most": 2,
            },
            True,
        ),
        ({"op": "entry_count", "item": "none", "at_most": 5}, False),
        (
            {
                "op": "any_entry",
                "item": "wells",
                "where": {"op": "all", "parts": [is_("use", "drink"), is_("people", "4")]},
            },
            True,
        ),
    ],
)
def test_ranges_sets_and_entries(condition: dict[str, Any], expected: bool) -> None:
    assert holds(CONDITION.validate_python(condition), VALUES, TODAY) is expected


@given(st.decimals(-9, 9, places=1), st.integers(-9, 9), st.integers(-9, 9))
def test_between_is_at_least_and_at_most(number: Decimal, low: int, high: int) -> None:
    def of(**condition: Any) -> bool:
        found = CONDITION.validate_python({"item": "n", **condition})
        return holds(found, {"n": number}, TODAY)

    both = of(op="at_least", value=str(low)) and of(op="at_most", value=str(high))
    assert of(op="between", low=str(low), high=str(high)) is both
    assert of(op="more_than", value=str(low)) is not of(op="at_most", value=str(low))
    assert of(op="less_than", value=str(low)) is not of(op="at_least", value=str(low))


def test_what_a_condition_names_is_named_inside_entries_too() -> None:
    where = {"op": "any_entry", "item": "wells", "where": is_("use", "drink")}
    assert named(CONDITION.validate_python(where)) == {"wells", "use"}


ASKED = (
    item("number", "n"),
    item("date", "d"),
    item("pick_many", "m", options=options("a", "b")),
    item("short_text", "s"),
    item("file", "f"),
    item("roster", "r", items=[item("number", "depth")]),
)


def codes(**condition: Any) -> list[str]:
    last = item("yes_no", "y", shown_when=condition)
    return [one.code for one in faults(questionnaire(page("p", *ASKED, last)))]


@pytest.mark.parametrize(
    "condition",
    [
        {"op": "between", "item": "d", "low": "today-7", "high": "2026-11-01"},
        {"op": "includes_all", "item": "m", "values": ["a", "b"]},
        {"op": "one_of", "item": "m", "values": ["a"]},
        {"op": "like", "item": "s", "value": "[0-9]+"},
        {"op": "contains", "item": "contact.email", "value": "@"},
        {"op": "is", "item": "claim.role", "value": "sampler"},
        {"op": "entry_count", "item": "r", "at_least": 1},
        {"op": "any_entry", "item": "r", "where": {"op": "answered", "item": "depth"}},
    ],
)
def test_a_sound_condition_has_no_fault(condition: dict[str, Any]) -> None:
    assert codes(**condition) == []


@pytest.mark.parametrize(
    ("condition", "code"),
    [
        ({"op": "between", "item": "n", "low": "few", "high": "9"}, "no_such_answer"),
        ({"op": "between", "item": "s", "low": "a", "high": "b"}, "no_such_answer"),
        ({"op": "more_than", "item": "d", "value": "soon"}, "no_such_answer"),
        ({"op": "includes_all", "item": "m", "values": ["a", "z"]}, "no_such_answer"),
        ({"op": "like", "item": "s", "value": "("}, "bad_pattern"),
        ({"op": "like", "item": "n", "value": "1"}, "no_such_answer"),
        ({"op": "contains", "item": "s", "value": ""}, "no_operand"),
        ({"op": "is", "item": "s", "value": ""}, "no_operand"),
        ({"op": "between", "item": "n", "low": "", "high": "9"}, "no_operand"),
        ({"op": "one_of", "item": "m", "values": [""]}, "no_operand"),
        ({"op": "is", "item": "", "value": ""}, "not_chosen"),
        ({"op": "is", "item": "f", "value": "x"}, "no_such_answer"),
        ({"op": "is", "item": "contact.Shoe size", "value": "x"}, "not_earlier"),
        ({"op": "is", "item": "depth", "value": "1"}, "not_earlier"),
        ({"op": "entry_count", "item": "r"}, "no_count"),
        ({"op": "entry_count", "item": "r", "at_least": 3, "at_most": 2}, "no_count"),
        ({"op": "entry_count", "item": "n", "at_least": 3}, "no_such_answer"),
        ({"op": "any_entry", "item": "r", "where": is_("gone", "1")}, "not_earlier"),
        ({"op": "saved", "name": "gone"}, "no_saved"),
    ],
)
def test_a_condition_that_cannot_be_meant_is_a_fault(condition: dict[str, Any], code: str) -> None:
    assert codes(**condition) == [code]


def saved(key: str, when: dict[str, Any], name: str = "Drinks from it") -> dict[str, Any]:
    return {"key": key, "name": name, "when": when}


USED = {"op": "not", "part": {"op": "all", "parts": [{"op": "saved", "name": "drinks"}]}}


def test_a_saved_condition_means_what_it_says_wherever_it_is_used() -> None:
    compiled = plan(
        page("p", item("yes_no", "y"), item("yes_no", "z", shown_when=USED)),
        page("q", item("yes_no", "w"), shown_when={"op": "saved", "name": "drinks"}),
        saved=[saved("drinks", is_("y", True))],
    )
    for answer, keys in ((True, ["p", "q"]), (False, ["p"])):
        whole = walk(compiled, {"y": answer}, {}, TODAY)
        assert [step.page.key for step in whole.steps] == keys
        assert [one.key for one in whole.steps[0].shown] == (["y"] if answer else ["y", "z"])
    assert compiled.watched["p"] == {"y"}


@pytest.mark.parametrize(
    ("saves", "code"),
    [
        ([saved("drinks", is_("later", True))], "not_earlier"),
        ([saved("drinks", is_("y", True), name=" ")], "no_text"),
        ([saved("drinks", is_("y", True)), saved("drinks", is_("y", False))], "double_key"),
        ([saved("drinks", is_("y", True)), saved("b", USED)], "saved_inside"),
    ],
)
def test_faults_of_saved_conditions(saves: list[dict[str, Any]], code: str) -> None:
    items = (item("yes_no", "y"), item("yes_no", "z", shown_when=USED), item("yes_no", "later"))
    assert code in [one.code for one in faults(questionnaire(page("p", *items), saved=saves))]


def test_the_facts_of_a_visitor_decide_and_are_not_kept_as_answers() -> None:
    when = {"op": "is", "item": "contact.language", "value": "es"}
    document = questionnaire(page("p", item("yes_no", "y", shown_when=when)))
    whole = walk(compile_plan(document), {"y": True}, {"contact.language": "es"}, TODAY)
    assert whole.kept == {"contact.language": "es", "y": True}
    assert walk(compile_plan(document), {"y": True}, {}, TODAY).kept == {}
