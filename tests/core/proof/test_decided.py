"""What is decided and what stays undecided: numbers, scores, counts, entries, hostile ones."""

from typing import Any

import pytest

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Budget, prove
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.search import Prover, search
from jotgate.core.walking.plan import compile_plan
from tests.core.proof.findings import LAST, SOURCE, of
from tests.core.publishing.test_faults import OK
from tests.documents import (
    TODAY,
    finish,
    is_,
    item,
    options,
    page,
    questionnaire,
    skip,
    to_finish,
    words,
)


@pytest.mark.parametrize(
    "when",
    [
        {"op": "like", "item": "name", "value": "[0-9]{7}-[A-F]{9}"},
        {"op": "is", "item": "total", "value": "17"},
        {"op": "contains", "item": "claim.role", "value": "sampler of wells"},
    ],
)
def test_what_cannot_be_decided_is_never_called_dead(when: dict[str, Any]) -> None:
    total = item("computed", "total", formula={"do": "sum", "of": ["n"]})
    first = page("a", item("short_text", "name"), item("number", "n"), total)
    document = questionnaire(first, page("b", OK, shown_when=when))
    proof = prove(document, TODAY)
    assert [one.code for one in proof.findings] == []
    assert "pages/b" in proof.open or "pages/b" in proof.examples


AGES = {"do": "difference", "since": "born", "until": "today", "unit": "years"}
POINTS = {"cough": {"yes": "3", "no": "0"}, "fever": {"yes": "4", "no": "1"}}


def screened(*skips: dict[str, Any], **more: Any) -> Questionnaire:
    """An age from a day of birth and a score, and what they lead to."""
    return questionnaire(
        page(
            "about",
            item("date", "born", required=True, latest="today"),
            *(item("yes_no", key, required=True) for key in POINTS),
            item("computed", "age", formula=AGES),
            item("computed", "score", formula={"do": "score", "points": POINTS}),
            skips=list(skips),
        ),
        page("more", LAST, **more),
        finishes=("done", "young", "seen"),
    )


def test_ages_and_scores_that_route_are_decided() -> None:
    young = {"op": "less_than", "item": "age", "value": "18"}
    seen = {"op": "at_least", "item": "score", "value": "7"}
    proof = prove(screened(skip(young, to_finish("young")), skip(seen, to_finish("seen"))), TODAY)
    assert (proof.findings, proof.open) == ((), ())
    run = proof.runs[proof.examples["finishes/young"]]
    assert run.answers["born"] > "2008-11-25"
    assert set(proof.examples) >= {"finishes/done", "finishes/seen"}


@pytest.mark.parametrize(
    "when",
    [
        {"op": "more_than", "item": "score", "value": "7"},
        {"op": "is", "item": "score", "value": "2"},
        {"op": "less_than", "item": "age", "value": "0"},
        {"op": "unanswered", "item": "score"},
    ],
)
def test_what_no_score_and_no_age_comes_to_is_dead(when: dict[str, Any]) -> None:
    proof = prove(screened(shown_when=when), TODAY)
    assert {"pages/more", "pages/more/items/last"} & {one.at for one in proof.findings}
    assert proof.open == ()


def test_a_finish_may_say_what_it_likes() -> None:
    document = questionnaire(page("a", OK), finishes=(finish("done", message=words("{ok}")),))
    assert prove(document, TODAY).findings == ()


def reached(document: Questionnaire, at: str) -> bool:
    proof = prove(document, TODAY)
    return at in proof.examples and at not in proof.open


def test_only_some_steps_of_a_number_may_be_legal() -> None:
    """Steps of an eighth with one digit after the point: only halves can be answered."""
    number = item("number", "n", step="0.125", decimals=1, at_least="0", at_most="9")
    when = {"op": "between", "item": "n", "low": "4.6", "high": "5.4"}
    document = questionnaire(page("a", number), page("b", OK, shown_when=when))
    assert reached(document, "pages/b")
    narrow = {"op": "between", "item": "n", "low": "4.6", "high": "4.9"}
    document = questionnaire(page("a", number), page("b", OK, shown_when=narrow))
    assert of("page_never", "pages/b", document) is not None


@pytest.mark.parametrize(("inside", "count"), [(1, 25), (12, 5)])
def test_many_entries_can_be_reached(inside: int, count: int) -> None:
    asked = [item("yes_no", f"q{number}") for number in range(inside)]
    when = {"op": "entry_count", "item": "r", "at_least": count}
    roster = item("roster", "r", most=60, items=asked)
    document = questionnaire(page("a", roster), page("b", OK, shown_when=when))
    assert reached(document, "pages/b")


def test_more_entries_than_are_told_apart_are_not_decided() -> None:
    asked = [item("yes_no", f"q{number}") for number in range(30)]
    for at_least, at_most in ((40, None), (None, 39)):
        when = {"op": "entry_count", "item": "r", "at_least": at_least, "at_most": at_most}
        wanted = {"op": "not", "part": when} if at_most else when
        roster = item("roster", "r", most=60, items=asked)
        document = questionnaire(page("a", roster, OK), page("b", LAST, shown_when=wanted))
        proof = prove(document, TODAY)
        assert "page_never" not in [one.code for one in proof.findings]


def test_a_required_carried_value_comes_with_every_example() -> None:
    """What nothing names has to be there all the same, or the link would be refused."""
    route = item("carried", "route", required=True, when_wrong="refuse", options=options("x"))
    proof = prove(questionnaire(page("a", OK, route)), TODAY)
    assert {tuple(run.carried.items()) for run in proof.runs} == {(("route", "x"),)}


CONSTANT = {"kind": "constant", "value": "x"}


@pytest.mark.parametrize(
    ("more", "value", "codes"),
    [
        ({"sources": [CONSTANT]}, "x", []),
        ({"sources": [CONSTANT]}, "y", ["page_never"]),
        ({"sources": []}, "x", ["page_never"]),
        ({"sources": [], "when_wrong": "ask"}, "x", []),
        ({"sources": [{"kind": "pass"}, CONSTANT]}, "y", []),
        ({"shown": "changeable", "required": True}, "y", []),
        ({"sources": [{"kind": "moment"}]}, "x", []),
    ],
)
def test_where_a_carried_value_comes_from_decides_what_it_can_be(
    more: dict[str, Any], value: str, codes: list[str]
) -> None:
    """Asked for on its page, always the same, only set by a finish, or nothing known of it."""
    route = item("carried", "route", **more)
    document = questionnaire(page("a", OK, route), page("b", LAST, shown_when=is_("route", value)))
    found = [one.code for one in prove(document, TODAY).findings]
    assert [code for code in found if code == "page_never"] == codes


def hostile(holes: int) -> Questionnaire:
    """One pigeon more than holes, each in some hole and no two in one: the pigeonhole principle,
    which takes resolution exponentially many steps (Haken, 1985)."""
    pigeons = range(holes + 1)
    asked = [item("yes_no", f"x{p}_{h}") for p in pigeons for h in range(holes)]
    parts: list[dict[str, Any]] = [
        {"op": "any", "parts": [is_(f"x{p}_{h}", True) for h in range(holes)]} for p in pigeons
    ]
    for h in range(holes):
        pairs = [(p, q) for p in pigeons for q in range(p)]
        alone = [
            {
                "op": "not",
                "part": {"op": "all", "parts": [is_(f"x{one}_{h}", True) for one in pair]},
            }
            for pair in pairs
        ]
        parts += [
            {"op": "all", "parts": alone[start : start + 50]} for start in range(0, len(alone), 50)
        ]
    halves = [{"op": "all", "parts": half} for half in (parts[:40], parts[40:]) if half]
    whole = {"op": "all", "parts": halves}
    return questionnaire(page("a", *asked), page("b", OK, shown_when=whole))


def test_a_hostile_condition_ends_undecided_within_its_budget() -> None:
    proof = prove(hostile(9), TODAY, Budget(each=500, whole=3000))
    assert "pages/b" in proof.open
    assert [one.at for one in proof.findings] == []
    assert "finishes/done" in proof.examples


def test_a_small_pigeonhole_is_decided() -> None:
    assert of("page_never", "pages/b", hostile(4)) is not None


def test_what_is_shown_only_while_something_required_is_empty() -> None:
    """It is shown to everybody for a while, so that "not shown to anybody" would not be true."""
    when = {"op": "unanswered", "item": "source"}
    made = questionnaire(page("a", SOURCE, item("yes_no", "ok", shown_when=when)))
    (found,) = prove(made, TODAY).findings
    assert (found.code, found.level) == ("condition_while_empty", "advice")
    assert found.says == (
        "The condition of Ok holds only while Source has no answer yet. That is required on the "
        "same page, so no entry comes with it."
    )
    both = {"op": "all", "parts": [when, is_("source", "own")]}
    made = questionnaire(page("a", SOURCE, item("yes_no", "ok", shown_when=both)))
    assert [one.code for one in prove(made, TODAY).findings] == ["condition_never"]


PICKS = {"required": True, "options": options("own", "mains", "rain")}


def against(relation: str, **more: str) -> dict[str, Any]:
    return {"left": "y", "relation": relation, "message": words("Look again."), **more}


@pytest.mark.parametrize("words_too", [False, True])
def test_two_picks_held_against_each_other_can_differ(words_too: bool) -> None:
    """Options that no condition names are one class for conditions, and not for each other."""
    more = {**PICKS, **({"else_label": words("Other")} if words_too else {})}
    pair = item("pick_one", "x", **more), item("pick_one", "y", **more)
    for relation in ("is", "is_not"):
        check = against(relation, right="x")
        proof = prove(questionnaire(page("a", *pair, checks=[check]), page("b", OK)), TODAY)
        assert proof.findings == ()
        assert proof.open == ()
    carried = item("carried", "x", options=options("own", "mains"), required=True)
    check = against("is_not", right="x")
    made = questionnaire(page("a", carried, pair[1], checks=[check]))
    assert prove(made, TODAY).findings == ()


def test_two_picks_of_each_entry_can_differ() -> None:
    inner = [item("pick_one", "x", **PICKS), item("pick_one", "y", **PICKS)]
    wells = item("roster", "wells", items=inner, fewest=2, checks=[against("is_not", right="x")])
    other = [item("pick_one", "x", **PICKS), item("number", "n", required=True)]
    both = item("roster", "both", items=other, fewest=2, most=2)
    for roster in (wells, both):
        proof = prove(questionnaire(page("a", roster), page("b", OK)), TODAY)
        assert (proof.findings, proof.open) == ((), ())


@pytest.mark.parametrize(("relation", "number"), [("at_least", "2"), ("is", "3"), ("is_not", "1")])
def test_how_many_entries_there_are_against_a_number(relation: str, number: str) -> None:
    """More entries than the fewest are looked at where a check tells them apart."""
    wells = item("roster", "y", items=[item("yes_no", "deep")], most=5)
    rule = skip({"op": "entry_count", "item": "y", "at_least": 1}, to_finish("many"))
    made = questionnaire(
        page("a", wells, skips=[rule], checks=[against(relation, number=number)]),
        page("b", OK),
        finishes=("done", "many"),
    )
    assert prove(made, TODAY).findings == ()


@pytest.mark.parametrize(
    ("more", "empty"),
    [
        ({"shown": "locked"}, True),
        ({"shown": "locked", "required": True, "when_wrong": "refuse"}, False),
        ({"shown": "locked", "when_wrong": "ask"}, False),
        ({"when_wrong": "ask"}, True),
        ({"shown": "changeable"}, False),
    ],
)
def test_a_carried_value_is_seen_where_it_came_or_is_asked_for(
    more: dict[str, Any], empty: bool
) -> None:
    """A page of nothing else is empty where it did not come, or, asked for only then, where it
    did."""
    route = item("carried", "route", options=options("x"), **more)
    plan = compile_plan(questionnaire(page("a", item("yes_no", "q")), page("b", route)))
    encoding = encode(plan, TODAY)
    prover = Prover(plan, encoding, TODAY, Budget())
    found = search(encoding, prover).verdicts["empty", "pages/b"]
    prover.close()
    assert found == ("happens" if empty else "never")
