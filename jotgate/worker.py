"""The worker process: does what submissions have deferred, and what dead workers left."""

import asyncio
import signal
import time
from collections.abc import Awaitable, Callable
from contextlib import suppress
from functools import partial

import structlog

from jotgate.adapters.queue import queue_app
from jotgate.jobs import tasks
from jotgate.logs import kind_of
from jotgate.services.context import Context
from jotgate.services.watching_gates import watch_gates
from jotgate.settings import Settings
from jotgate.wiring import build_context

log = structlog.get_logger("jotgate.worker")

JOBS_AGAIN = 0.25
"""Seconds between two looks for jobs: those who ask for one do not say so, since that would have
all submissions wait for each other."""

SENDERS = 3
"""Notices that are sent at once, and calls: each holds a connection to the database meanwhile."""

LOOK_AGAIN = 5.0
"""Seconds between two looks for jobs of dead workers."""

STEADY = 10.0
"""Seconds of work after which a failure counts as the first one again."""

LETTERS_AGAIN = 0.5
"""Seconds between two looks for letters to contacts that are due."""

ROUNDS_AGAIN = 1.0
"""Seconds between two looks for steps of rounds whose moment has come."""

GATES_AGAIN = 1.0
"""Seconds between two looks for places that are held no more, or are free for who waits."""

ENTRIES_AGAIN = 0.5
"""Seconds between two looks for entries that tables do not know yet."""

KEPT_AGAIN = 600.0
"""Seconds between two looks for entries that have been kept for long enough."""

ERASED_AGAIN = 2.0
"""Seconds between two looks for what was erased, whose keys are to be destroyed."""

WATCHED_AGAIN = 10.0
"""Seconds between two looks whether somebody wants to be told of a gate: each is asked for."""

CLEAR_AGAIN = 3600.0
"""Seconds between two looks for what was started long ago and never sent."""


async def every(
    seconds: float, done: str, look: Callable[[], Awaitable[int]], usual: bool = False
) -> None:
    """Look again and again; a look that fails, since the database is away, is no reason to end.
    What is `usual` is not told."""
    while True:
        try:
            found = await look()
        except Exception as error:
            log.warning("could not look", what=done, kind=kind_of(error))
        else:
            if found and not usual:
                log.warning(done, count=found)
        await asyncio.sleep(seconds)


PAUSES = (0.5, 1.0, 2.0, 5.0)
"""Seconds to wait before the queue is opened again, the first time, the second time, …"""


async def work(settings: Settings, concurrency: int = 4) -> None:
    """Work until told to stop by SIGINT or SIGTERM; a database that is away is waited for."""
    stop = asyncio.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        asyncio.get_running_loop().add_signal_handler(number, stop.set)
    context = build_context(settings)
    looking = asyncio.gather(
        every(CLEAR_AGAIN, "cleared away", lambda: tasks.clear_away(context)),
        *(
            every(JOBS_AGAIN, "sent", partial(send, context), usual=True)
            for send in (tasks.send_notices, tasks.make_calls)
            for _ in range(SENDERS)
        ),
        every(LETTERS_AGAIN, "sent letters", lambda: tasks.send_letters(context), usual=True),
        every(ROUNDS_AGAIN, "rounds", lambda: tasks.go_on_with_rounds(context), usual=True),
        every(GATES_AGAIN, "looked at gates", lambda: tasks.look_at_gates(context), usual=True),
        every(ENTRIES_AGAIN, "copied", lambda: tasks.copy_entries(context), usual=True),
        every(KEPT_AGAIN, "let go", lambda: tasks.let_go(context), usual=True),
        every(ERASED_AGAIN, "erased", lambda: tasks.destroy_keys(context), usual=True),
        every(WATCHED_AGAIN, "told of gates", lambda: watch_gates(context), usual=True),
    )
    failures = 0
    try:
        while not stop.is_set():
            started = time.monotonic()
            try:
                await _work_off(settings, context, concurrency, stop)
            except Exception as error:
                log.warning("the queue cannot be worked off", exc_info=error)
            failures = 0 if time.monotonic() - started > STEADY else failures + 1
            with suppress(TimeoutError):
                await asyncio.wait_for(stop.wait(), PAUSES[min(max(failures, 1), len(PAUSES)) - 1])
    finally:
        looking.cancel()
        with suppress(asyncio.CancelledError):
            await looking
        await context.close()


async def _work_off(
    settings: Settings, context: Context, concurrency: int, stop: asyncio.Event
) -> None:
    """Work off what the queue has, until `stop`. Ends before that only by raising."""
    app = queue_app(settings.database_url)
    tasks.register(app, context)
    async with app.open_async():
        work = app.run_worker_async(
            concurrency=concurrency,
            listen_notify=False,
            fetch_job_polling_interval=JOBS_AGAIN,
            update_heartbeat_interval=tasks.HEARTBEAT,
            stalled_worker_timeout=tasks.SILENCE,
            delete_jobs="successful",
            shutdown_graceful_timeout=10,
            install_signal_handlers=False,
        )
        looks = every(LOOK_AGAIN, "took up stalled jobs", lambda: tasks.take_up_stalled(app))
        working, looking, told = (asyncio.ensure_future(one) for one in (work, looks, stop.wait()))
        try:
            await asyncio.wait((working, told), return_when=asyncio.FIRST_COMPLETED)
            if working.done():
                working.result()
                raise RuntimeError("the worker ended by itself")
        finally:
            looking.cancel()
            told.cancel()
            working.cancel()
            with suppress(asyncio.CancelledError, Exception):
                await working
