"""Proofs in a process of their own, one after the other."""

import time
from dataclasses import replace
from typing import TypeVar

from jotgate.adapters.isolated import OwnProcesses
from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Budget, Proof, Run, prove, walk_throughs
from jotgate.core.proof.routing import RoutingProof, RulesToProve, prove_routing

SECONDS = 30.0
"""How long one proof may take; the largest questionnaire tried takes a sixth of it."""

ENOUGH = 0.6
"""The share of it after which nothing more is tried: what was found until then is told."""

MEGABYTES = 2_000

R = TypeVar("R", bound=Run)


def _light(run: R) -> R:
    return replace(run, reached=frozenset())


def _until(seconds: float) -> Budget:
    return Budget(until=time.monotonic() + seconds * ENOUGH)


def _prove(questionnaire: Questionnaire, today: Today, seconds: float) -> Proof:
    proof = prove(questionnaire, today, _until(seconds))
    return replace(proof, runs=tuple(_light(run) for run in proof.runs))


def _walk_throughs(questionnaire: Questionnaire, today: Today, seconds: float) -> tuple[Run, ...]:
    found = walk_throughs(questionnaire, today, _until(seconds))
    return tuple(_light(run) for run in found)


def _routing(asked: RulesToProve, today: Today, seconds: float) -> RoutingProof:
    proof = prove_routing(asked, today, _until(seconds))
    return replace(proof, runs=tuple(_light(run) for run in proof.runs))


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

    async def routing(self, asked: RulesToProve, today: Today) -> RoutingProof:
        return await self.processes.run(_routing, asked, today, self.processes.seconds)

    def close(self) -> None:
        self.processes.close()
