"""Headers, pace, sign-in from elsewhere, and what the log may say."""

import io
import re
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from ipaddress import ip_network

import httpx
import pytest

from jotgate.api.app import create_app
from jotgate.api.clients import client_of
from jotgate.services.context import Context
from jotgate.settings import Settings
from tests.api.conftest import Visitor
from tests.scenes import PASSWORD, SECRET, Scene


async def test_headers_of_a_page(anybody: Visitor, scene: Scene) -> None:
    first = await anybody.get(f"/q/{scene.address}")
    second = await anybody.get(f"/q/{scene.address}")
    policy = first.headers["content-security-policy"]
    assert "default-src 'none'" in policy
    assert "frame-ancestors 'none'" in policy
    assert "unsafe" not in policy
    nonces = [
        re.findall(r"'nonce-([^']+)'", page.headers["content-security-policy"])[0]
        for page in (first, second)
    ]
    assert nonces[0] != nonces[1]
    assert f'nonce="{nonces[0]}"' in first.text
    assert first.headers["x-content-type-options"] == "nosniff"
    assert "set-cookie" not in first.headers


async def test_whoever_is_too_fast_is_told_to_wait(scene: Scene, context: Context) -> None:
    @asynccontextmanager
    async def open_context(_: Settings) -> AsyncIterator[Context]:
        yield context

    proxy = "10.0.0.1"
    settings = Settings(public_per_minute=8, trusted_proxies=("10.0.0.0/8",))
    app = create_app(settings, open_context)
    app.state.context = context
    transport = httpx.ASGITransport(app, client=(proxy, 1))
    async with httpx.AsyncClient(transport=transport, base_url="http://jotgate.test") as visitor:

        async def get(forwarded: str, path: str = f"/q/{scene.address}") -> httpx.Response:
            return await visitor.get(path, headers={"X-Forwarded-For": forwarded})

        assert [(await get("192.0.2.1")).status_code for _ in range(3)] == [200, 200, 429]
        late = await get("198.51.100.1, 192.0.2.1, 10.9.9.9")
        assert (late.status_code, late.headers["retry-after"]) == (429, "5")
        assert late.json()["code"] == "too_many_tries"
        assert late.headers["x-content-type-options"] == "nosniff"
        assert (await get("198.51.100.1")).status_code == 200
        ways = [(await get("192.0.2.7", "/api/sign-in")).status_code for _ in range(3)]
        assert ways == [200, 200, 429]


@pytest.mark.parametrize(
    ("peer", "forwarded", "client"),
    [
        ("192.0.2.9", "1.2.3.4", "192.0.2.9"),
        ("10.0.0.1", "", "10.0.0.1"),
        ("10.0.0.1", "1.2.3.4", "1.2.3.4"),
        ("10.0.0.1", "made up, 1.2.3.4, 10.0.0.2", "1.2.3.4"),
        ("::1", "2001:db8::7", "::1"),
        ("unix", "1.2.3.4", "unix"),
    ],
)
def test_only_named_proxies_say_who_it_is(peer: str, forwarded: str, client: str) -> None:
    scope = {"client": (peer, 1), "headers": [(b"x-forwarded-for", forwarded.encode())]}
    assert client_of(scope, [ip_network("10.0.0.0/8")]) == client


async def test_over_https_everything_says_so(scene: Scene, context: Context) -> None:
    @asynccontextmanager
    async def open_context(_: Settings) -> AsyncIterator[Context]:
        yield context

    app = create_app(Settings(public_url="https://jotgate.example.org"), open_context)
    app.state.context = context
    transport = httpx.ASGITransport(app)
    async with httpx.AsyncClient(transport=transport, base_url="https://jotgate.test") as visitor:
        body = {"email": scene.coordinator.email, "password": PASSWORD}
        reply = await visitor.post("/api/sign-in", json=body)
        assert reply.headers["strict-transport-security"].startswith("max-age=31536000")
        cookie = reply.headers["set-cookie"]
        assert cookie.startswith("__Host-jotgate_session=")
        assert "Secure" in cookie
        assert "Path=/" in cookie
        assert "Domain" not in cookie
        assert (await visitor.get("/api/me")).status_code == 200


async def test_a_change_needs_its_token(coordinator: Visitor, scene: Scene) -> None:
    coordinator.headers["X-CSRF-Token"] = "made up"
    reply = await coordinator.post("/api/questionnaires", json={"title": "x"})
    assert reply.status_code == 403


async def test_another_sites_page_is_refused(coordinator: Visitor, scene: Scene) -> None:
    foreign = {"Sec-Fetch-Site": "cross-site"}
    reply = await coordinator.post("/api/questionnaires", json={"title": "x"}, headers=foreign)
    assert reply.status_code == 403
    reply = await coordinator.post(
        "/api/sign-in", json={"email": "a@example.org", "password": "x"}, headers=foreign
    )
    assert reply.status_code == 403


async def test_the_cookie_is_out_of_reach_of_scripts(anybody: Visitor, scene: Scene) -> None:
    reply = await anybody.sign_in(scene.coordinator.email)
    cookie = reply.headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=lax" in cookie


async def test_the_log_has_no_answers(anybody: Visitor, scene: Scene, log: io.StringIO) -> None:
    await anybody.get(f"/q/{scene.address}?name={SECRET}")
    body = {"edition": 1, "answers": {"name": SECRET}, "link": SECRET, "move": "begin"}
    await anybody.post(f"/api/public/{scene.address}/page", json=body)
    await anybody.post(f"/api/public/{scene.address}/page", json={"answers": SECRET})
    lines = log.getvalue()
    assert lines.count('"event": "request"') == 3
    assert '"route": "/api/public/{address}/page"' in lines
    assert SECRET not in lines
    assert SECRET.split()[0] not in lines


async def test_built_files_come_compressed_and_are_kept(anybody: Visitor, scene: Scene) -> None:
    page = await anybody.get(f"/q/{scene.address}")
    script = re.findall(r'src="(/assets/[^"]+\.js)"', page.text)[0]
    for encoding in ("br", "gzip", "identity"):
        reply = await anybody.get(script, headers={"Accept-Encoding": encoding})
        assert reply.status_code == 200
        assert reply.headers.get("content-encoding", "identity") == encoding
        assert reply.headers["content-type"].startswith("text/javascript")
        assert "immutable" in reply.headers["cache-control"]
    for outside in ("/assets/../answer.html", "/assets/%2e%2e/answer.html", "/assets/none.js"):
        assert (await anybody.get(outside)).status_code == 404
