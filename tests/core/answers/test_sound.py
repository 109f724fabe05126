"""Answers and conditions at their edges: exact numbers, unseen text, moments that come twice."""

from datetime import UTC, datetime
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.today import Today
from jotgate.core.common.values import Else, Values
from jotgate.core.conditions.cross_checks import CrossCheck, broken
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.path import walk
from jotgate.core.walking.prefill import read_arrival
from tests.core.kinds import of, outcome
from tests.documents import TODAY, is_, item, options, page, plan, questionnaire, words

SCORED = {"do": "score", "points": {"s": {"3": "10"}}}


def test_a_scale_answered_with_a_decimal_point_scores_like_any() -> None:
    made = plan(page("p", item("scale", "s"), item("computed", "c", formula=SCORED)))
    kept = walk(made, {"s": "3.0"}, {}, TODAY).kept
    assert (str(kept["s"]), kept["c"]) == ("3", Decimal(10))
    assert read_arrival(made, [("s", "3.0")], TODAY).answers == {"s": "3"}


def test_sums_round_nothing() -> None:
    numbers = [item("number", f"n{n}", decimals=6) for n in range(3)]
    total = item("computed", "t", formula={"do": "sum", "of": ["n0", "n1", "n2"]})
    given = {"n0": "9999999999999999999999", "n1": "0.000001", "n2": "9e25"}
    kept = walk(plan(page("p", *numbers, total)), given, {}, TODAY).kept
    assert kept["t"] == Decimal("90009999999999999999999999.000001")


@given(
    st.decimals(allow_nan=False, allow_infinity=False, places=6)
    | st.sampled_from(["9999999999999999999999999", "9e25", "-9e25", "1e-25", 10**300, -(10**25)]),
    st.sampled_from(["0.000001", "0.3", "7", "99999999999999"]),
    st.sampled_from([None, "0.1", "-99999999999999"]),
)
def test_any_number_is_kept_or_refused(raw: Any, step: str, low: str | None) -> None:
    """What is kept is a whole number of steps from the lowest, told by exact fractions."""
    one = of("number", step=step, at_least=low, decimals=6)
    try:
        found = check(one, raw if isinstance(raw, int) else str(raw), TODAY)
    except CheckFailed as failed:
        if failed.code == "not_a_step":
            below, above = failed.params["below"], failed.params["above"]
            assert isinstance(below, Decimal)
            assert isinstance(above, Decimal)
            assert below < Decimal(raw) < above
        return
    assert isinstance(found, Decimal)
    num, den = found.as_integer_ratio()
    low_num, low_den = Decimal(low or 0).as_integer_ratio()
    step_num, step_den = Decimal(step).as_integer_ratio()
    assert (num * low_den - low_num * den) * step_den % (step_num * den * low_den) == 0


UNSEEN = ["\u200b", "\u200d\u200c", "\ufeff", "\u2060 \u00a0", "\u3164", "\u2800", "\U000e0041"]


@pytest.mark.parametrize("raw", UNSEEN)
def test_what_nobody_can_see_is_no_answer(raw: str) -> None:
    for kind in ("short_text", "long_text", "email", "phone", "web_address", "number"):
        assert outcome(of(kind, required=True), raw) == "required"
    picked = of("pick_one", options=options("a"), else_label=words("Other"))
    assert outcome(picked, {"else": raw}) == "say_else"
    assert outcome(of("name"), {"given": raw, "family": "Fell"}) == {"given": "part_missing"}
    assert outcome(of("signature"), {"typed": raw}) == "not_signed"


def test_controls_of_direction_are_not_kept() -> None:
    assert outcome(of("short_text"), "\u202eevil\u2066\u200f") == "evil"
    assert outcome(of("long_text"), "a\u2069\n\u061cb") == "a\nb"


ZONE = ZoneInfo("Europe/Lisbon")


@pytest.mark.parametrize(
    ("now", "bound", "raw", "fits"),
    [
        # On 25 October 2026 the clock shows 01:00 to 02:00 twice: first at 00:00 UTC.
        ("2026-10-25T01:30+00:00", {"latest": "now"}, "2026-10-25T01:45", True),
        ("2026-10-25T00:30+00:00", {"latest": "now"}, "2026-10-25T01:45", False),
        ("2026-10-25T01:30+00:00", {"earliest": "now"}, "2026-10-25T01:45", False),
        ("2026-10-25T00:30+00:00", {"earliest": "now"}, "2026-10-25T01:45", True),
        ("2026-10-25T00:30+00:00", {"earliest": "now"}, "2026-10-25T01:30", True),
    ],
)
def test_now_in_the_hour_that_comes_twice(
    now: str, bound: dict[str, str], raw: str, fits: bool
) -> None:
    """A time that comes twice is the first; now is the moment that it is."""
    today = Today(datetime.fromisoformat(now).astimezone(ZONE))
    try:
        found = check(of("date_time", **bound), raw, today)
    except CheckFailed as failed:
        assert (fits, failed.code) == (False, "too_late" if "latest" in bound else "too_early")
    else:
        assert fits
        assert found == datetime(2026, 10, 25, int(raw[11:13]) - 1, int(raw[14:]), 0, 0, UTC)


def against(relation: str, left: str = "a", right: str = "b") -> CrossCheck:
    return CrossCheck(left=left, relation=relation, right=right, message=words("Look."))


def test_own_words_are_compared_as_what_they_say() -> None:
    blue: Values = {"a": Else("blue"), "b": "blue"}
    assert not broken(against("is"), blue, TODAY)
    assert broken(against("is_not"), blue, TODAY)


NAMES = item("name", "a"), item("name", "b")


def coded(*items: dict[str, Any], **more: Any) -> list[str]:
    return [fault.code for fault in faults(questionnaire(page("p", *items, **more)))]


def test_what_has_no_order_cannot_be_ordered() -> None:
    for kind in ("name", "address", "yes_no", "short_text"):
        pair = item(kind, "a"), item(kind, "b")
        assert coded(*pair, checks=[against("is_not").model_dump(mode="json")]) == []
        for relation in ("at_least", "at_most", "more_than", "less_than"):
            assert coded(*pair, checks=[against(relation).model_dump(mode="json")]) == [
                "no_comparison"
            ]
            value = {"given": "Ada"} if kind in ("name", "address") else "x"
            assert not broken(against(relation), {"a": value, "b": "x"}, TODAY) or kind != "name"
    for kind in ("signature", "grid"):
        more: dict[str, Any] = {"rows": [], "columns": []} if kind == "grid" else {}
        found = coded(
            item(kind, "a", **more),
            item(kind, "b", **more),
            checks=[against("is").model_dump(mode="json")],
        )
        assert "no_comparison" in found


def first_of(kind: str, **more: Any) -> tuple[dict[str, Any], ...]:
    first = item("computed", "f", formula={"do": "first", "of": ["a"]})
    return item(kind, "a", **more), first


@pytest.mark.parametrize(
    ("kind", "more", "when", "publishes"),
    [
        ("yes_no", {}, is_("f", True), True),
        ("yes_no", {}, {"op": "contains", "item": "f", "value": "x"}, False),
        ("date", {}, {"op": "at_least", "item": "f", "value": "2026-01-01"}, True),
        ("number", {}, {"op": "between", "item": "f", "low": "1", "high": "2"}, True),
        ("pick_one", {"options": options("x")}, is_("f", "x"), True),
        ("pick_one", {"options": options("x")}, is_("f", "y"), False),
        (
            "pick_many",
            {"options": options("x")},
            {"op": "includes", "item": "f", "value": "x"},
            True,
        ),
        ("short_text", {}, {"op": "contains", "item": "f", "value": "x"}, True),
        ("name", {}, is_("f", "x"), False),
    ],
)
def test_a_first_answer_is_asked_what_its_question_is(
    kind: str, more: dict[str, Any], when: dict[str, Any], publishes: bool
) -> None:
    made = (*first_of(kind, **more), item("yes_no", "last", shown_when=when))
    assert (coded(*made) == []) is publishes


def test_a_carried_value_under_a_condition_counts_where_it_holds() -> None:
    """By rule 1 of the computation: what is not shown, or not on the path, counts as unanswered."""
    route = item("carried", "route", options=options("x"), shown_when=is_("ask", True))
    made = plan(
        page("a", item("yes_no", "early", shown_when={"op": "answered", "item": "ask"})),
        page(
            "b", item("yes_no", "ask"), route, item("yes_no", "then", shown_when=is_("route", "x"))
        ),
        page("c", item("yes_no", "later", shown_when=is_("route", "x"))),
    )
    for ask, expected in ((True, ["ask", "then", "later"]), (False, ["ask"]), (None, ["ask"])):
        whole = walk(made, {"ask": ask}, {"route": "x"}, TODAY)
        assert [one.key for step in whole.steps for one in step.shown] == expected
        assert ("route" in whole.kept) is bool(ask)


def test_a_carried_value_under_a_condition_is_named_from_its_place_on() -> None:
    route = item("carried", "route", options=options("x"), shown_when=is_("ask", True))
    before = page("a", item("yes_no", "ask", shown_when=is_("route", "x")))
    sure = item("yes_no", "sure")
    found = faults(questionnaire(page("z", sure), before, page("b", route)))
    assert [fault.code for fault in found] == ["not_earlier"]
