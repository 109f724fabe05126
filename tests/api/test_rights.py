"""Every route of staff against every role: the table below names what each route asks for, and the
routes come from the description of the API, so that one nobody thought of fails here."""

import json
from collections.abc import AsyncIterator, Mapping
from contextlib import asynccontextmanager
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

import httpx
import pytest

from jotgate.core.records.accounts import Account, Part
from jotgate.core.rights import IN_OFFICE, IN_THING, ROLES, Role, Thing, reaches, strongest
from jotgate.services.context import Context
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.settings import ROOT
from jotgate.store.accounts import accounts, parts
from tests.api.conftest import BASE, Visitor
from tests.api.routes import ANYBODY, NEEDS, ONE_S_OWN, ROUND, Q, R
from tests.documents import well_check
from tests.scenes import PASSWORD, Scene

DESCRIBED = json.loads((ROOT / "docs/openapi.json").read_text())["paths"]
CHANGING = {"post", "put", "patch", "delete"}
ROUTES = [
    f"{method} {path}"
    for path, methods in DESCRIBED.items()
    for method in methods
    if path.startswith("/api/") and not path.startswith("/api/public/")
]

PERSONAS: Mapping[str, tuple[Role | None, Role | None]] = {
    "stranger": (None, None),
    **{f"{role} of the office": (role, None) for role in ROLES},
    **{f"{role} of the thing": (None, role) for role in ROLES},
    "reader of the office, coordinator of the thing": ("reader", "coordinator"),
}
"""The role in the office and the role in the one questionnaire and register."""

OTHER = UUID(int=7)

ITEM = {"kind": "yes_no", "key": "x", "text": {"en": "X"}}

PROVIDER = {"name": "P", "issuer": "http://127.0.0.1:9", "client_id": "c"}
LETTER = {"subject": {"en": "S"}, "body": {"en": "B"}}

BODIES: Mapping[str, Any] = {
    "post /api/outlines": {"text": "Name", "language": "en", "taken": []},
    "post /api/bank": {"item": ITEM},
    "put /api/bank/{id}": {"item": ITEM, "revision": 1},
    "put /api/account/name": {"name": "A"},
    "put /api/office": {"revision": 99, "office": {"name": "Office"}},
    "post /api/people": {"name": "N", "email": "n@example.org", "role": None},
    "post /api/account/tokens": {
        "name": "t",
        "scopes": ["read_entries"],
        "expires": datetime(2027, 1, 1, tzinfo=UTC).isoformat(),
    },
    f"post {Q}/{{id}}/parts": {"role": "reader", "account_id": str(OTHER)},
    f"post {R}/{{id}}/parts": {"role": "reader", "account_id": str(OTHER)},
    f"post {Q}/{{id}}/draft/presence": {"tab": "a" * 32},
    f"put {Q}/{{id}}/gate": {"revision": 99, "gate": {"state": "shut"}},
    f"post {Q}/{{id}}/gate/at": {},
    "put /api/gates": {"ids": [str(OTHER)], "state": "shut"},
    f"post {Q}/{{id}}/statuses/keeping": {"revision": 1, "handling": {}},
    f"put {Q}/{{id}}/statuses": {"revision": 99, "handling": {}},
    f"post {Q}/{{id}}/entries/handling": {"ids": [str(OTHER)], "archived": True},
    f"post {Q}/{{id}}/entries/{{entry_id}}/notes": {"words": "x"},
    "post /api/person/erased": {"email": "ines@example.org", "typed": "ines@example.org"},
    f"post {Q}/{{id}}/entered": {"entered": "phone"},
    f"post {Q}/{{id}}/entries/{{entry_id}}/corrections": {"why": "A wrong name."},
    f"post {Q}/{{id}}/entries/{{entry_id}}/corrections/settled": {"act": True},
    f"post {Q}/{{id}}/entry-work": {"do": "archive", "numbers": [1]},
    f"post {Q}/{{id}}/entry-views": {"name": "x", "view": {}},
    f"put {Q}/{{id}}/entry-views/{{view_id}}": {"name": "x", "view": {}},
    f"put {Q}/{{id}}/dispatch": {"revision": 99, "dispatch": {}},
    f"post {Q}/{{id}}/rehearsals": {"dispatch": {}},
    f"post {Q}/{{id}}/dispatch/replay": {"kinds": ["row"], "revision": 99},
    f"post {Q}/{{id}}/dispatch/replay/look": {},
    f"post {Q}/{{id}}/dispatch/faults": {"dispatch": {}},
    f"post {Q}/{{id}}/dispatch/proof": {"dispatch": {}},
    f"post {Q}/{{id}}/dispatch/differences": {"dispatch": {}},
    f"post {Q}/{{id}}/runs/again": {"ids": [str(OTHER)]},
    f"post {Q}/{{id}}/runs/skipped": {"ids": [str(OTHER)], "reason": "r"},
    f"put {Q}/{{id}}/sending": {"paused": False},
    f"post {Q}/{{id}}/hooks": {"name": "Lab", "address": "https://lab.example.org/"},
    f"put {Q}/{{id}}/hooks/{{hook_id}}": {"name": "Lab", "address": "https://lab.example.org/"},
    f"post {Q}/{{id}}/links/named": {"name": "Poster"},
    f"put {Q}/{{id}}/links/settings": {"revision": 99, "links": {}},
    f"post {Q}/{{id}}/links/passes": {"name": "P", "table_id": str(OTHER)},
    "post /api/contacts": {"values": {"name": "N"}},
    "post /api/contacts/removal": {"ids": [str(OTHER)]},
    "post /api/contacts/{id}/merge": {"other": str(OTHER), "values": {"name": "N"}},
    "post /api/contact-lists/{id}/contacts": {"ids": [str(OTHER)], "on": True},
    "post /api/contact-tables/look": {"table_id": str(OTHER), "columns": {"0": "name"}},
    "post /api/contact-tables/bring": {"table_id": str(OTHER), "known": "keep"},
    "post /api/identity-providers": {"provider": PROVIDER, "secret": "s"},
    "put /api/identity-providers/{id}": {"provider": PROVIDER, "revision": 1},
    "post /api/identity-providers/look": {"provider": PROVIDER, "secret": "s"},
    f"post {Q}/{{id}}/links/mailings": {"name": "L", "text": LETTER, "to": "a@example.org"},
    f"post {Q}/{{id}}/links/mailings/preview": {"text": LETTER},
    f"post {Q}/{{id}}/shared-pages": {"content": {"title": "T", "language": "en"}},
    f"put {Q}/{{id}}/shared-pages/{{page_id}}": {
        "content": {"title": "T", "language": "en"},
        "revision": 1,
    },
    f"post {Q}/{{id}}/rounds": {"name": "Autumn"},
    f"post {Q}/{{id}}/rounds/sample": {"name": "Autumn"},
    "put /api/mail-room/rules": {"rules": []},
    "put /api/no-letters": {"email": "a@example.org", "out": True},
    "post /api/no-letters/bring": {"table_id": str(OTHER), "column": 0},
    f"post {Q}/{{id}}/rounds/sheet": {"round": {"name": "Autumn"}, "step": "first"},
    f"post {Q}/{{id}}/rounds/letter": {"round": {"name": "Autumn"}, "step": "first"},
    f"put {ROUND}": {"revision": 99, "round": {"name": "Autumn"}},
    f"post {ROUND}/worklist/enter": {"contact_id": str(OTHER)},
    f"post {ROUND}/worklist/outcome": {"contact_id": str(OTHER), "outcome": "refused"},
    f"put {R}/{{id}}": {"revision": 99, "name": "R", "columns": [{"key": "a", "label": "A"}]},
    f"post {R}/{{id}}/rows/remove": {"ids": [1]},
    f"post {R}/{{id}}/removal": {"name": "not its name"},
    f"post {R}/{{id}}/rows/bring": {"table_id": str(OTHER), "columns": {"0": "name"}},
    f"post {R}/{{id}}/news": {"view": {}, "since": 0, "tab": "t"},
    f"post {R}/{{id}}/cells": {"added": [{}]},
    f"post {R}/{{id}}/views": {"name": "V", "view": {}},
    f"put {R}/{{id}}/views/{{view_id}}": {"name": "W", "view": {}},
    f"post {R}": {"name": "New", "columns": [{"key": "a", "label": "A"}]},
    f"post {Q}/{{id}}/trial/page": {
        "edition": 1,
        "link": "",
        "answers": {},
        "move": "onward",
        "at": "water",
    },
    f"put {Q}/{{id}}/draft": {
        "revision": 99,
        "document": well_check().model_dump(mode="json"),
    },
}
"""Bodies that cannot be made from the description alone."""


def allowed(need: str, office: Role | None, thing: Role | None, cleared: bool) -> int:
    """The status of what somebody is refused with; 0 where they are not."""
    if need == ONE_S_OWN:
        return 0
    if need in IN_OFFICE:
        return 0 if reaches(office, IN_OFFICE[need]) else 403  # type: ignore[index]
    role = strongest((office, thing))
    if need == "bank":
        return 0 if office or reaches(role, "coordinator") else 403
    if role is None:
        return 404
    if need == "clearance":
        return 0 if cleared else 403
    return 0 if reaches(role, IN_THING[need]) else 403  # type: ignore[index]


def test_every_route_says_what_it_asks_for() -> None:
    assert set(ROUTES) == set(NEEDS) | ANYBODY
    assert len(ROUTES) > 100


@pytest.fixture
async def other(context: Context, scene: Scene) -> Account:
    """Somebody else, who is there to be given and denied things."""
    made = Account(OTHER, "other@example.org", "Other", None)
    async with context.engine.begin() as conn:
        await accounts.add(conn, made, "x")
    return made


@asynccontextmanager
async def persona(
    context: Context, app: httpx.ASGITransport, scene: Scene, name: str
) -> AsyncIterator[Visitor]:
    office, thing = PERSONAS[name]
    person = await people.add(context, "persona@example.org", "P", office, PASSWORD)
    if thing is not None:
        async with context.engine.begin() as conn:
            where: tuple[tuple[Thing, UUID], ...] = (
                ("questionnaire", scene.id),
                ("register", scene.saltings.id),
            )
            for kind, id in where:
                part = Part(context.ids.id(), thing, person.id, None)
                await parts.give(conn, part, kind, id)
    async with Visitor(transport=app, base_url=BASE) as visitor:
        await visitor.sign_in(person.email)
        yield visitor


def filled(route: str, scene: Scene, own: bool = True) -> str:
    """The address of a route, for what is there, or for what is not."""
    path = route.partition(" ")[2]
    thing = scene.saltings.id if path.startswith(R) else scene.id
    id = OTHER if path.startswith("/api/people") else thing
    values = {
        "{id}": str(id if own else uuid4()),
        "{number}": "1",
        "{row_id}": "1",
        "{version}": "1",
        "{language}": "es",
        "{person}": str(OTHER),
    }
    for slot, value in values.items():
        path = path.replace(slot, value)
    while "{" in path:
        before, _, rest = path.partition("{")
        path = f"{before}{uuid4()}{rest.partition('}')[2]}"
    if path in ("/api/person", "/api/person/file"):
        return f"{path}?email=ines@example.org"
    if path.endswith("/links/qr"):
        return f"{path}?address=x"
    if path.endswith("/rows"):
        return f"{path}?ids=1"
    if path.endswith("/entries-print"):
        return f"{path}?numbers=1"
    if path.endswith("/figures-crossing"):
        return f"{path}?rows=water&columns=water"
    if path.endswith("/figure-picture"):
        return f"{path}?key=water&language=en"
    return f"{path}?name=x.png" if path.endswith(NAMED) else path


NAMED = ("/media", "/picture", "/tables", "/contact-tables", "/register-tables")
"""What takes a file asks for its name."""


async def asked(visitor: Visitor, route: str, path: str) -> httpx.Response:
    method = route.partition(" ")[0]
    described = DESCRIBED[route.partition(" ")[2]][method]
    if method not in CHANGING or "requestBody" not in described:
        return await visitor.request(method, path, follow_redirects=False)
    return await visitor.request(method, path, json=BODIES.get(route, example(described)))


@pytest.mark.parametrize("name", PERSONAS)
async def test_every_route_against_every_role(
    context: Context, app_of: httpx.ASGITransport, scene: Scene, other: Account, name: str
) -> None:
    office, thing = PERSONAS[name]
    async with persona(context, app_of, scene, name) as visitor:
        wrong: list[tuple[str, int, str]] = []
        refused = 0
        for route, need in NEEDS.items():
            status = allowed(need, office, thing, cleared=False)
            reply = await asked(visitor, route, filled(route, scene))
            refused += status != 0
            if route == "post /api/sign-out":
                await visitor.sign_in("persona@example.org")
            if not _as_wanted(reply, status):
                wrong.append((route, status, f"{reply.status_code} {reply.text[:200]}"))
        assert wrong == []
        assert refused == {"owner of the office": 2}.get(name, refused)
        assert refused > 0


def _as_wanted(reply: httpx.Response, status: int) -> bool:
    """Whether a reply refuses with `status`, or, where that is 0, does what it is asked for; then
    it may still say that something is missing or out of date, but not that it cannot be read."""
    problem = reply.headers.get("content-type", "") == "application/problem+json"
    code = reply.json()["code"] if problem else ""
    if status:
        return (reply.status_code, code) == (
            status,
            {403: "not_allowed", 404: "not_found"}[status],
        )
    return (
        reply.status_code not in (401, 403)
        and code != "unreadable"
        and (reply.status_code < 500 or reply.status_code == 503)
    )


@pytest.mark.parametrize("name", ["stranger"])
async def test_what_one_has_no_part_in_is_as_if_it_were_not_there(
    context: Context, app_of: httpx.ASGITransport, scene: Scene, other: Account, name: str
) -> None:
    compared = 0
    async with persona(context, app_of, scene, name) as visitor:
        for route, need in NEEDS.items():
            if "{id}" in route and need in (*IN_THING, "clearance"):
                there = await asked(visitor, route, filled(route, scene))
                gone = await asked(visitor, route, filled(route, scene, own=False))
                assert there.status_code == gone.status_code == 404, route
                assert there.json() == gone.json(), route
                compared += 1
        assert (await visitor.get(Q)).json() == []
        assert (await visitor.get(R)).json() == []
        assert (await visitor.get(f"/try/{scene.id}")).status_code == 404
    assert compared > 40


async def test_nobody_gets_anything_without_signing_in(anybody: Visitor, scene: Scene) -> None:
    for route in NEEDS:
        reply = await anybody.request(route.partition(" ")[0], filled(route, scene), content=b"{")
        assert reply.status_code == 401, route
        assert reply.json()["code"] == "not_signed_in"


async def test_nothing_is_changed_without_the_token_of_the_page(
    coordinator: Visitor, scene: Scene
) -> None:
    coordinator.headers["X-CSRF-Token"] = "made up"
    for route in NEEDS:
        method = route.partition(" ")[0]
        if method in CHANGING:
            reply = await coordinator.request(method, filled(route, scene), json={})
            assert reply.status_code == 403, route


async def test_a_right_that_is_taken_away_is_gone_with_the_next_request(
    context: Context, app_of: httpx.ASGITransport, scene: Scene
) -> None:
    async with persona(context, app_of, scene, "reader of the thing") as visitor:
        address = f"{Q}/{scene.id}/entries"
        assert (await visitor.get(address)).status_code == 200
        async with context.engine.begin() as conn:
            (part,) = await parts.of_thing(conn, "questionnaire", scene.id)
            await parts.take(conn, "questionnaire", scene.id, part.id)
        assert (await visitor.get(address)).status_code == 404


async def test_a_template_that_one_may_not_see_is_not_one(
    context: Context, app_of: httpx.ASGITransport, scene: Scene
) -> None:
    """Who may begin in the whole office may see all of it; nobody else begins anything."""
    owner = replace(scene.coordinator, role="owner")
    id = await questionnaires.add(context, owner, "Secret", None)
    async with persona(context, app_of, scene, "coordinator of the thing") as visitor:
        reply = await visitor.post(Q, json={"title": "x", "template": str(id)})
        assert reply.status_code == 403


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
    if "enum" in schema:
        return schema["enum"][0]
    if "anyOf" in schema:
        return None
    kinds: dict[str, Any] = {"integer": 1, "string": "x", "boolean": False, "array": []}
    return kinds.get(schema.get("type", ""), {})
