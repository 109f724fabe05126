"""Proofs in a process of their own, one after the other."""

import time
from dataclasses import replace

from jotgate.adapters.isolated import OwnProcesses
from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Budget, Proof, Run, prove, walk_throughs

SECONDS = 30.0
"""How long one proof may take; the largest questionnaire tried takes a sixth of it."""

ENOUGH = 0.6
"""The share of it after which nothing more is tried: what was found until then is told."""

MEGABYTES = 2_000


def _light(run: Run) -> Run:
    return replace(run, reached=frozenset())


def _until(seconds: float) -> Budget:
    return Budget(until=time.monotonic() + seconds * ENOUGH)


def _prove(questionnaire: Questionnaire, today: Today, seconds: float) -> Proof:
    proof = prove(questionnaire, today, _until(seconds))
    return replace(proof, runs=tuple(_light(run) for run in proof.runs))


def _walk_throughs(questionnaire: Questionnaire, today: Today, seconds: float) -> tuple[Run, ...]:
    found = walk_throughs(questionnaire, today, _until(seconds))
    return tuple(_light(run) for run in found)


class OwnProcess:
    """`seconds` is how long one proof may take."""

    def __init__(self, seconds: float = SECONDS) -> None:
        self.processes = OwnProcesses(1, seconds, MEGABYTES)

    async def proof(self, questionnaire: Questionnaire, today: Today) -> Proof:
        return await self.processes.run(_prove, questionnaire, today, self.processes.seconds)

    async def walk_throughs(self, questionnaire: Questionnaire, today: Today) -> tuple[Run, ...]:
        return await self.processes.run(
            _walk_throughs, questionnaire, today, self.processes.seconds
        )

    def close(self) -> None:
        self.processes.close()
