"""Proving the branching of a questionnaire away from those who answer and write."""

from typing import Protocol

from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Proof, Run
from jotgate.core.proof.routing import RoutingProof, RulesToProve


class Proofs(Protocol):
    async def proof(self, questionnaire: Questionnaire, today: Today) -> Proof:
        """Raises TookTooLong."""
        ...

    async def walk_throughs(self, questionnaire: Questionnaire, today: Today) -> tuple[Run, ...]:
        """Raises TookTooLong."""
        ...

    async def routing(self, asked: RulesToProve, today: Today) -> RoutingProof:
        """Raises TookTooLong."""
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
