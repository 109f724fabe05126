"""The proof of routing held against every entry there can be, in a thousand small questionnaires
with rules; and with a deliberate mistake in it, which that catches."""

import sys
from collections import Counter
from functools import cache
from types import ModuleType

import pytest

import jotgate.core.proof as proof
from jotgate.core.proof.routing import Routing
from jotgate.core.proof.search import Budget, search
from tests.core.proof.enumerated import Goals, TooMany
from tests.core.proof.mutated import mutated
from tests.core.proof.routed import entries, happens, routed
from tests.documents import TODAY

pytestmark = pytest.mark.long

MOST, PER_TURN = 120, 150
TURNS = range(10)
PARTS = ("routing.taken", "routing.encoding", "routing.happening")

MUTANTS = [
    ("encoding", "self.entry = self.gates.either(*finishes.values())", "self.entry = TRUE"),
    ("encoding", "free = gates.both(free, -holds)", "pass"),
    ("encoding", "acts = gates.both(free, holds) if rule.catches else holds", "acts = holds"),
    (
        "encoding",
        "acts = gates.both(free, holds) if rule.catches else holds",
        "acts = gates.both(free, holds)",
    ),
    (
        "encoding",
        "            if rule.catches:\n                free",
        "            if True:\n                free",
    ),
    ("encoding", "before = [(self.gates.both(one, -is_set), cell)", "before = [(one, cell)"),
    (
        "encoding",
        "answered = self.gates.either(is_set, self",
        "answered = self.gates.both(is_set, self",
    ),
    ("encoding", "{**self.made.answers, **self._set(finishes)}", "dict(self.made.answers)"),
    ("encoding", 'MAY_LACK = frozenset({"entry.link", "entry.entered"})', "MAY_LACK = frozenset()"),
    ("encoding", "must = FALSE if name in MAY_LACK else TRUE", "must = FALSE"),
    ("encoding", "number = Decimal(self.routing.edition)", "number = Decimal(1)"),
    ("encoding", "Cells((Cell(True, True), Cell(False, False)))", "Cells((Cell(True, True),))"),
    ("encoding", "for one in item.options))", "for one in item.options[1:]))"),
    ("encoding", "gates.both(free, *others)", "free"),
    ("encoding", "gates.both(comes, -free)", "gates.both(comes, free)"),
    (
        "encoding",
        "lacks = -has\n            if key",
        "lacks = TRUE\n            if key",
    ),
    (
        "encoding",
        "lacks = [gates.both(given, -a.answered)",
        "lacks = [gates.both(given, a.answered)",
    ),
    ("taken", "if not slot.otherwise", ""),
    ("happening", 'if one in ("acted", "caught")', 'if one in ("caught",)'),
    ("happening", "to_keep(plan, whole).items()", "whole.kept.items()"),
    ("happening", '"filled" if is_there else "empty"', '"filled"'),
]


def verdicts(routing: Routing, modules: dict[str, ModuleType]) -> dict[tuple[str, str], str]:
    encoding = modules["routing.encoding"].encode_routing(routing, TODAY)
    prover = modules["routing.happening"].RoutingProver(routing, encoding, TODAY, Budget())
    found = search(encoding, prover)
    prover.close()
    return dict(found.verdicts)


def parts() -> dict[str, ModuleType]:
    return {name: sys.modules[f"{proof.__name__}.{name}"] for name in PARTS}


def true_of(routing: Routing) -> Goals | None:
    """All that happens in it; None where that is too much."""
    try:
        return {goal for one in entries(routing, MOST) for goal in happens(routing, one)}
    except TooMany:
        return None


@pytest.mark.parametrize("turn", TURNS)
def test_every_verdict_is_what_every_entry_says(turn: int) -> None:
    told: Counter[tuple[str, str]] = Counter()
    looked_at = 0
    for seed in range(turn * PER_TURN, (turn + 1) * PER_TURN):
        routing = routed(seed)
        true = true_of(routing)
        if true is None:
            continue
        looked_at += 1
        for goal, verdict in verdicts(routing, parts()).items():
            assert verdict == ("happens" if goal in true else "never"), (seed, goal)
            told[goal[0], verdict] += 1
    assert looked_at >= 95
    often = ("holds", "acts", "nothing", "filled", "empty")
    assert all(told[kind, one] for kind in often for one in ("happens", "never")), told
    assert all(told[kind, "happens"] for kind in ("comes", "caught")), told


@cache
def every() -> tuple[tuple[int, Goals], ...]:
    found = ((seed, true_of(routed(seed))) for seed in range(160))
    return tuple((seed, true) for seed, true in found if true is not None)


def is_caught(modules: dict[str, ModuleType]) -> bool:
    for seed, true in every():
        made = routed(seed)
        routing = modules["routing.encoding"].Routing(
            made.plan, made.edition, made.dispatch, made.facts
        )
        try:
            found = verdicts(routing, modules)
        except (ArithmeticError, LookupError, NameError, TypeError, ValueError):
            return True
        if any(one != ("happens" if goal in true else "never") for goal, one in found.items()):
            return True
    return False


def test_without_a_mistake_nothing_is_wrong() -> None:
    assert len(every()) > 100
    with mutated(PARTS, "routing.encoding", "", "") as modules:
        assert not is_caught(modules)


@pytest.mark.parametrize(("part", "old", "new"), MUTANTS, ids=range(len(MUTANTS)))
def test_each_mistake_is_caught(part: str, old: str, new: str) -> None:
    with mutated(PARTS, f"routing.{part}", old, new) as modules:
        assert is_caught(modules)
