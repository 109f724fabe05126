"""Computed values and checks across answers."""

from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from jotgate.core.common.values import Else, Values
from jotgate.core.conditions.cross_checks import CrossCheck, broken
from jotgate.core.conditions.formulas import Formula, compute
from jotgate.core.walking.path import walk
from tests.documents import TODAY, is_, item, options, page, plan, words

FORMULA: TypeAdapter[Any] = TypeAdapter(Formula)
OWNERS = {"litres": "taps", "depth": "wells"}


def computed(raw: dict[str, Any], values: Values) -> Any:
    return compute(FORMULA.validate_python(raw), values, OWNERS, TODAY)


TAPS: Values = {
    "taps": {"kitchen": ({"litres": Decimal("0.1")},), "garden": ({"litres": Decimal("0.2")}, {})},
    "wells": ({"depth": Decimal(12)}, {"depth": Decimal("7.5")}, {"lining": "stone"}),
}


@pytest.mark.parametrize(
    ("raw", "values", "expected"),
    [
        ({"do": "sum", "of": ["a", "b"]}, {"a": Decimal("0.1"), "b": Decimal("0.2")}, "0.3"),
        ({"do": "sum", "of": ["a", "b"]}, {"a": Decimal(4)}, "4"),
        ({"do": "sum", "of": ["a"]}, {}, None),
        ({"do": "sum", "of": ["litres"]}, TAPS, "0.3"),
        ({"do": "sum", "of": ["depth"]}, TAPS, "19.5"),
        ({"do": "count", "of": ["litres"]}, TAPS, "2"),
        ({"do": "count", "of": ["wells"]}, TAPS, "3"),
        ({"do": "count", "of": ["m", "x"]}, {"m": ("a", "b"), "x": "y"}, "3"),
        ({"do": "count", "of": ["m"]}, {}, None),
        ({"do": "score", "points": {"m": {"a": "2", "b": "1.5"}}}, {"m": ("a", "b")}, "3.5"),
        ({"do": "score", "points": {"o": {"a": "2"}}}, {"o": "b"}, "0"),
        ({"do": "score", "points": {"o": {"else": "7"}}}, {"o": Else("x")}, "7"),
        ({"do": "score", "points": {"y": {"yes": "1"}}}, {"y": True}, "1"),
        ({"do": "score", "points": {"s": {"4": "10"}}}, {"s": Decimal(4)}, "10"),
        ({"do": "score", "points": {"o": {"a": "2"}}}, {}, None),
    ],
)
def test_numbers(raw: dict[str, Any], values: Values, expected: str | None) -> None:
    assert computed(raw, values) == (None if expected is None else Decimal(expected))


def test_the_first_that_is_answered() -> None:
    raw = {"do": "first", "of": ["a", "b", "c"]}
    assert computed(raw, {"c": "z", "b": "y"}) == "y"
    assert computed(raw, {}) is None


def between(since: Any, until: Any, unit: str) -> Any:
    raw = {"do": "difference", "since": "a", "until": "b", "unit": unit}
    return computed(raw, {"a": since, "b": until})


@pytest.mark.parametrize(
    ("since", "until", "unit", "expected"),
    [
        # Ages go up on the birthday; for one born on 29 February on 1 March of other years
        # (common practice).
        (date(2000, 2, 29), date(2023, 2, 28), "years", 22),
        (date(2000, 2, 29), date(2023, 3, 1), "years", 23),
        (date(2000, 11, 25), date(2026, 11, 25), "years", 26),
        (date(2000, 11, 26), date(2026, 11, 25), "years", 25),
        (date(2026, 1, 31), date(2026, 2, 28), "months", 0),
        (date(2026, 1, 31), date(2026, 3, 31), "months", 2),
        (date(2026, 3, 1), date(2026, 1, 1), "months", -2),
        (date(2026, 11, 1), date(2026, 11, 15), "weeks", 2),
        (date(2026, 11, 1), date(2026, 11, 14), "weeks", 1),
        (
            datetime(2026, 1, 1, 10, 59, tzinfo=UTC),
            datetime(2026, 1, 1, 12, tzinfo=UTC),
            "hours",
            1,
        ),
    ],
)
def test_differences(since: Any, until: Any, unit: str, expected: int) -> None:
    assert between(since, until, unit) == expected


@given(st.dates(date(1900, 1, 1)), st.dates(date(1900, 1, 1)))
def test_days_are_those_of_the_calendar(since: date, until: date) -> None:
    assert between(since, until, "days") == (until - since).days
    assert between(since, until, "years") == -between(until, since, "years")


def test_differences_to_today() -> None:
    raw = {"do": "difference", "since": "a", "until": "today", "unit": "days"}
    assert computed(raw, {"a": TODAY.day - timedelta(days=9)}) == 9
    assert computed(raw, {}) is None


def check(relation: str, **more: Any) -> CrossCheck:
    raw = {"left": "a", "relation": relation, "message": words("No."), **more}
    return CrossCheck.model_validate(raw)


@pytest.mark.parametrize(
    ("relation", "left", "right", "fails"),
    [
        ("at_least", date(2026, 5, 5), date(2026, 5, 5), False),
        ("at_least", date(2026, 5, 4), date(2026, 5, 5), True),
        ("more_than", Decimal(3), Decimal(3), True),
        ("less_than", time(9), time(10), False),
        ("at_most", ("x", "y"), Decimal(1), True),
        ("at_least", ("x", "y"), ("z",), False),
        ("is", "same", "same", False),
        ("is_not", "same", "same", True),
        ("is", "text", Decimal(1), True),
        ("at_least", None, Decimal(1), False),
        ("at_least", Decimal(1), None, False),
    ],
)
def test_checks(relation: str, left: Any, right: Any, fails: bool) -> None:
    values = {key: value for key, value in (("a", left), ("b", right)) if value is not None}
    assert broken(check(relation, right="b"), values, TODAY) is fails


def test_a_check_against_a_number_and_under_a_condition() -> None:
    few = check("at_most", number="2")
    assert broken(few, {"a": Decimal("2.5")}, TODAY)
    assert not broken(few, {"a": Decimal(2)}, TODAY)
    only = check("at_most", number="2", when=is_("b", True))
    assert not broken(only, {"a": Decimal(3), "b": False}, TODAY)
    assert broken(only, {"a": Decimal(3), "b": True}, TODAY)


VISIT = plan(
    page("first", item("date", "start")),
    page(
        "second",
        item("date", "end"),
        item("computed", "days", formula={"do": "difference", "since": "start", "until": "end"}),
        item("yes_no", "long", shown_when={"op": "at_least", "item": "days", "value": "10"}),
        checks=[{"left": "end", "relation": "at_least", "right": "start", "message": words("No.")}],
    ),
)


def test_a_check_fails_at_the_later_answer_and_its_page() -> None:
    stuck = walk(VISIT, {"start": "2026-05-05", "end": "2026-05-04"}, {}, TODAY).stuck
    assert stuck is not None
    assert stuck.page.key == "second"
    assert {place: failed.code for place, failed in stuck.failed.items()} == {"end": "check"}


def test_what_is_computed_counts_like_an_answer() -> None:
    def shown(end: str) -> bool:
        whole = walk(VISIT, {"start": "2026-05-05", "end": end}, {}, TODAY)
        return any(one.key == "long" for one in whole.steps[1].shown)

    assert shown("2026-05-15")
    assert not shown("2026-05-14")
    assert walk(VISIT, {"start": "2026-05-05", "end": "2026-05-09"}, {}, TODAY).kept["days"] == 4


def test_a_computed_value_cannot_be_answered() -> None:
    kept = walk(VISIT, {"days": "99"}, {}, TODAY).kept
    assert "days" not in kept


def test_a_sum_runs_over_the_rows_of_a_grid() -> None:
    whole = plan(
        page(
            "p",
            item(
                "grid",
                "taps",
                rows=options("kitchen", "garden"),
                columns=[item("number", "litres", decimals=1)],
            ),
            item("computed", "sum", formula={"do": "sum", "of": ["litres"]}),
        )
    )
    raw = {"taps": {"kitchen": [{"litres": "0.1"}], "garden": [{"litres": "0.2"}]}}
    assert walk(whole, raw, {}, TODAY).kept["sum"] == Decimal("0.3")
