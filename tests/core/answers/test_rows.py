"""Grids and rosters: the same questions several times over."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.offered import as_offered
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.walking.next_page import first_page, onward, stay
from jotgate.core.walking.path import walk
from tests.core.kinds import of, outcome
from tests.documents import TODAY, is_, item, options, page, plan, words

ROSTER = of(
    "roster",
    fewest=1,
    most=2,
    items=[
        item("short_text", "name", required=True),
        item("number", "depth", decimals=1),
        item("number", "water", decimals=1, shown_when={"op": "answered", "item": "depth"}),
        item("pick_one", "lining", options=options("stone", "brick")),
    ],
    checks=[
        {"left": "water", "relation": "at_most", "right": "depth", "message": words("Too deep.")}
    ],
)
GRID = of(
    "grid",
    rows=[
        {"code": "kitchen", "label": words("Kitchen"), "required": True},
        {"code": "garden", "label": words("Garden"), "repeats": 2},
        {"code": "pool", "label": words("Pool"), "shown_when": is_("has_pool", True)},
    ],
    columns=[item("number", "litres", required=True), item("yes_no", "hot")],
    totals=["litres"],
)


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ([{"name": "Yard"}], ({"name": "Yard"},)),
        (
            [{"name": "Yard", "depth": "12.5", "water": "3"}, {"name": "Barn"}],
            ({"name": "Yard", "depth": Decimal("12.5"), "water": Decimal(3)}, {"name": "Barn"}),
        ),
        ([{"name": "Yard", "depth": "2", "water": "3"}], {"0/water": "check"}),
        # What is not shown does not count, and is not held against anything.
        ([{"name": "Yard", "water": "3"}], ({"name": "Yard"},)),
        ([{"name": ""}, {"name": "Yard"}], {"0/name": "required"}),
        ([{"name": "Yard", "lining": "clay"}], {"0/lining": "not_an_option"}),
        ([{"name": "a"}, {"name": "b"}, {"name": "c"}], "too_many_entries"),
        ([{"name": "a"}] * 201, "too_many_entries"),
        ([], "too_few_entries"),
        (None, "too_few_entries"),
        ([{"name": "Yard", "unknown": "x"}], ({"name": "Yard"},)),
        (["Yard"], "wrong_kind"),
        ({"name": "Yard"}, "wrong_kind"),
    ],
)
def test_roster(raw: Any, kept: Any) -> None:
    assert outcome(ROSTER, raw) == kept


def test_an_entry_without_an_answer_is_left_out() -> None:
    loose = of("roster", items=[item("short_text", "name")])
    assert outcome(loose, [{"name": " "}, {"name": "Yard"}, {}]) == ({"name": "Yard"},)
    assert outcome(loose, [{}]) is None


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ({"kitchen": [{"litres": "40"}]}, {"kitchen": ({"litres": Decimal(40)},)}),
        (
            {
                "kitchen": [{"litres": "1"}],
                "garden": [
                    {"litres": "2"},
                    {},
                ],
            },
            {"kitchen": ({"litres": Decimal(1)},), "garden": ({"litres": Decimal(2)},)},
        ),
        ({"kitchen": [{"hot": True}]}, {"kitchen/0/litres": "required"}),
        ({"garden": [{"litres": "2"}]}, {"kitchen/0/litres": "required"}),
        ({"kitchen": [{"litres": "x"}]}, {"kitchen/0/litres": "not_a_number"}),
        ({"kitchen": [{"litres": "1"}] * 2}, {"kitchen/0": "too_many_entries"}),
        ({}, {"kitchen/0/litres": "required"}),
        (
            {"kitchen": [{"litres": "1"}], "pool": [{"litres": "x"}]},
            {"kitchen": ({"litres": Decimal(1)},)},
        ),
        ([], {"kitchen/0/litres": "required"}),
        ("x", "wrong_kind"),
        ({"kitchen": "x"}, "wrong_kind"),
    ],
)
def test_grid(raw: Any, kept: Any) -> None:
    assert outcome(GRID, raw) == kept


def test_a_row_is_asked_when_its_condition_holds() -> None:
    raw = {"kitchen": [{"litres": "1"}], "pool": [{"litres": "9"}]}
    assert "pool" in outcome(GRID, raw, {"has_pool": True})
    assert "pool" not in outcome(GRID, raw, {"has_pool": False})


@given(st.lists(st.tuples(st.integers(0, 99), st.booleans()), max_size=2))
def test_what_is_stored_comes_back(found: list[tuple[int, bool]]) -> None:
    raw = {"kitchen": [{"litres": "1"}], "garden": [{"litres": str(n), "hot": h} for n, h in found]}
    value = outcome(GRID, raw)
    assert from_json(GRID, as_json(value)) == value
    wells = outcome(
        ROSTER, [{"name": "Yard", "depth": str(n)} for n, _ in found] or [{"name": "x"}]
    )
    assert from_json(ROSTER, as_json(wells)) == wells


WELLS = plan(
    page(
        "p",
        item("yes_no", "has_pool"),
        item(
            "roster",
            "wells",
            items=[
                item("short_text", "well", required=True),
                item("pick_one", "lining", options=options("stone", "brick")),
                item("date", "dug", shown_when=is_("lining", "brick")),
            ],
        ),
        item(
            "pick_one",
            "where",
            options=[*options("yard"), {**options("pool")[0], "shown_when": is_("has_pool", True)}],
        ),
    ),
    page("end", item("yes_no", "last")),
)


def test_every_entry_shows_what_its_own_answers_ask_for() -> None:
    answers = {"wells": [{"well": "Yard", "lining": "brick"}, {"well": "Barn", "lining": "stone"}]}
    following = first_page(WELLS, answers, {}, TODAY)
    shown = [[one.key for one in line] for line in following.inside["wells"]]
    assert shown == [["well", "lining", "dug"], ["well", "lining"], ["well", "lining"]]


def test_failures_inside_say_where() -> None:
    answers = {"wells": [{"well": "Yard"}, {"lining": "stone"}]}
    assert set(onward(WELLS, answers, {}, TODAY, "p").failed) == {"wells/1/well"}  # type: ignore[union-attr]
    touched = stay(WELLS, answers, {}, TODAY, "p", ["wells/1/well", "where"])
    assert set(touched.failed) == {"wells/1/well"}
    assert not stay(WELLS, answers, {}, TODAY, "p", ["wells/0/well"]).failed


def test_an_option_that_is_not_shown_cannot_be_picked() -> None:
    kept = walk(WELLS, {"has_pool": True, "where": "pool"}, {}, TODAY)
    assert kept.stuck is None
    stuck = walk(WELLS, {"has_pool": False, "where": "pool"}, {}, TODAY).stuck
    assert stuck is not None
    assert {place: failed.code for place, failed in stuck.failed.items()} == {
        "where": "not_an_option"
    }


def test_a_roster_whose_entries_differ_is_watched_and_checked() -> None:
    assert WELLS.watched["p"] == {"has_pool", "wells"}
    checked = plan(
        page(
            "p",
            item("date", "a"),
            item("date", "b"),
            checks=[{"left": "b", "relation": "at_least", "right": "a", "message": words("No.")}],
        )
    )
    assert checked.checked["p"] == {"a", "b"}


def test_a_question_is_required_under_a_condition() -> None:
    """Where the condition holds the answer is missed, inside of a roster and of a grid too."""
    asked = plan(
        page(
            "p",
            item("yes_no", "own"),
            item("short_text", "depth", required_when=is_("own", True)),
            item("pick_many", "uses", options=options("a"), required_when=is_("own", True)),
            item(
                "roster",
                "wells",
                required_when=is_("own", True),
                items=[
                    item("yes_no", "deep"),
                    item("number", "metres", required_when=is_("deep", True)),
                ],
            ),
        )
    )
    assert asked.watched["p"] == {"own", "wells"}
    free = walk(asked, {"own": False}, {}, TODAY)
    assert free.stuck is None
    missed = walk(asked, {"own": True}, {}, TODAY).steps[0].failed
    assert {place: one.code for place, one in missed.items()} == {
        "depth": "required",
        "uses": "required",
        "wells": "too_few_entries",
    }
    lines = {"own": False, "wells": [{"deep": True}, {"deep": False}]}
    inside = walk(asked, lines, {}, TODAY).steps[0].failed
    assert {place: one.code for place, one in inside.items()} == {"wells/0/metres": "required"}
    shown = first_page(asked, {"own": True}, {}, TODAY)
    settled = [as_offered(one, shown.kept, TODAY) for one in shown.step.shown]
    assert [getattr(one, "required", None) for one in settled] == [False, True, True, True]
