"""Times since and until today in the proof, held against every day of a short stretch."""

from calendar import monthrange
from datetime import UTC, date, datetime, timedelta
from typing import Any

from hypothesis import example, given
from hypothesis import strategies as st

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.formulas import compute
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.search import Budget, Prover, search
from jotgate.core.walking.plan import compile_plan
from tests.documents import item, page, questionnaire

UNITS = ("days", "weeks", "months", "years", "hours")
DAYS_IN = {"days": 1, "weeks": 7, "months": 30, "years": 365, "hours": 0}


def near(today: date, by: int, unit: str) -> date:
    """About so many units after `today`."""
    if unit not in ("months", "years"):
        return today + timedelta(days=by * DAYS_IN[unit])
    months = today.year * 12 + today.month - 1 + (by if unit == "months" else by * 12)
    year, month = divmod(months, 12)
    return date(year, month + 1, min(today.day, monthrange(year, month + 1)[1]))


@example(date(2025, 3, 10), "weeks", 1, -9, 8, "is", True)
@given(
    st.dates(date(2019, 12, 25), date(2032, 3, 5)),
    st.sampled_from(UNITS),
    st.integers(-20, 40),
    st.integers(-9, 3),
    st.integers(0, 8),
    st.sampled_from(["is", "at_least", "at_most", "more_than", "less_than"]),
    st.booleans(),
)
@example(date(2024, 2, 29), "years", 1, -1, 2, "at_least", True)
@example(date(2025, 3, 1), "years", 1, -1, 2, "at_least", True)
@example(date(2025, 3, 31), "months", 1, -3, 3, "is", True)
@example(date(2025, 1, 31), "months", 1, -3, 3, "at_least", False)
@example(date(2025, 1, 31), "months", -2, -3, 3, "at_most", False)
def test_a_time_to_today_is_decided_as_its_days_say(
    day: date, unit: str, number: int, offset: int, more: int, op: str, until_today: bool
) -> None:
    today = Today(datetime(day.year, day.month, day.day, 10, tzinfo=UTC))
    first = near(day, -number if until_today else number, unit) + timedelta(days=offset)
    stretch = [first + timedelta(days=one) for one in range(more + 1)]
    edges = ("then", "today") if until_today else ("today", "then")
    formula = {"do": "difference", "since": edges[0], "until": edges[1], "unit": unit}
    when: dict[str, Any] = {"op": op, "item": "far", "value": str(number)}
    ends = {"earliest": stretch[0].isoformat(), "latest": stretch[-1].isoformat()}
    plan = compile_plan(
        questionnaire(
            page(
                "one",
                item("date", "then", required=True, **ends),
                item("computed", "far", formula=formula),
            ),
            page("two", item("yes_no", "last"), shown_when=when),
        )
    )
    far = plan.items["far"]
    condition = plan.questionnaire.pages[1].shown_when
    values = [compute(far.formula, {"then": one}, {}, today) for one in stretch]  # type: ignore[union-attr]
    true = {holds(condition, {"far": one}, today) for one in values if one is not None}
    encoding = encode(plan, today)
    prover = Prover(plan, encoding, today, Budget())
    verdicts = search(encoding, prover).verdicts
    prover.close()
    for goal, expected in (("true", True), ("false", False)):
        assert verdicts[goal, "pages/two"] == ("happens" if expected in true else "never")
