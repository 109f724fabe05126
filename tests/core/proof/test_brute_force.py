"""The proof held against every walk that there is, in a thousand small questionnaires."""

from functools import cache

import pytest

from jotgate.core.proof import Run, prove, walk_throughs
from jotgate.core.proof.cover import BRANCHES
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.search import Budget, Prover, search
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan, compile_plan
from tests.core.proof.branching import branching
from tests.core.proof.enumerated import Goals, TooMany, happens, walks
from tests.documents import TODAY

pytestmark = pytest.mark.long

MOST = 120
"""Walks of one questionnaire; one that has more is passed over."""

PER_TURN = 155
TURNS = range(10)


@cache
def true_of(seed: int) -> tuple[Plan, Goals] | None:
    """A questionnaire, and all that happens in it; None where that is too much."""
    plan = compile_plan(branching(seed))
    try:
        return plan, {goal for one in walks(plan, MOST) for goal in happens(plan, one)}
    except TooMany:
        return None


def disagreements(seed: int) -> list[str] | None:
    """Verdicts that are not what every walk says."""
    known = true_of(seed)
    if known is None:
        return None
    plan, true = known
    encoding = encode(plan, TODAY)
    prover = Prover(plan, encoding, TODAY, Budget())
    found = search(encoding, prover)
    prover.close()
    return [
        f"seed {seed}, {goal}: {verdict}, and by hand {goal in true}"
        for goal, verdict in found.verdicts.items()
        if verdict != ("happens" if goal in true else "never")
    ]


def again(plan: Plan, run: Run) -> Goals:
    """What happens when the answers of a run are given once more; its claims hold."""
    whole = walk(plan, run.answers, run.carried, TODAY)
    failed = [number for number, step in enumerate(whole.steps, start=1) if step.failed]
    steps = whole.steps[: failed[0]] if failed else whole.steps
    assert run.pages == tuple(step.page.key for step in steps)
    assert run.finish == (None if failed else whole.finish.key)
    return happens(plan, whole)


@pytest.mark.parametrize("turn", TURNS)
def test_every_verdict_is_what_every_walk_says(turn: int) -> None:
    seeds = range(turn * PER_TURN, (turn + 1) * PER_TURN)
    found = [disagreements(seed) for seed in seeds]
    assert sum(one is not None for one in found) >= 95
    assert [line for lines in found for line in lines or ()] == []


@pytest.mark.parametrize("turn", TURNS)
def test_examples_and_walk_throughs_do_what_they_claim(turn: int) -> None:
    for seed in range(turn * PER_TURN, turn * PER_TURN + 40):
        known = true_of(seed)
        if known is None:
            continue
        plan, true = known
        proof = prove(plan.questionnaire, TODAY)
        happening = [again(plan, run) for run in proof.runs]
        for at, number in proof.examples.items():
            assert any(place == at for _, place in happening[number])
        walked = set().union(
            *(again(plan, run) for run in walk_throughs(plan.questionnaire, TODAY))
        )
        assert {goal for goal in true if goal[0] in BRANCHES} <= walked
