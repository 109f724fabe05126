"""Answers that are made up pass every check, and lead where they are wanted."""

from random import Random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.checks import check
from jotgate.core.walking.made_up import answer, answers_to
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from jotgate.demo.load import documents
from tests.core.kinds import of
from tests.documents import TODAY, item, options, page, questionnaire

KINDS: tuple[tuple[str, dict[str, Any]], ...] = (
    ("short_text", {"shortest": 30, "longest": 32}),
    ("short_text", {"longest": 1}),
    ("short_text", {"pattern": {"expression": r"TW-\d{4}", "fits": ["TW-0001", "TW-0420"]}}),
    ("long_text", {"shortest": 400}),
    ("email", {}),
    ("phone", {}),
    ("phone", {"countries": ["ES", "MA"]}),
    ("web_address", {}),
    ("number", {"decimals": 2}),
    ("number", {"at_most": "-5"}),
    ("number", {"at_least": "1", "at_most": "2", "step": "0.25", "decimals": 2}),
    ("date", {"latest": "today"}),
    ("date", {"earliest": "today+3", "latest": "today+3"}),
    ("date", {"earliest": "2030-01-01"}),
    ("time", {"earliest": "19:00"}),
    ("date_time", {"latest": "now"}),
    ("date_time", {"earliest": "now"}),
    ("date_time", {"earliest": "2027-01-01"}),
    ("yes_no", {}),
    ("pick_one", {"options": options("a", "b")}),
    ("pick_many", {"options": options("a", "b", "c"), "fewest": 2, "most": 2}),
    ("rank", {"options": options("a", "b", "c"), "top": 2}),
    ("scale", {"low": 0, "high": 10}),
    ("name", {"parts": ["title", "given", "family"]}),
    ("address", {}),
    ("address", {"countries": ["ES"]}),
    ("file", {"kinds": ["sheet"]}),
    ("signature", {}),
    (
        "grid",
        {
            "rows": [{"code": "r", "label": {"en": "R"}, "required": True}],
            "columns": [item("number", "n", required=True), item("yes_no", "y")],
        },
    ),
    ("roster", {"fewest": 2, "most": 3, "items": [item("short_text", "t", required=True)]}),
)


@pytest.mark.parametrize(("kind", "more"), KINDS)
@given(seed=st.integers(0, 10_000))
def test_a_made_up_answer_passes_the_check(kind: str, more: dict[str, Any], seed: int) -> None:
    one = of(kind, required=True, **more)
    assert check(one, answer(one, {}, TODAY, Random(seed)), TODAY) is not None


def test_a_page_under_conditions_is_found() -> None:
    asked = page("first", item("pick_one", "q", options=options(*"abcdefgh")))
    when = {"op": "is", "item": "q", "value": "g"}
    plan = compile_plan(questionnaire(asked, page("second", item("yes_no", "y"), shown_when=when)))
    found = answers_to(plan, "second", {}, TODAY, Random(1))
    assert found is not None
    assert found["q"] == "g"
    assert "y" in found


def test_a_page_that_nobody_comes_to_is_not_found() -> None:
    when = {"op": "is", "item": "q", "value": "z"}
    asked = page("first", item("pick_one", "q", options=options("a", "b")))
    plan = compile_plan(questionnaire(asked, page("never", shown_when=when)))
    assert answers_to(plan, "never", {}, TODAY, Random(1)) is None


@pytest.mark.parametrize("name", sorted(documents()))
def test_every_page_of_the_demo_is_reached(name: str) -> None:
    plan = compile_plan(documents()[name])
    for wanted in plan.questionnaire.pages:
        found = answers_to(plan, wanted.key, {}, TODAY, Random(7))
        assert found is not None, wanted.key
        steps = walk(plan, found, {}, TODAY).steps
        before = [step.page.key for step in steps]
        assert wanted.key in before
        assert not any(step.failed for step in steps[: before.index(wanted.key)])
