"""What depends on a restricted answer: through conditions, computing, checks, ways and finishes."""

from random import Random
from typing import Any

import pytest

from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.entries.clearance import split
from jotgate.core.entries.finishing import to_keep
from jotgate.core.publishing.drafts import depending
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.made_up import MadeUp
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from tests.core.proof.branching import branching
from tests.documents import TODAY, finish, is_, item, options, page, questionnaire, words

ILL = item("yes_no", "ill", restricted=True)
WHEN = is_("ill", True)


def against(left: str, right: str) -> dict[str, Any]:
    return {"left": left, "relation": "at_most", "right": right, "message": words("Look.")}


def skip(when: dict[str, Any], **to: str) -> dict[str, Any]:
    return {"when": when, "to": to}


END = {"kind": "finish", "finish": "other"}
SECRET = item("number", "pills", restricted=True)

DEPENDS: dict[str, tuple[list[dict[str, Any]], dict[str, list[str]]]] = {
    "shown when": ([page("p", ILL, item("yes_no", "x", shown_when=WHEN))], {"x": ["ill"]}),
    "required when": ([page("p", ILL, item("yes_no", "x", required_when=WHEN))], {"x": ["ill"]}),
    "an option": (
        [
            page(
                "p",
                ILL,
                item("pick_one", "x", options=[{**options("a")[0], "shown_when": WHEN}]),
            )
        ],
        {"x": ["ill"]},
    ),
    "a row": (
        [
            page(
                "p",
                ILL,
                item(
                    "grid",
                    "x",
                    rows=[{"code": "a", "label": words("A"), "shown_when": WHEN}],
                    columns=[item("yes_no", "c")],
                ),
            )
        ],
        {"x": ["ill"]},
    ),
    "inside a roster": (
        [page("p", ILL, item("roster", "x", items=[item("yes_no", "c", shown_when=WHEN)]))],
        {"x": ["ill"]},
    ),
    "computed": (
        [page("p", SECRET, item("computed", "x", formula={"do": "sum", "of": ["pills"]}))],
        {"x": ["pills"]},
    ),
    "through a chain": (
        [
            page("p", ILL, item("yes_no", "x", shown_when=WHEN)),
            page("q", item("yes_no", "y", shown_when=is_("x", True)), item("yes_no", "z")),
        ],
        {"x": ["ill"], "y": ["ill"]},
    ),
    "a page": ([page("p", ILL), page("q", item("yes_no", "x"), shown_when=WHEN)], {"x": ["ill"]}),
    "a check": (
        [page("p", SECRET, item("number", "x"), checks=[against("pills", "x")])],
        {"x": ["pills"]},
    ),
    "a page that is jumped over": (
        [
            page("p", ILL, skips=[skip(WHEN, kind="page", page="r")]),
            page("q", item("yes_no", "x")),
            page("r", item("yes_no", "y")),
        ],
        {"x": ["ill"]},
    ),
    "a page behind an end": (
        [
            page("p", ILL, item("yes_no", "w"), skips=[{"when": WHEN, "to": END}]),
            page("q", item("yes_no", "x")),
        ],
        {"x": ["ill"]},
    ),
    "nothing": ([page("p", ILL, item("yes_no", "x"))], {}),
}


@pytest.mark.parametrize("name", DEPENDS)
def test_what_depends_is_restricted_with_its_cause(name: str) -> None:
    pages, wanted = DEPENDS[name]
    document = questionnaire(*pages, finishes=("done", "other"))
    assert depending(document).items == wanted
    assert faults(document) == ()


def test_where_it_ended_and_what_that_sets() -> None:
    route = item("carried", "route")
    pages = page("p", route, ILL, skips=[{"when": WHEN, "to": END}]), page("q", item("yes_no", "x"))
    ends = finish("done"), finish("other", sets={"route": "clinic"})
    found = depending(questionnaire(*pages, finishes=ends))
    assert (found.finish, found.items) == (["ill"], {"route": ["ill"], "x": ["ill"]})
    free = depending(questionnaire(*pages, finishes=ends, finish_freed=True))
    assert (free.finish, free.items, free.freed) == ([], {"x": ["ill"]}, ["finish"])


def test_what_is_set_free_is_open_and_so_is_what_depends_on_it_alone() -> None:
    pages = (
        page("p", ILL, item("yes_no", "x", shown_when=WHEN, freed=True)),
        page("q", item("yes_no", "y", shown_when=is_("x", True))),
    )
    found = depending(questionnaire(*pages))
    assert (found.items, found.freed) == ({}, ["x"])


def test_rules_may_use_nothing_that_depends() -> None:
    pages = page("p", ILL, item("yes_no", "x", shown_when=WHEN))
    rules = {"rules": [{"key": "r", "when": is_("x", True), "acts": []}]}
    (fault, _) = problems(Dispatch.model_validate(rules), scope_of(questionnaire(pages), Known()))
    assert fault.message == (
        "x is restricted, since it depends on ill. It cannot decide or leave through a rule."
    )


@pytest.mark.parametrize("seed", range(150))
def test_open_answers_say_nothing_of_a_restricted_one(seed: int) -> None:
    """Two visitors who differ in one restricted answer alone leave the same open answers, in
    whatever questionnaire: non-interference (Goguen and Meseguer, 1982)."""
    document = branching(seed)
    dice = Random(seed)
    able = [one for one in document.items() if one.kind not in ("carried", "computed")]
    secret = dice.choice(able).key
    pages = tuple(
        part.model_copy(
            update={
                "items": tuple(
                    one.model_copy(update={"restricted": True}) if one.key == secret else one
                    for one in part.items
                )
            }
        )
        for part in document.pages
    )
    plan = compile_plan(document.model_copy(update={"pages": pages}))
    carried = {"route": "a"}
    first = MadeUp(plan, carried, TODAY, Random(seed))
    walk(plan, first, carried, TODAY)
    answers = {key: first[key] for key in plan.items if key not in plan.owners}
    seen = set()
    for other in range(6):
        changed = MadeUp(plan, carried, TODAY, Random(1000 + other))
        given = {**answers, secret: changed[secret] if other else None}
        whole = walk(plan, given, carried, TODAY)
        if whole.stuck is None:
            kept, _ = split(plan, to_keep(plan, whole))
            ended = "" if plan.restrictions.finish else whole.finish.key
            seen.add((str(sorted(kept.items(), key=str)), ended))
    assert len(seen) <= 1
