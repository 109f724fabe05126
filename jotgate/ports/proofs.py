"""Proving the branching of a questionnaire away from those who answer and write."""

from typing import Protocol

from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Proof, Run


class Proofs(Protocol):
    async def proof(self, questionnaire: Questionnaire, today: Today) -> Proof:
        """Raises TookTooLong."""
        ...

    async def walk_throughs(self, questionnaire: Questionnaire, today: Today) -> tuple[Run, ...]:
        """Raises TookTooLong."""
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
