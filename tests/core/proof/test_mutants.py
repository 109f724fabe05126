"""Deliberate mistakes, one at a time: each is caught by holding the proof against every walk."""

from functools import cache
from types import ModuleType

import pytest

from jotgate.core.walking.plan import Plan, compile_plan
from tests.core.proof.branching import branching
from tests.core.proof.enumerated import Goals, TooMany, happens, walks
from tests.core.proof.mutated import mutated
from tests.documents import TODAY

pytestmark = pytest.mark.long

PARTS = (
    "gates",
    "cells",
    "subjects",
    "answers",
    "statements",
    "crossing",
    "computing",
    "asking",
    "encoding",
)
"""The modules of the proof, each before those that import it."""

ORDER = (*PARTS, "reached", "runs", "search")

MUTANTS = [
    ("gates", "self.clauses.append([known, *(-part for part in key)])", "pass"),
    ("gates", "self.clauses += [[-known, part] for part in key]", "pass"),
    ("gates", "self.clauses += [[-one, -other] for one, other in combinations(parts, 2)]", "pass"),
    ("gates", "for n in range(1, most + 1)", "for n in range(1, most)"),
    (
        "cells",
        "below = whole_steps(number, start, unit)",
        "below = whole_steps(number, start, unit) + 4",
    ),
    ("cells", "yield from range(item.low, item.high + 1)", "yield from range(item.low, item.high)"),
    ("answers", "stuck = FALSE if each else gates.both(active, must)", "stuck = FALSE"),
    ("answers", "if must == TRUE and stuck == FALSE:", "if stuck == FALSE:"),
    ("answers", "gates.some((-answered, active))", "pass"),
    ("answers", "gates.some((-picked, offered))", "pass"),
    ("answers", "spare = code not in wanted and code not in shown", "spare = code not in shown"),
    ("answers", "gates.never(lonely, literal)", "pass"),
    ("answers", "if most < len(counted):", "if most + 1 < len(counted):"),
    ("answers", "needed = fewest - spare", "needed = fewest - spare - 1"),
    ("statements", "return -answer.answered", "return answer.answered"),
    ("statements", 'if leaf.op == "any_entry":', 'if leaf.op == "every_entry":'),
    ("statements", "return gates.both(answer.answered, counts[low], -over)", "return counts[low]"),
    (
        "statements",
        "return -statement(gates, condition.part",
        "return statement(gates, condition.part",
    ),
    ("crossing", "elif broken(check, {check.left: value}, today):", "elif False:"),
    ("crossing", "-counts[n + 1]), (", "counts[n]), ("),
    ("encoding", "passed = gates.both(arrive, -holds)", "passed = FALSE"),
    ("encoding", "visit = gates.both(arrive, holds)", "visit = arrive"),
    ("encoding", "still = self.gates.both(still, -holds)", "pass"),
    (
        "encoding",
        "leave = gates.both(visit, *(-one for one in [*stuck, *broken]))",
        "leave = visit",
    ),
    ("encoding", "arrive = self.gates.either(", "arrive = self.gates.both("),
    ("encoding", "self.arrivals[self.plan.page_numbers[skip.to.page]]", "self.arrivals[99]"),
    ("encoding", "active = self.gates.both(visit, holds)", "active = holds"),
    (
        "asking",
        "given = active if number < item.fewest else self.gates.fresh()",
        "given = self.gates.fresh()",
    ),
    ("asking", "wanted = min(item.most, max(item.fewest, 1) + useful)", "wanted = 1"),
    ("encoding", "broken.append(", "print("),
    ("asking", "        return holds\n", "        return FALSE\n"),
    ("computing", "else (total or Decimal(0)) + adds", "else adds"),
    ("computing", "before.append(-answer.answered)", "before.append(answer.answered)"),
    ("computing", "(answer.answered, Decimal(0))", "(answer.answered, None)"),
    ("computing", "points.get(code, Decimal(0))", "Decimal(0)"),
    ("computing", "for near in range(floor(number) - 1, ceil(number) + 2)", "for near in ()"),
    ("computing", "subjects.codes[key] |= set(formula.points[key])", "pass"),
    ("computing", "given = [(gates.both(active, literal)", "given = [(gates.both(literal)"),
    ("computing", "subjects.numbers[key] += every", "subjects.numbers[key] += every[:1]"),
    ("computing", "if len(ways) > MOST_TOTALS:", "if len(ways) > 1:"),
]


@cache
def every(computes: float) -> tuple[tuple[Plan, Goals], ...]:
    found = []
    for seed in range(220 if not computes else 600):
        plan = compile_plan(branching(seed, computes))
        try:
            walked = [happens(plan, one) for one in walks(plan, 150)]
        except TooMany:
            continue
        found.append((plan, set().union(*walked)))
    return tuple(found)


def wrong(modules: dict[str, ModuleType], computes: float) -> int:
    """In how many questionnaires, up to the first, a verdict is not what every walk says."""
    for plan, true in every(computes):
        try:
            encoding = modules["encoding"].encode(plan, TODAY)
            budget = modules["search"].Budget()
            prover = modules["search"].Prover(plan, encoding, TODAY, budget)
            verdicts = modules["search"].search(encoding, prover).verdicts
        except (ArithmeticError, LookupError, NameError, TypeError, ValueError):
            return 1
        for goal, verdict in verdicts.items():
            if verdict != ("happens" if goal in true else "never"):
                return 1
    return 0


def test_without_a_mistake_nothing_is_wrong() -> None:
    for computes in (0.0, 0.9):
        assert len(every(computes)) > 120
        with mutated(ORDER, "gates", "", "") as modules:
            assert wrong(modules, computes) == 0


@pytest.mark.parametrize(("part", "old", "new"), MUTANTS, ids=range(len(MUTANTS)))
def test_each_mistake_is_caught(part: str, old: str, new: str) -> None:
    with mutated(ORDER, part, old, new) as modules:
        assert wrong(modules, 0.9 if part == "computing" else 0.0) == 1
