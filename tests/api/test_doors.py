"""Headers, pace, sign-in from elsewhere, and what the log may say."""

import io
import logging
import re

import pytest

from jotgate import logs
from jotgate.api.doors import Pace
from tests.api.conftest import Visitor
from tests.scenes import SECRET, Scene


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


def test_pace_is_a_bucket_for_each_client() -> None:
    pace = Pace(per_minute=60, burst=3)
    assert [pace.allows("a", 0) for _ in range(4)] == [True, True, True, False]
    assert pace.allows("b", 0)
    assert not pace.allows("a", 0.9)
    assert pace.allows("a", 2)


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


async def test_the_log_has_no_answers(
    anybody: Visitor, scene: Scene, monkeypatch: pytest.MonkeyPatch
) -> None:
    written = io.StringIO()
    root = logging.getLogger()
    before, level = root.handlers, root.level
    logs.set_up("debug")
    assert isinstance(root.handlers[0], logging.StreamHandler)
    root.handlers[0].setStream(written)
    try:
        await anybody.get(f"/q/{scene.address}?name={SECRET}")
        body = {"edition": 1, "answers": {"name": SECRET}, "link": SECRET, "move": "begin"}
        await anybody.post(f"/api/public/{scene.address}/page", json=body)
        await anybody.post(f"/api/public/{scene.address}/page", json={"answers": SECRET})
    finally:
        root.handlers = before
        root.setLevel(level)
    lines = written.getvalue()
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
