"""Walk-throughs: a few runs that together take every branch and reach every finish."""

from collections.abc import Iterable

from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.runs import Run
from jotgate.core.proof.search import Found, Prover, keep

BRANCHES = frozenset({"page", "item", "true", "false", "fires", "straight", "finish"})
"""What walk-throughs have to take: both sides of every condition, every rule and finish."""

LEAST_SHARE = 400
"""Branches that are tried to be added to one walk-through, the rarest first."""


def branches(found: Found) -> set[Goal]:
    """Every branch that can be taken."""
    return {
        goal
        for goal, verdict in found.verdicts.items()
        if verdict == "happens" and goal[0] in BRANCHES
    }


def cover(found: Found, encoding: Encoding, prover: Prover) -> list[Run]:
    """Runs that take every branch, each to a finish where it can: close to as few as possible.

    Each begins with the branch that fewest runs take, and takes as many others along as go
    with it.
    """
    left = branches(found)
    runs = list(found.runs)
    chosen: list[Run] = []
    while left:
        taken = {goal: sum(goal in one.reached for one in runs) for goal in left}
        order = sorted(left, key=lambda goal: (taken[goal], goal))
        better = _along(order, encoding, prover)
        if better is not None:
            runs.append(better)
            keep(found, better, encoding.goals)
        best = max(runs, key=lambda one: (len(one.reached & left), one.finish is not None))
        chosen.append(best)
        left -= best.reached
    return _needed(chosen, branches(found))


def _along(order: list[Goal], encoding: Encoding, prover: Prover) -> Run | None:
    """A run that takes the first branch of `order`, and as many of the others as it can."""
    wanted = [encoding.goals[order[0]], encoding.closed]
    if prover.solve(wanted) is not True:
        return None
    for goal in order[1:LEAST_SHARE]:
        more = [*wanted, encoding.goals[goal]]
        if prover.fits(more) and prover.solve(more) is True:
            wanted = more
    return prover.run() if prover.solve(wanted) is True else None


def _needed(chosen: Iterable[Run], wanted: set[Goal]) -> list[Run]:
    """`chosen` without those that take no branch of their own, the longest last to go."""
    kept = list(chosen)
    for one in sorted(kept, key=lambda run: len(run.reached & wanted)):
        others = [other for other in kept if other is not one]
        if wanted <= set().union(*(other.reached for other in others)):
            kept = others
    return sorted(kept, key=lambda run: run.pages)
