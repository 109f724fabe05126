"""Bodies made to be slow, or to hold what cannot be stored: nobody else waits, none is a 500."""

import asyncio
import gc
import json
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Any
from uuid import uuid4

import httpx
import pytest

from jotgate.collecting import leave_what_is_there
from tests.api.conftest import Visitor
from tests.api.test_rights import DESCRIBED, filled
from tests.documents import item, options, page
from tests.scenes import Scene

pytestmark = pytest.mark.long

MOST_HELD = 0.25
"""Seconds of processor time that one turn of the event loop may take here, on any machine that
runs the tests; `bin/bench hold` has the bar that counts."""


def document(*pages: dict[str, Any]) -> dict[str, Any]:
    return {
        "format": "jotgate-questionnaire",
        "version": 1,
        "title": {"en": "T"},
        "pages": list(pages),
        "finishes": [{"key": "end", "title": {"en": "End"}}],
    }


MANY = document(
    *(page(f"p{n}", *(item("yes_no", f"q{n}_{m}") for m in range(1000))) for n in range(10))
)
EMPTY = document({"key": "p", "title": {}, "items": [{}] * 1999}, *({} for _ in range(400)))
OPTIONS = document(
    page("p", *(item("pick_one", f"q{n}", options=options(*["a"] * 400)) for n in range(60)))
)

OUTLINES = {
    "dots": "a" + "." * 5000,
    "dots and spaces": "Which " + ". : " * 2000 + "x",
    "choices": "Which: " + "a/" * 50_000,
    "colons": "a:" * 50_000 + "?",
    "brackets": "(" * 100_000,
    "boxes": "[ ] " * 25_000,
    "one long line": "how many put rank " * 10_000,
    "options": "Which?\n" + "".join(f"- option {n}\n" for n in range(4000)),
    "the same options": "Which?\n" + "- the same\n" * 4000 + "- other\n",
    "the same questions": "Your name\n" * 15_000,
    "blanks": " " * 190_000 + "x",
}


def bodies(scene: Scene) -> dict[str, tuple[str, str, bytes]]:
    """Name -> method, path, body."""
    base, public = f"/api/questionnaires/{scene.id}", f"/api/public/{scene.address}"
    deep = '{"a":' * 5000 + "1" + "}" * 5000
    found: dict[str, tuple[str, str, Any]] = {
        f"outline: {name}": ("POST", "/api/outlines", {"text": text, "language": "en", "taken": []})
        for name, text in OUTLINES.items()
    }
    for name, one in (("many", MANY), ("empty", EMPTY), ("options", OPTIONS)):
        found[f"file: {name}"] = ("POST", "/api/questionnaires/files", one)
        found[f"draft: {name}"] = ("PUT", f"{base}/draft", {"revision": 1, "document": one})
    answers: dict[str, dict[str, Any]] = {
        "many keys": {f"k{n}": "x" for n in range(4999)},
        "long": {"name": "x\u200b" * 200_000},
        "list": {"source": ["own"] * 100_000, "name": ["x"] * 100_000},
        "numbers": {"drinkers": "9" * 500_000, "name": {"a": 10**18}},
    }
    for name, given in answers.items():
        body: dict[str, Any] = {
            "edition": 1,
            "answers": given,
            "link": "name=" + "%20" * 2000,
            "move": "onward",
        }
        found[f"page: {name}"] = ("POST", f"{public}/page", {**body, "at": "start"})
        found[f"submission: {name}"] = ("POST", f"{public}/entries", body)
        found[f"started: {name}"] = ("PUT", f"{public}/started", {"edition": 1, "answers": given})
    whole = {
        name: (way, path, json.dumps(body).encode()) for name, (way, path, body) in found.items()
    }
    whole["deep answers"] = ("POST", f"{public}/page", deep.encode())
    whole["deep draft"] = ("PUT", f"{base}/draft", deep.encode())
    whole["deep file"] = ("POST", "/api/questionnaires/files", deep.encode())
    whole["digits"] = ("POST", f"{public}/page", b'{"edition":' + b"9" * 1_000_000 + b"}")
    return whole


class Holds:
    """The most processor time that the event loop spent on one thing."""

    longest = 0.0

    async def watch(self) -> None:
        before = time.thread_time()
        while True:
            await asyncio.sleep(0)
            now = time.thread_time()
            self.longest = max(self.longest, now - before)
            before = now


@asynccontextmanager
async def watched() -> AsyncIterator[Holds]:
    """With the garbage collector as it is where the application runs: what thousands of tests have
    left is not looked through in a turn of the loop."""
    holds = Holds()
    before = gc.get_threshold()
    leave_what_is_there()
    watching = asyncio.ensure_future(holds.watch())
    try:
        yield holds
    finally:
        watching.cancel()
        gc.unfreeze()
        gc.set_threshold(*before)


async def test_no_body_holds_the_event_loop(coordinator: Visitor, scene: Scene) -> None:
    headers = {"Idempotency-Key": "0" * 20, "Started-Token": "ab" * 32}
    headers["Content-Type"] = "application/json"
    held: dict[str, float] = {}
    for name, (way, path, body) in bodies(scene).items():
        async with watched() as holds:
            reply = await coordinator.request(way, path, content=body, headers=headers, timeout=60)
        held[name] = holds.longest
        assert reply.status_code < 500, name
    worst = max(held, key=held.__getitem__)
    assert held[worst] < MOST_HELD, f"{worst} held it for {held[worst]:.3f} s"


async def test_who_may_not_is_told_so_before_anything_is_read(
    anybody: Visitor, reviewer: Visitor, scene: Scene
) -> None:
    body = json.dumps({"revision": 1, "document": MANY}).encode()
    path = f"/api/questionnaires/{scene.id}/draft"
    for visitor, status in ((anybody, 401), (reviewer, 403)):
        assert (await visitor.put(path, content=body)).status_code == status
        assert (await visitor.put(path, content=b"{")).status_code == status


NUL = [
    ("GET", "/q/{address}?name=%00"),
    ("GET", "/q/%00"),
    ("GET", "/api/questionnaires/%00"),
    ("POST", "/api/public/%00/page"),
]


async def test_what_cannot_be_stored_is_refused_everywhere(
    coordinator: Visitor, scene: Scene
) -> None:
    for way, path in NUL:
        reply = await coordinator.request(way, path.format(address=scene.address))
        assert reply.status_code == 400, path
    base, public = f"/api/questionnaires/{scene.id}", f"/api/public/{scene.address}"
    headers = {"Idempotency-Key": "0" * 20, "Started-Token": "ab" * 32}
    for path, body in (
        (f"{public}/page", {"edition": 1, "move": "begin", "answers": {"name": "\0"}}),
        (f"{public}/page", {"edition": 2**70, "move": "begin"}),
        (f"{public}/entries", {"edition": 1, "answers": {"n\0": "x"}}),
        (f"{public}/entries", {"edition": 1, "answers": {"drinkers": 2**64}}),
        ("/api/questionnaires", {"title": "a\0b"}),
        (f"{base}/editions", {"revision": 2**63}),
        ("/api/registers", {"name": "\0", "columns": []}),
        ("/api/sign-in", {"email": "\0", "password": "x"}),
        ("/api/outlines", {"text": "\0", "language": "en", "taken": []}),
    ):
        reply = await coordinator.post(path, json=body, headers=headers)
        assert reply.status_code == 422, path
        assert reply.json()["code"] == "unreadable"
    for number in (2**31, 2**63 - 1):
        reply = await coordinator.get(f"{base}/editions/{number}")
        assert reply.status_code in (404, 422)
        reply = await coordinator.post(f"{base}/editions", json={"revision": number})
        assert reply.status_code in (409, 422)
    reply = await coordinator.post(f"{public}/page", content=b'{"edition":1,"edition":' + b"[" * 99)
    assert reply.status_code == 422
    fine = {"edition": 1, "move": "begin", "answers": {"name": "\\u0000 and {{{{{{[[[["}}
    assert (await coordinator.post(f"{public}/page", json=fine)).status_code == 200


async def test_a_failure_comes_with_our_headers_and_is_not_told(
    coordinator: Visitor, scene: Scene, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise RuntimeError("secret words")

    monkeypatch.setattr("jotgate.services.staff.desk.desk", broken)
    reply = await coordinator.get("/api/questionnaires")
    assert reply.status_code == 500
    assert reply.headers["content-type"] == "application/problem+json"
    assert reply.headers["x-content-type-options"] == "nosniff"
    assert reply.headers["cache-control"] == "no-store"
    assert "secret" not in reply.text


async def test_nothing_that_holds_answers_is_kept_by_caches(
    coordinator: Visitor, scene: Scene
) -> None:
    await scene.submit("a")
    base, public = f"/api/questionnaires/{scene.id}", f"/api/public/{scene.address}"
    body = {"edition": 1, "move": "begin", "answers": {}}
    replies = [
        await coordinator.get(f"{base}/entries"),
        await coordinator.get(f"{base}/draft"),
        await coordinator.post(f"{public}/page", json=body),
        await coordinator.get(f"/q/{scene.address}"),
        await coordinator.get(f"{base}/{uuid4()}"),
    ]
    assert {reply.headers["cache-control"] for reply in replies} == {"no-store"}


async def test_one_key_is_for_one_submission(anybody: Visitor, scene: Scene) -> None:
    path = f"/api/public/{scene.address}/entries"
    headers = {"Idempotency-Key": "k" * 20}

    async def send(name: str, language: str = "en") -> httpx.Response:
        answers = {"name": name, "source": "own"}
        body: dict[str, Any] = {"edition": 1, "answers": answers, "language": language}
        return await anybody.post(path, json=body, headers=headers)

    assert (await send("Ines")).status_code == 201
    assert (await send("Ines", "es")).status_code == 201
    other = await send("Sam")
    assert (other.status_code, other.json()["code"]) == (422, "key_reused")


async def test_no_route_takes_a_body_that_cannot_be_stored(
    coordinator: Visitor, scene: Scene
) -> None:
    """Told from the description of the API, so that no route can be forgotten."""
    headers = {"Idempotency-Key": "0" * 20, "Started-Token": "ab" * 32}
    asked = 0
    for path, ways in DESCRIBED.items():
        for way, said in ways.items():
            kinds = said.get("requestBody", {}).get("content", {}) if isinstance(said, dict) else {}
            if "application/json" not in kinds:
                continue
            here = filled(f"{way} {path}".replace("{address}", scene.address), scene)
            reply = await coordinator.request(way, here, json={"x": "\0"}, headers=headers)
            assert (reply.status_code, reply.json()["code"]) == (422, "unreadable"), (way, path)
            asked += 1
    assert asked > 20
