"""What a script can do with a token: what its scopes say, as its person may, and nothing else."""

from datetime import timedelta
from typing import Any

import pytest

from jotgate.core.records.tokens import SCOPES
from jotgate.services.context import Context
from jotgate.services.staff.accounts import tokens
from tests.api.conftest import Visitor
from tests.api.routes import NEEDS
from tests.api.test_rights import DESCRIBED, asked, filled
from tests.conftest import Clock
from tests.scenes import SECRET, Scene

BY_PEOPLE_ALONE = (
    "account",
    "accounts",
    "contacts",
    "people",
    "rounds",
    "sharing",
    "office",
    "trail",
    "handling",
)
"""Tags of routes that no token opens."""


async def with_token(visitor: Visitor, context: Context, scene: Scene, *scopes: Any) -> str:
    until = context.clock.now() + timedelta(days=1)
    made = await tokens.make(context, scene.coordinator, "t", scopes, False, until)
    visitor.headers["Authorization"] = f"Bearer {made.secret}"
    return made.secret


async def test_every_route_with_every_scope(
    anybody: Visitor, context: Context, scene: Scene
) -> None:
    """A token with all scopes opens no route that is for people; one without a route's scope does
    not open it."""
    await with_token(anybody, context, scene, *SCOPES)
    opened = 0
    for route in NEEDS:
        method, path = route.split(" ")
        tag = DESCRIBED[path][method]["tags"][0]
        reply = await asked(anybody, route, filled(route, scene))
        if tag in BY_PEOPLE_ALONE:
            assert reply.status_code in (401, 403), route
        else:
            assert "This token is not for that." not in reply.text, route
            opened += reply.status_code != 403
    assert opened > 40


@pytest.mark.parametrize(
    ("scope", "path", "status"),
    [
        ("read_entries", "/api/questionnaires/{id}/entries", 200),
        ("read_questionnaires", "/api/questionnaires/{id}/entries", 403),
        ("write_questionnaires", "/api/questionnaires/{id}", 403),
        ("read_questionnaires", "/api/questionnaires/{id}", 200),
        ("read_registers", "/api/registers", 200),
        ("read_entries", "/api/registers", 403),
    ],
)
async def test_scopes(
    anybody: Visitor, context: Context, scene: Scene, scope: str, path: str, status: int
) -> None:
    await with_token(anybody, context, scene, scope)
    reply = await anybody.get(path.replace("{id}", str(scene.id)))
    assert reply.status_code == status


async def test_a_change_needs_no_page_and_the_scope_to_change(
    anybody: Visitor, context: Context, scene: Scene
) -> None:
    body = {"name": "New", "columns": [{"key": "a", "label": "A"}]}
    await with_token(anybody, context, scene, "read_registers")
    assert (await anybody.post("/api/registers", json=body)).status_code == 403
    await with_token(anybody, context, scene, "write_registers")
    assert (await anybody.post("/api/registers", json=body)).status_code == 201


async def test_it_ends_with_its_day_and_when_it_is_ended(
    anybody: Visitor, coordinator: Visitor, context: Context, scene: Scene, clock: Clock
) -> None:
    path = f"/api/questionnaires/{scene.id}/entries"
    await with_token(anybody, context, scene, "read_entries")
    assert (await anybody.get(path)).status_code == 200
    (listed,) = (await coordinator.get("/api/account/tokens")).json()
    assert listed["used"] is not None
    ended = await coordinator.delete(f"/api/account/tokens/{listed['id']}")
    assert ended.status_code == 204
    assert (await anybody.get(path)).status_code == 401
    await with_token(anybody, context, scene, "read_entries")
    clock.move(timedelta(days=1))
    assert (await anybody.get(path)).status_code == 401


@pytest.mark.parametrize("header", ["Bearer", "Bearer ", "Bearer x", "Basic x", "bearer jotgate_x"])
async def test_made_up_ones(anybody: Visitor, scene: Scene, header: str) -> None:
    reply = await anybody.get("/api/questionnaires", headers={"Authorization": header})
    assert reply.status_code == 401


async def test_restricted_answers_are_not_for_it_unless_that_was_said(
    anybody: Visitor, context: Context, scene: Scene
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    await with_token(anybody, context, scene, "read_entries")
    path = f"/api/questionnaires/{scene.id}/entries"
    page = (await anybody.get(path)).json()
    assert page["cleared"] is False
    reply = await anybody.post(f"{path}/{page['entries'][0]['id']}/revealed")
    assert reply.status_code == 403
    assert SECRET not in reply.text


async def test_bad_ends_and_scopes(coordinator: Visitor, context: Context) -> None:
    now = context.clock.now()
    for expires, scopes, at in (
        (now, ["read_entries"], "expires"),
        (now + timedelta(days=400), ["read_entries"], "expires"),
        (now + timedelta(days=1), [], "scopes"),
    ):
        body = {"name": "t", "scopes": scopes, "expires": expires.isoformat()}
        reply = await coordinator.post("/api/account/tokens", json=body)
        assert reply.status_code == 422
        assert [fault["at"] for fault in reply.json()["faults"]] == [at]


async def test_the_description_of_the_api_is_for_who_is_signed_in(
    anybody: Visitor, coordinator: Visitor, context: Context, scene: Scene
) -> None:
    assert (await anybody.get("/api/openapi.json")).status_code == 401
    described = (await coordinator.get("/api/openapi.json")).json()
    assert described["paths"].keys() == DESCRIBED.keys()
    await with_token(anybody, context, scene, "read_questionnaires")
    assert (await anybody.get("/api/openapi.json")).status_code == 200
