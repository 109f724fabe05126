"""The worker process: does what submissions have deferred, and what dead workers left."""

import asyncio

import structlog

from jotgate.adapters.queue import queue_app
from jotgate.jobs import tasks
from jotgate.settings import Settings
from jotgate.wiring import build_house

log = structlog.get_logger("jotgate.worker")

LOOK_AGAIN = 5.0
"""Seconds between two looks for jobs of dead workers."""


async def work(settings: Settings, concurrency: int = 4) -> None:
    """Work until cancelled or told to stop by SIGINT or SIGTERM."""
    app = queue_app(settings.database_url)
    house = build_house(settings)
    tasks.register(app, house)

    async def look_after_stalled() -> None:
        while True:
            taken = await tasks.take_up_stalled(app)
            if taken:
                log.warning("took up stalled jobs", jobs=taken)
            await asyncio.sleep(LOOK_AGAIN)

    async with app.open_async():
        looking = asyncio.create_task(look_after_stalled())
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
            await house.engine.dispose()
