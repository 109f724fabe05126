"""The proof held against walks through questionnaires of every kind, relation and operator."""

from collections import Counter
from functools import cache
from typing import get_args

import pytest

from jotgate.core.conditions.condition import Entries, EntryCount, leaves
from jotgate.core.conditions.cross_checks import CrossCheck, Relation
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Roster, with_inside
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.search import Budget, Found, Prover, search
from jotgate.core.proof.subjects import conditions_of
from jotgate.core.walking.plan import Plan, compile_plan
from tests.core.proof.enumerated import Goals, TooMany, happens, walks
from tests.core.proof.test_brute_force import again
from tests.core.proof.wide import wide
from tests.documents import TODAY

MOST = 300
PER_TURN = 120
TURNS = range(4)


def proved(plan: Plan) -> Found:
    encoding = encode(plan, TODAY)
    prover = Prover(plan, encoding, TODAY, Budget())
    found = search(encoding, prover)
    prover.close()
    return found


def walked(plan: Plan) -> Goals:
    """All that happens in walks through it, as many as are worth the time."""
    true: Goals = set()
    try:
        for one in walks(plan, MOST):
            true |= happens(plan, one)
    except TooMany:
        pass
    return true


def judged(seed: int) -> tuple[list[str], Counter[str]]:
    """Verdicts that are not so, and how many there are of each.

    Of what happens the run is given once more; of what does not, no walk may come to it.
    """
    plan = compile_plan(wide(seed))
    found = proved(plan)
    true = walked(plan)
    again_by_run = [again(plan, run) for run in found.runs]
    wrong = []
    for goal, verdict in found.verdicts.items():
        if verdict == "never" and goal in true:
            wrong.append(f"seed {seed}, {goal}: never, and it happens")
        if verdict == "happens" and goal not in again_by_run[found.witness[goal]]:
            wrong.append(f"seed {seed}, {goal}: happens, and its run does not come to it")
    return wrong, Counter(found.verdicts.values())


@cache
def turn(number: int) -> tuple[list[str], Counter[str]]:
    wrong: list[str] = []
    verdicts: Counter[str] = Counter()
    for seed in range(number * PER_TURN, (number + 1) * PER_TURN):
        lines, counted = judged(seed)
        wrong += lines
        verdicts += counted
    return wrong, verdicts


@pytest.mark.parametrize("number", TURNS)
def test_nothing_is_never_that_happens_and_nearly_all_is_decided(number: int) -> None:
    wrong, verdicts = turn(number)
    assert wrong == []
    assert verdicts["open"] < 0.01 * verdicts.total()


def checks_of(document: Questionnaire) -> list[CrossCheck]:
    rosters = [one for one in document.items() if isinstance(one, Roster)]
    held = [*(page.checks for page in document.pages), *(one.checks for one in rosters)]
    return [check for checks in held for check in checks]


def operators_of(document: Questionnaire) -> Counter[str]:
    found: Counter[str] = Counter()
    for when in [*(one.when for one in conditions_of(document)), *(s.when for s in document.saved)]:
        text = when.model_dump_json()
        for op in ("all", "any", "not"):
            found[op] += text.count(f'"op":"{op}"')
        for leaf in leaves(when):
            found[leaf.op] += 1
            if isinstance(leaf, Entries | EntryCount):
                found.update(inner.op for inner in leaves(leaf.where))
    return found


def test_every_kind_relation_and_operator_is_among_them_in_number() -> None:
    documents = [wide(seed) for seed in range(len(TURNS) * PER_TURN)]
    kinds = Counter[str](one.kind for made in documents for one in with_inside(tuple(made.items())))
    operators = sum((operators_of(made) for made in documents), Counter())
    relations = Counter(check.relation for made in documents for check in checks_of(made))
    between = Counter(check.right is not None for made in documents for check in checks_of(made))
    shown = {"picture", "video"}
    assert {one for one in EVERY_KIND - shown if kinds[one] < 20} == set()
    assert {one for one in EVERY_OPERATOR if operators[one] < 20} == set()
    assert {one for one in get_args(Relation) if relations[one] < 20} == set()
    assert min(between.values()) > 50
    carried = [one for made in documents for one in made.items() if isinstance(one, Carried)]
    ways = Counter[str](f"{one.shown} {one.when_wrong}" for one in carried)
    ways.update("constant" for one in carried if one.sources[0].kind == "constant")
    assert len(ways) == 7
    assert min(ways.values()) >= 20, ways


def _tags(union: object, member: str) -> set[str]:
    models = list(get_args(get_args(union)[0]))
    return {tag for one in models for tag in get_args(one.model_fields[member].annotation)}


from jotgate.core.conditions.condition import Condition  # noqa: E402
from jotgate.core.items import Carried, Item  # noqa: E402

pytestmark = pytest.mark.long

EVERY_KIND = _tags(Item, "kind")
EVERY_OPERATOR = _tags(Condition, "op")
