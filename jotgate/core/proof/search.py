"""What can happen in a questionnaire and what cannot, each with a run or a refutation.

What happens is found by walking; what cannot happen, by a solver that finds no way. Where it
gives up, and where a run does not do what was hoped of it, nothing is decided.
"""

import math
import time
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from random import Random
from typing import Literal

from pysat.solvers import Solver

from jotgate.core.common.today import Today
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.gates import FALSE, TRUE
from jotgate.core.proof.runs import Run, run, run_of
from jotgate.core.walking.made_up import MadeUp
from jotgate.core.walking.plan import Plan

TRIES = 40
"""Walks by chance, for what the solver could not decide."""

MANY_GOALS, MOST_CHANCES, WORTH_IT = 2_000, 150, 10
"""From so many goals on, so many walks by chance at most go first, each for so many new goals."""

ROUNDS = (20, 200, 2_000)
"""Conflicts that the solver may come to for one goal, round by round."""

Verdict = Literal["happens", "never", "open"]


@dataclass(frozen=True)
class Budget:
    """Conflicts that the solver may come to, for one goal and for all of them.

    From the moment `until` on (of the system's monotonic clock, in seconds) nothing more is tried.
    """

    each: int = 2_000
    whole: int = 60_000
    until: float = math.inf


@dataclass
class Found:
    """`verdicts` by goal, `runs` that were walked, and for each goal that happens one of them."""

    verdicts: dict[Goal, Verdict] = field(default_factory=dict)
    runs: list[Run] = field(default_factory=list)
    witness: dict[Goal, int] = field(default_factory=dict)


class Prover:
    """A solver that holds the statements of one questionnaire."""

    def __init__(self, plan: Plan, encoding: Encoding, today: Today, budget: Budget) -> None:
        self._plan, self._encoding, self._today, self._budget = plan, encoding, today, budget
        self._solver = Solver(name="minisat22", bootstrap_with=encoding.gates.clauses)
        self._spent = 0
        self.each = budget.each

    @property
    def is_late(self) -> bool:
        return time.monotonic() > self._budget.until

    def close(self) -> None:
        self._solver.delete()

    def solve(self, wanted: Iterable[int], most: int | None = None) -> bool | None:
        """Whether there is a way; None where that took over `most` conflicts, or too long."""
        left = self._budget.whole - self._spent
        if self.is_late or (most is None and left <= 0):
            return None
        self._solver.conf_budget(min(most or self._budget.each, max(left, 1)))
        before = self._solver.accum_stats()["conflicts"]
        answer: bool | None = self._solver.solve_limited(assumptions=list(wanted))
        self._spent += self._solver.accum_stats()["conflicts"] - before
        return answer

    def fits(self, wanted: list[int]) -> bool:
        """Whether nothing speaks against `wanted` at first sight."""
        sound: bool = self._solver.propagate(assumptions=wanted)[0]
        return sound

    def core(self, literal: int, kept: list[int]) -> list[int] | None:
        """Those of `kept` that keep `literal` from being true; None where they may not do."""
        if self.solve([literal, *kept]) is not False:
            return None
        core = set(self._solver.get_core() or ())
        return [one for one in kept if one in core]

    def never(self, literal: int) -> None:
        self._solver.add_clause([-literal])

    def chance(self, seed: int) -> Run:
        """A walk with made-up answers."""
        made = MadeUp(self._plan, {}, self._today, Random(seed))
        return run_of(self._plan, made, {}, self._today)

    def run(self) -> Run:
        """The run of the way that was just found, walked for real."""
        model = self._solver.get_model()
        true = {literal for literal in model if literal > 0}
        return run(
            self._plan,
            self._encoding,
            lambda literal: literal in true if literal > 0 else -literal not in true,
            self._today,
        )


def search(encoding: Encoding, prover: Prover) -> Found:
    """A verdict on every goal, the deepest first: one run reaches much on its way.

    All are tried with little effort before any gets more, so that a few which are hard do not
    take from those that are easy.
    """
    found = Found()
    if len(encoding.goals) > MANY_GOALS:
        _by_chance(found, encoding, prover)
    for most in sorted({min(most, prover.each) for most in ROUNDS}):
        for goal in reversed(encoding.goals):
            if found.verdicts.get(goal, "open") == "open":
                found.verdicts[goal] = _verdict(goal, encoding, prover, found, most)
    if "open" in found.verdicts.values():
        for seed in range(0 if prover.is_late else TRIES):
            keep(found, prover.chance(seed), encoding.goals)
    return found


def _by_chance(found: Found, encoding: Encoding, prover: Prover) -> None:
    """Walks with made-up answers, as long as each comes upon much that no other did."""
    for seed in range(TRIES, TRIES + MOST_CHANCES):
        new = keep(found, prover.chance(seed), encoding.goals)
        if len(new) < WORTH_IT or prover.is_late:
            return


def _verdict(goal: Goal, encoding: Encoding, prover: Prover, found: Found, most: int) -> Verdict:
    literal = encoding.goals[goal]
    if literal == FALSE:
        return "never"
    answer: bool | None = None
    for assumed in dict.fromkeys((encoding.closed, TRUE)):
        answer = prover.solve([literal, assumed], most)
        if answer is None:
            return "open"
        if answer:
            keep(found, prover.run(), encoding.goals)
            if goal in found.witness:
                return "happens"
    if answer:
        return "open"
    prover.never(literal)
    return "never"


def keep(found: Found, one: Run, goals: Mapping[Goal, int]) -> list[Goal]:
    """Take in a run, if it reaches something for the first time: what that is."""
    new = [goal for goal in one.reached if goal in goals and goal not in found.witness]
    if new:
        for goal in new:
            found.witness[goal] = len(found.runs)
            found.verdicts[goal] = "happens"
        found.runs.append(one)
    return new
