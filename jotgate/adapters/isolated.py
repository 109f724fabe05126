"""Processes of our own for heavy work; one that takes too much time or memory is ended."""

import asyncio
import multiprocessing
import resource
import signal
from collections.abc import Callable
from importlib import import_module
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from jotgate.collecting import leave_what_is_there
from jotgate.core.common.errors import Away
from jotgate.ports.isolated import TookTooLong

T = TypeVar("T")


STARTING = 60.0
"""Seconds that a process may take to start, on a machine with much to do."""

BUSY = "There is much to do here just now. Try again in a moment."


def _serve(asked: Connection, megabytes: int, module: str) -> None:
    """Answer what is asked until nobody asks any more."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (megabytes << 20, megabytes << 20))
    import_module(module)
    leave_what_is_there()
    asked.send(None)
    while True:
        try:
            task, args = asked.recv()
        except EOFError:
            return
        try:
            asked.send((True, task(*args)))
        except MemoryError:
            asked.send((False, TookTooLong()))
        except Exception as error:
            asked.send((False, error))


class _Worker:
    """One process, started when it is first needed, and anew after it was ended. Its start does
    not count as work."""

    def __init__(self, megabytes: int) -> None:
        self._megabytes = megabytes
        self._process: Any = None
        self._asked: Connection | None = None

    def answer(self, task: Callable[..., Any], args: tuple[Any, ...], seconds: float) -> Any:
        if self._process is None or not self._process.is_alive():
            self._start(task.__module__)
        assert self._asked is not None
        try:
            self._asked.send((task, args))
            if not self._asked.poll(seconds):
                raise TookTooLong
            well, found = self._asked.recv()
        except (EOFError, OSError, TookTooLong):
            self.end()
            raise TookTooLong from None
        if not well:
            raise found
        return found

    def _start(self, module: str) -> None:
        """Start it with what `module` imports. Raises Away."""
        context = multiprocessing.get_context("spawn")
        self._asked, other = context.Pipe()
        self._process = context.Process(
            target=_serve, args=(other, self._megabytes, module), daemon=True
        )
        self._process.start()
        other.close()
        try:
            ready = self._asked.poll(STARTING)
            if ready:
                self._asked.recv()
        except (EOFError, OSError):
            ready = False
        if not ready:
            self.end()
            raise Away(BUSY)

    def end(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.join()
        self._process = None


class OwnProcesses:
    """`size` processes; each piece of work may take `seconds` and `megabytes` of memory.

    What waits for its turn for longer than that is not begun.
    """

    def __init__(self, size: int, seconds: float, megabytes: int) -> None:
        self.seconds = seconds
        self._every = [_Worker(megabytes) for _ in range(size)]
        self._free = list(self._every)
        self._turns = asyncio.Semaphore(size)

    async def run(self, task: Callable[..., T], *args: object) -> T:
        try:
            await asyncio.wait_for(self._turns.acquire(), self.seconds)
        except TimeoutError:
            raise Away(BUSY) from None
        worker = self._free.pop()
        working = asyncio.ensure_future(asyncio.to_thread(worker.answer, task, args, self.seconds))
        working.add_done_callback(lambda _: self._give_back(worker))
        found: T = await asyncio.shield(working)
        return found

    def _give_back(self, worker: _Worker) -> None:
        self._free.append(worker)
        self._turns.release()

    def close(self) -> None:
        for worker in self._every:
            worker.end()
