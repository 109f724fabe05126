"""The way of an entry, found again from its open answers, against the walk that made it."""

from collections import Counter
from collections.abc import Iterator
from random import Random
from typing import Any

import pytest

from jotgate.core.common.values import Values
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.clearance import split
from jotgate.core.entries.finishing import to_keep
from jotgate.core.entries.stored import as_json, values_of
from jotgate.core.walking.made_up import MadeUp
from jotgate.core.walking.path import Walk, walk
from jotgate.core.walking.plan import Plan, compile_plan
from jotgate.core.walking.retracing import Rule, Traceable, retraced, traceable
from tests.core.proof.branching import branching
from tests.core.proof.routed import with_sets
from tests.documents import TODAY, finish, is_, item, options, page, questionnaire

WALKS = 25


def restricting(made: Questionnaire, dice: Random) -> Questionnaire:
    """`made` with some of its questions restricted."""
    pages = tuple(
        one.model_copy(
            update={
                "items": tuple(
                    each.model_copy(update={"restricted": True}) if dice.random() < 0.15 else each
                    for each in one.items
                )
            }
        )
        for one in made.pages
    )
    return made.model_copy(update={"pages": pages})


def walks(plan: Plan, dice: Random) -> Iterator[Walk]:
    for _ in range(WALKS):
        carried: Values = {"route": dice.choice("ab")} if dice.random() < 0.7 else {}
        found = walk(plan, MadeUp(plan, carried, TODAY, dice), carried, TODAY)
        if found.stuck is None:
            yield found


def as_stored(plan: Plan, whole: Walk) -> Values:
    """The open answers of an entry, written and read again."""
    open_answers, _ = split(plan, to_keep(plan, whole))
    return values_of(plan.items, {key: as_json(one) for key, one in open_answers.items()})


def retold(plan: Plan, told: Traceable, values: Values) -> tuple[set[str], set[Rule]]:
    """The pages and the ways out of them that can be told, of what is read alone."""
    steps = list(retraced(plan, {key: values[key] for key in told.reads if key in values}, TODAY))
    return {key for key, _ in steps} & told.pages, set(steps) & told.rules


@pytest.mark.parametrize("turn", range(4))
def test_what_can_be_told_is_the_way_that_was_walked(turn: int) -> None:
    seen: Counter[str] = Counter()
    for seed in range(turn * 60, (turn + 1) * 60):
        dice = Random(seed)
        plan = compile_plan(restricting(with_sets(branching(seed), dice), dice))
        told = traceable(plan, plan.restricted)
        for whole in walks(plan, dice):
            came = {step.page.key for step in whole.steps} & told.pages
            left = {(step.page.key, step.rule or 0) for step in whole.steps} & told.rules
            assert retold(plan, told, as_stored(plan, whole)) == (came, left), seed
            seen["walks"] += 1
            seen["rules"] += sum(rule > 0 for _, rule in left)
        every = {one.key for one in plan.questionnaire.pages}
        seen["untold"] += len(every - told.pages)
        seen["told"] += len(told.pages)
    assert min(seen[name] for name in ("walks", "rules", "untold", "told")) > 20, seen


def screened() -> Plan:
    """A page that follows from something restricted, one that the rule behind it passes over, and
    one where all come together."""
    return compile_plan(
        questionnaire(
            page(
                "one",
                item("yes_no", "ill", restricted=True),
                item("yes_no", "well"),
                skips=[
                    {"when": is_("well", True), "to": {"kind": "page", "page": "two"}},
                    {"when": is_("ill", True), "to": {"kind": "page", "page": "four"}},
                ],
            ),
            page("two", item("yes_no", "a")),
            page("three", item("yes_no", "b")),
            page("four", item("yes_no", "c"), shown_when=is_("well", True)),
            page("five", item("yes_no", "d"), shown_when=is_("contact.district", "Fell")),
            page("six", item("pick_one", "e", options=options("a", "b"))),
            finishes=(finish("end"), finish("early")),
        )
    )


def test_what_follows_from_something_restricted_is_not_told() -> None:
    plan = screened()
    told = traceable(plan, plan.restricted)
    assert told.pages == {"one", "four", "six"}
    assert told.rules == {("one", 1), ("four", 0), ("six", 0)}
    assert told.reads == ("well",)
    assert not told.by_day


def test_what_finishes_set_says_nothing_of_the_way() -> None:
    made = questionnaire(
        page("one", item("carried", "route", options=options("a", "b"))),
        page("two", item("yes_no", "b"), shown_when=is_("route", "a")),
        finishes=(finish("end", sets={"route": "a"}),),
    )
    told = traceable(compile_plan(made), ())
    assert told.pages == {"one"}
    assert told.reads == ()


SINCE = {"op": "at_least", "item": "when", "value": "today-7"}
AROUND = {"op": "between", "item": "when", "low": "2026-01-01", "high": "today"}
FIXED = {"op": "at_least", "item": "when", "value": "2026-01-01"}
INSIDE = {"op": "any_entry", "item": "visits", "where": SINCE}


@pytest.mark.parametrize(
    ("when", "matters"),
    [
        (SINCE, True),
        (AROUND, True),
        (FIXED, False),
        ({"op": "not", "part": SINCE}, True),
        ({"op": "any", "parts": [FIXED, INSIDE]}, True),
    ],
)
def test_days_matter_where_a_condition_counts_from_today(
    when: dict[str, Any], matters: bool
) -> None:
    made = questionnaire(
        page("one", item("roster", "visits", items=[item("date", "when")])),
        page("two", item("yes_no", "b"), shown_when=when),
    )
    told = traceable(compile_plan(made), ())
    assert (told.by_day, told.reads) == (matters, ("visits",))
