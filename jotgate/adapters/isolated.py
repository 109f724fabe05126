"""Processes of our own for heavy work; one that takes too much time or memory is ended."""

import asyncio
import multiprocessing
import resource
import signal
from collections.abc import Callable
from concurrent.futures import Future
from typing import TypeVar

from pebble import ProcessExpired, ProcessPool

from jotgate.collecting import leave_what_is_there
from jotgate.core.common.errors import Unavailable
from jotgate.ports.isolated import TookTooLong

T = TypeVar("T")

STARTING = 60.0
"""Seconds that a process may take to start, on a machine with much to do."""

BUSY = "The service is busy at the moment. Try again shortly."


def _begin(megabytes: int) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (megabytes << 20, megabytes << 20))
    leave_what_is_there()


class OwnProcesses:
    """`size` processes; each piece of work may take `seconds` and `megabytes` of memory, without
    the start of its process. What waits for its turn for longer than that is not begun.
    """

    def __init__(self, size: int, seconds: float, megabytes: int) -> None:
        self.seconds = seconds
        self._turns = asyncio.Semaphore(size)
        self._pool = ProcessPool(
            max_workers=size,
            context=multiprocessing.get_context("spawn"),
            initializer=_begin,
            initargs=(megabytes,),
        )

    async def run(self, task: Callable[..., T], *args: object) -> T:
        try:
            await asyncio.wait_for(self._turns.acquire(), self.seconds)
        except TimeoutError:
            raise Unavailable(BUSY) from None
        loop = asyncio.get_running_loop()
        work: Future[T] = self._pool.submit(task, self.seconds, *args)
        # Whoever asked may wait no longer; the turn is over once the work is.
        work.add_done_callback(lambda _: self._give_back(loop))
        working = asyncio.shield(asyncio.wrap_future(work))
        try:
            return await asyncio.wait_for(working, self.seconds + STARTING)
        except TimeoutError:
            if work.done():
                raise TookTooLong from None
            work.cancel()
            raise Unavailable(BUSY) from None
        except (ProcessExpired, MemoryError):
            raise TookTooLong from None

    def _give_back(self, loop: asyncio.AbstractEventLoop) -> None:
        if not loop.is_closed():
            loop.call_soon_threadsafe(self._turns.release)

    def close(self) -> None:
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()
