"""Which statements make something impossible: a smallest set of conditions and checks."""

from functools import cached_property

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import named
from jotgate.core.items import Item
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.places import Places
from jotgate.core.proof.repairs import member_of
from jotgate.core.proof.search import Budget, Prover
from jotgate.core.walking.plan import Plan, compile_plan


def _must(item: Item) -> bool:
    return bool(getattr(item, "required", False) or getattr(item, "required_when", None))


def _optional(item: Item) -> Item:
    return item.model_copy(update={"required": False, "required_when": None})


class Explainer:
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

    def while_empty(self, at: str) -> tuple[str, ...]:
        """What of its own page the condition at `at` can hold for while that has no answer yet,
        though it has to have one; empty where it holds for nobody even then."""
        said = self._plan.questionnaire
        number = self._plan.page_numbers[at.split("/")[1]]
        condition = getattr(Places(said).part(at), member_of(at))
        page = said.pages[number]
        waiting = [one for one in page.items if one.key in named(condition) and _must(one)]
        if not waiting:
            return ()
        loose = [_optional(one) if one in waiting else one for one in page.items]
        relaxed = page.model_copy(update={"items": tuple(loose)})
        pages = (*said.pages[:number], relaxed, *said.pages[number + 1 :])
        plan = compile_plan(said.model_copy(update={"pages": pages}))
        encoding = encode(plan, self._today)
        prover = Prover(plan, encoding, self._today, self._budget)
        found = prover.solve([encoding.goals["true", at]]) and prover.run().reached
        prover.close()
        return tuple(one.key for one in waiting) if found and ("true", at) in found else ()

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
