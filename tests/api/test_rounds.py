"""Rounds over HTTP: written, drawn, followed; what is wrong is told with its place."""

from typing import Any
from uuid import UUID, uuid4

import httpx
import pytest

from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.contacts import contacts, lists
from tests.api.conftest import Visitor
from tests.scenes import Scene

TEXT = {"subject": {"en": "Your well"}, "body": {"en": "Dear {contact.name}"}}
STEP = {"key": "first", "name": "First", "way": "mail", "after": 0, "text": TEXT}


@pytest.fixture
async def list_id(scene: Scene, context: Context) -> str:
    made = await lists.add(context, scene.coordinator, "Wells")
    for n in range(3):
        values = {"name": f"Keeper {n}", "email": f"keeper{n}@example.org"}
        await contacts.add(context, scene.coordinator, values, made)
    return str(made)


def round_of(list_id: str, **more: Any) -> dict[str, Any]:
    return {"name": "Autumn", "people": {"list_id": list_id}, "steps": [STEP], **more}


async def test_a_round_from_its_making_to_its_names(
    coordinator: Visitor, scene: Scene, context: Context, list_id: str
) -> None:
    at = f"/api/questionnaires/{scene.id}/rounds"
    made = (await coordinator.post(at, json=round_of(list_id))).json()
    assert (made["state"], made["drawn"], made["faults"]) == ("draft", None, [])
    one = f"{at}/{made['id']}"
    bad = {**STEP, "text": {**TEXT, "body": {"en": "{contact.shoe}"}}}
    saved = await coordinator.put(
        one, json={"revision": 1, "round": round_of(list_id, steps=[bad])}
    )
    assert [fault["at"] for fault in saved.json()["faults"]] == ["steps/first/text/body/en"]
    stale = await coordinator.put(one, json={"revision": 1, "round": round_of(list_id)})
    assert (stale.status_code, stale.json()["code"]) == (409, "stale")
    await coordinator.put(one, json={"revision": 2, "round": round_of(list_id)})
    sample = await coordinator.post(f"{at}/sample", json=round_of(list_id, draw={"size": 2}))
    assert sample.json() == {"of": {"": 3}, "drawn": {"": 2}}
    drawn = (await coordinator.post(f"{one}/draw", json={"seed": "s"})).json()
    assert (drawn["state"], drawn["drawn_from"], len(drawn["portions"])) == ("running", 3, 1)
    assert (await coordinator.post(f"{one}/draw", json={})).status_code == 422
    work = (await coordinator.post(f"{one}/release")).json()
    await doing.do(context, UUID(work["id"]))
    progress = (await coordinator.get(f"{one}/progress")).json()
    assert (progress["drawn"], progress["released"], progress["reached"]) == (3, 3, 0)
    assert progress["strata"] == {"": {"open": 3}}
    assert [(each["step"], each["people"]) for each in progress["ahead"]] == [("first", 3)]
    assert len(progress["rates"]) == 16
    people = (await coordinator.get(f"{one}/people", params={"stands": "open"})).json()
    assert sorted(each["name"] for each in people["people"]) == [f"Keeper {n}" for n in range(3)]
    assert (await coordinator.get(f"{one}/people", params={"stands": "refused"})).json() == {
        "people": [],
        "more": False,
    }
    assert (await coordinator.delete(one)).status_code == 422


async def test_what_is_not_there_is_not_found(coordinator: Visitor, scene: Scene) -> None:
    one = f"/api/questionnaires/{scene.id}/rounds/{uuid4()}"
    for path in (one, f"{one}/progress", f"{one}/people", f"{one}/worklist"):
        assert (await coordinator.get(path)).status_code == 404, path


@pytest.mark.parametrize(
    "wrong",
    [
        {"name": ""},
        {"name": "R", "steps": [{**STEP, "key": "First step"}]},
        {"name": "R", "steps": [{**STEP, "way": "pigeon"}]},
        {"name": "R", "draw": {"size": -1}},
        {"name": "R", "unknown": 1},
    ],
)
async def test_what_is_no_round_is_refused(
    coordinator: Visitor, scene: Scene, wrong: dict[str, Any]
) -> None:
    reply: httpx.Response = await coordinator.post(
        f"/api/questionnaires/{scene.id}/rounds", json=wrong
    )
    assert reply.status_code == 422


async def test_dispositions_are_listed_in_their_order(coordinator: Visitor, scene: Scene) -> None:
    codes = [one["code"] for one in (await coordinator.get("/api/dispositions")).json()]
    assert codes == sorted(codes, key=lambda code: [int(part) for part in code.split(".")][:1])
    assert {"1.1", "2.112", "3.19", "4.70"} <= set(codes)
