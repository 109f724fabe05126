"""The worker process: does what submissions have deferred, and what dead workers left."""

import asyncio
from collections.abc import Awaitable, Callable

import structlog

from jotgate.adapters.queue import queue_app
from jotgate.jobs import tasks
from jotgate.settings import Settings
from jotgate.wiring import build_house

log = structlog.get_logger("jotgate.worker")

LOOK_AGAIN = 5.0
"""Seconds between two looks for jobs of dead workers."""

CLEAR_AGAIN = 3600.0
"""Seconds between two looks for what was started long ago and never sent."""


async def every(seconds: float, done: str, look: Callable[[], Awaitable[int]]) -> None:
    """Look again and again; a look that fails, since the database is away, is no reason to end."""
    while True:
        try:
            found = await look()
        except Exception as error:
            log.warning("could not look", what=done, error=str(error)[:200])
        else:
            if found:
                log.warning(done, count=found)
        await asyncio.sleep(seconds)


async def work(settings: Settings, concurrency: int = 4) -> None:
    """Work until cancelled or told to stop by SIGINT or SIGTERM."""
    app = queue_app(settings.database_url)
    house = build_house(settings)
    tasks.register(app, house)

    async with app.open_async():
        looking = asyncio.gather(
            every(LOOK_AGAIN, "took up stalled jobs", lambda: tasks.take_up_stalled(app)),
            every(CLEAR_AGAIN, "cleared away", lambda: tasks.clear_away(house)),
        )
        try:
            await app.run_worker_async(
                concurrency=concurrency,
                fetch_job_polling_interval=1.0,
                update_heartbeat_interval=tasks.HEARTBEAT,
                stalled_worker_timeout=tasks.SILENCE,
                delete_jobs="successful",
                shutdown_graceful_timeout=10,
            )
        finally:
            looking.cancel()
            house.close()
            await house.engine.dispose()
