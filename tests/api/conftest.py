"""A browser's stand-in for the API, signed in or not."""

import io
import logging
from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager

import httpx
import pytest

from jotgate import logs
from jotgate.api.app import create_app
from jotgate.services.context import Context
from jotgate.settings import Settings
from tests.scenes import PASSWORD, Scene

BASE = "http://jotgate.test"


class Visitor(httpx.AsyncClient):
    """Keeps cookies and, once signed in, sends the token that changes need."""

    async def sign_in(self, email: str) -> httpx.Response:
        reply = await self.post("/api/sign-in", json={"email": email, "password": PASSWORD})
        self.headers["X-CSRF-Token"] = reply.json().get("csrf", "")
        return reply


@pytest.fixture
async def app_of(context: Context) -> httpx.ASGITransport:
    @asynccontextmanager
    async def open_context(settings: Settings) -> AsyncIterator[Context]:
        yield context

    app = create_app(
        Settings(public_url=BASE, public_per_minute=100_000, secure_cookies=False), open_context
    )
    app.state.context = context
    return httpx.ASGITransport(app, raise_app_exceptions=False)


@pytest.fixture
async def anybody(app_of: httpx.ASGITransport) -> AsyncIterator[Visitor]:
    async with Visitor(transport=app_of, base_url=BASE) as visitor:
        yield visitor


@pytest.fixture
async def coordinator(app_of: httpx.ASGITransport, scene: Scene) -> AsyncIterator[Visitor]:
    async with Visitor(transport=app_of, base_url=BASE) as visitor:
        await visitor.sign_in(scene.coordinator.email)
        yield visitor


@pytest.fixture
async def reviewer(app_of: httpx.ASGITransport, scene: Scene) -> AsyncIterator[Visitor]:
    async with Visitor(transport=app_of, base_url=BASE) as visitor:
        await visitor.sign_in(scene.reviewer.email)
        yield visitor


@pytest.fixture
def log() -> Iterator[io.StringIO]:
    """What the application writes to its log."""
    written = io.StringIO()
    root = logging.getLogger()
    before, level = root.handlers, root.level
    logs.set_up("debug")
    handler = root.handlers[0]
    assert isinstance(handler, logging.StreamHandler)
    handler.setStream(written)
    yield written
    root.handlers = before
    root.setLevel(level)
