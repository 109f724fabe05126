"""Every failure is a problem document, with the status of its kind."""

import pytest

from jotgate.api.problems import STATUS, status_of
from jotgate.core.common import errors
from tests.api.conftest import Visitor
from tests.scenes import Scene


def every_error(kind: type[errors.JotGateError]) -> list[type[errors.JotGateError]]:
    return [kind, *(below for sub in kind.__subclasses__() for below in every_error(sub))]


def test_the_table_covers_the_tree() -> None:
    for kind in every_error(errors.JotGateError)[1:]:
        assert any(above in STATUS for above in kind.__mro__), kind
    assert status_of(errors.InvalidAnswers("x", [], "p")) == 422


async def test_nobody_signed_in(anybody: Visitor) -> None:
    for path in ("/api/me", "/api/questionnaires", "/api/registers", "/api/trail"):
        reply = await anybody.get(path)
        assert reply.status_code == 401
        assert reply.headers["content-type"] == "application/problem+json"
        assert reply.json()["code"] == "not_signed_in"


async def test_what_was_sent_is_not_repeated(coordinator: Visitor, scene: Scene) -> None:
    reply = await coordinator.put(
        f"/api/questionnaires/{scene.id}/draft", json={"revision": "secret words", "document": 5}
    )
    assert reply.status_code == 422
    assert {fault["at"] for fault in reply.json()["faults"]} == {"revision", "document"}
    assert "secret words" not in reply.text


@pytest.mark.parametrize("method", ["GET", "POST", "DELETE"])
async def test_no_such_route(anybody: Visitor, method: str) -> None:
    reply = await anybody.request(method, "/api/nowhere")
    assert reply.status_code == 404
    assert reply.json()["code"] == "not_found"


async def test_a_body_over_the_limit(anybody: Visitor, scene: Scene) -> None:
    reply = await anybody.post(
        f"/api/public/{scene.address}/page",
        content=b'{"answers":{"a":"' + b"x" * 2_100_000 + b'"}}',
        headers={"Content-Type": "application/json"},
    )
    assert reply.status_code == 413
    assert reply.json()["code"] == "too_large"


async def test_broken_json(anybody: Visitor, scene: Scene) -> None:
    for body in (b"", b"{", b"[]", b"\xff\xfe", b'{"edition": 1e400}'):
        reply = await anybody.post(
            f"/api/public/{scene.address}/page",
            content=body,
            headers={"Content-Type": "application/json"},
        )
        assert reply.status_code == 422, body


async def test_a_stale_save_brings_the_newer_version(coordinator: Visitor, scene: Scene) -> None:
    path = f"/api/questionnaires/{scene.id}/draft"
    draft = (await coordinator.get(path)).json()
    draft.pop("faults")
    assert (await coordinator.put(path, json=draft)).status_code == 200
    draft["document"]["title"]["en"] = "Mine"
    reply = await coordinator.put(path, json=draft)
    assert reply.status_code == 409
    current = reply.json()["params"]["current"]
    assert current["revision"] == 2
    assert current["value"]["title"]["en"] == "Test"
