"""Every staff route asks who it is and what they may, before anything else: told from the
description of the API, so that no route can be forgotten."""

import json
from typing import Any
from uuid import uuid4

import pytest

from jotgate.settings import ROOT
from tests.api.conftest import Visitor
from tests.scenes import Scene

DESCRIBED = json.loads((ROOT / "docs/openapi.json").read_text())["paths"]
OPEN = {"/api/sign-in"}
"""Routes for those who are not signed in yet."""

CHANGING = {"post", "put", "patch", "delete"}

READS_ALL_THE_SAME = {
    "/api/sign-out",
    "/api/outlines",
    "/api/questionnaires/{id}/draft/presence",
    "/api/questionnaires/{id}/draft/translations",
    "/api/questionnaires/{id}/dispatch/rehearsal",
    "/api/questionnaires/{id}/trial/page",
    "/api/questionnaires/{id}/trial/answers",
    "/api/questionnaires/{id}/draft/proof/path",
}
"""Routes whose method is one that changes things, and which change nothing of the context."""

STAFF = [
    (method, path)
    for path, methods in DESCRIBED.items()
    for method in methods
    if method in (CHANGING | {"get"}) and "/public/" not in path and path not in OPEN
    if path.startswith("/api/")
]


def filled(path: str, scene: Scene) -> str:
    values = {"id": scene.id, "number": 1, "language": "es", "name": "x"}
    while "{" in path:
        before, _, rest = path.partition("{")
        name, _, after = rest.partition("}")
        path = f"{before}{values.get(name, uuid4())}{after}"
    return path


def test_there_are_as_many_as_are_described() -> None:
    assert len(STAFF) > 40


@pytest.mark.parametrize("method", ["get", "post", "put", "delete"])
async def test_nobody_gets_anything_without_signing_in(
    method: str, anybody: Visitor, coordinator: Visitor, scene: Scene
) -> None:
    for way, path in STAFF:
        if way != method:
            continue
        reply = await anybody.request(way, filled(path, scene), content=b"{")
        assert reply.status_code == 401, (way, path)
        assert reply.json()["code"] == "not_signed_in"


async def test_nothing_is_changed_without_the_token_of_the_page(
    coordinator: Visitor, scene: Scene
) -> None:
    coordinator.headers["X-CSRF-Token"] = "made up"
    for way, path in STAFF:
        if way in CHANGING:
            reply = await coordinator.request(way, filled(path, scene), json={})
            assert reply.status_code == 403, (way, path)


async def test_who_may_only_read_changes_nothing_by_any_route(
    reviewer: Visitor, scene: Scene
) -> None:
    for way, path in STAFF:
        if way in CHANGING and path not in READS_ALL_THE_SAME:
            body = example(DESCRIBED[path][way])
            reply = await reviewer.request(way, filled(path, scene), json=body)
            assert reply.status_code in (403, 404, 422), (way, path, reply.status_code)
            if reply.status_code == 422:
                assert reply.json()["code"] in ("unreadable", "invalid"), (way, path)


def example(described: dict[str, Any]) -> Any:
    """A body of the shape that is described, as far as that is simple."""
    content = described.get("requestBody", {}).get("content", {})
    return _of(content.get("application/json", {}).get("schema", {}))


def _of(schema: dict[str, Any]) -> Any:
    if "$ref" in schema:
        name = schema["$ref"].rpartition("/")[2]
        whole = json.loads((ROOT / "docs/openapi.json").read_text())["components"]["schemas"]
        schema = whole[name]
    if "properties" in schema:
        wanted = schema.get("required", [])
        return {name: _of(schema["properties"][name]) for name in wanted}
    kinds: dict[str, Any] = {"integer": 1, "string": "x", "boolean": False, "array": []}
    return kinds.get(schema.get("type", ""), {})
