"""The longest that one hostile body keeps the event loop from everybody else.

Counted in processor time of the loop's own thread, so that what else the machine does is not.
"""

import asyncio
from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager
from pathlib import Path

import httpx

from bench.submit import in_a_folder
from bench.support.figure import Figure
from bench.support.machine import timed
from jotgate.api.app import create_app
from jotgate.local.cluster import free_port
from jotgate.local.installation import open_installation
from jotgate.services.context import Context
from jotgate.settings import Settings
from jotgate.wiring import open_context
from tests.api.conftest import BASE, Visitor
from tests.api.test_hostile import bodies, watched
from tests.scenes import set_scene

MILLISECONDS = 50.0
HEADERS = {
    "Idempotency-Key": "0" * 20,
    "Started-Token": "ab" * 32,
    "Content-Type": "application/json",
}


async def measured(settings: Settings) -> dict[str, float]:
    """Name of a body -> the longest turn of the loop while it was sent, in milliseconds."""
    async with open_context(settings) as context:
        scene = await set_scene(context)

        @asynccontextmanager
        async def same(_: Settings) -> AsyncIterator[Context]:
            yield context

        app = create_app(settings, same)
        app.state.context = context
        held = {}
        transport = httpx.ASGITransport(app)
        async with Visitor(transport=transport, base_url=BASE) as visitor:
            await visitor.sign_in(scene.coordinator.email)
            for name, (way, path, body) in bodies(scene).items():
                async with watched() as holds:
                    await visitor.request(way, path, content=body, headers=HEADERS, timeout=60)
                held[name] = holds.longest * 1000
        return held


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    try:
        settings = installation.settings.model_copy(update={"public_url": BASE})
        held = asyncio.run(measured(settings))
    finally:
        installation.stop()
    for name in sorted(held, key=held.__getitem__)[-5:]:
        yield from timed("hold", f"the loop held by {name}", held[name], MILLISECONDS)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
