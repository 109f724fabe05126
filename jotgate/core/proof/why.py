"""Which statements make something impossible: a smallest set of conditions and checks."""

from functools import cached_property

from jotgate.core.plan import Plan
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.search import Budget, Prover
from jotgate.core.today import Today


class Why:
    """Asks again with every condition apart, so that each can be set aside."""

    def __init__(self, plan: Plan, today: Today, budget: Budget) -> None:
        self._plan, self._today, self._budget = plan, today, budget

    @cached_property
    def _encoding(self) -> Encoding:
        return encode(self._plan, self._today, apart=True)

    @cached_property
    def _prover(self) -> Prover:
        return Prover(self._plan, self._encoding, self._today, self._budget)

    @cached_property
    def _places(self) -> dict[int, str]:
        return {literal: at for at, literal in self._encoding.sources.items()}

    def never(self, goal: Goal) -> tuple[str, ...]:
        """The places of conditions and checks that together keep `goal` from happening.

        None of them could be left out; empty where it took too long to tell.
        """
        literal = self._encoding.goals[goal]
        kept = self._prover.core(literal, list(self._places)) or []
        for one in list(kept):
            if one in kept:
                smaller = self._prover.core(literal, [other for other in kept if other != one])
                kept = kept if smaller is None else smaller
        order = list(self._places)
        return tuple(self._places[one] for one in sorted(kept, key=order.index))
