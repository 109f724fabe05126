"""Proofs in a process of their own, one after the other; it is ended where one takes too long."""

import asyncio
import multiprocessing
import signal
from collections.abc import Callable
from dataclasses import replace
from multiprocessing.connection import Connection
from typing import Any

from jotgate.core.proof import Proof, Run, prove, walk_throughs
from jotgate.core.questionnaire import Questionnaire
from jotgate.core.today import Today
from jotgate.ports.proofs import TookTooLong

SECONDS = 30.0
"""How long one proof may take; the largest questionnaire tried takes a sixth of it."""


def _light(run: Run) -> Run:
    return replace(run, reached=frozenset())


def _prove(questionnaire: Questionnaire, today: Today) -> Proof:
    proof = prove(questionnaire, today)
    return replace(proof, runs=tuple(_light(run) for run in proof.runs))


def _walk_throughs(questionnaire: Questionnaire, today: Today) -> tuple[Run, ...]:
    return tuple(_light(run) for run in walk_throughs(questionnaire, today))


def _serve(asked: Connection) -> None:
    """Answer what is asked until nobody asks any more."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    while True:
        try:
            task, args = asked.recv()
        except EOFError:
            return
        try:
            asked.send((True, task(*args)))
        except Exception as error:
            asked.send((False, error))


class OwnProcess:
    """`seconds` is how long one proof may take."""

    def __init__(self, seconds: float = SECONDS) -> None:
        self._seconds = seconds
        self._lock = asyncio.Lock()
        self._process: Any = None
        self._asked: Connection | None = None

    async def proof(self, questionnaire: Questionnaire, today: Today) -> Proof:
        found: Proof = await self._ask(_prove, questionnaire, today)
        return found

    async def walk_throughs(self, questionnaire: Questionnaire, today: Today) -> tuple[Run, ...]:
        found: tuple[Run, ...] = await self._ask(_walk_throughs, questionnaire, today)
        return found

    async def _ask(self, task: Callable[..., Any], *args: Any) -> Any:
        async with self._lock:
            try:
                return await asyncio.to_thread(self._answer, task, args)
            except (EOFError, OSError):
                self._end()
                raise TookTooLong from None

    def _answer(self, task: Callable[..., Any], args: tuple[Any, ...]) -> Any:
        if self._process is None or not self._process.is_alive():
            self._start()
        assert self._asked is not None
        self._asked.send((task, args))
        if not self._asked.poll(self._seconds):
            self._end()
            raise TookTooLong
        well, found = self._asked.recv()
        if not well:
            raise found
        return found

    def _start(self) -> None:
        context = multiprocessing.get_context("spawn")
        self._asked, other = context.Pipe()
        self._process = context.Process(target=_serve, args=(other,), daemon=True)
        self._process.start()
        other.close()

    def _end(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.join()
        self._process = None

    def close(self) -> None:
        self._end()
