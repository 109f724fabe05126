"""Without clearance no response body has a restricted answer, whatever is asked for."""

from tests.api.conftest import Visitor
from tests.scenes import SECRET, Scene


async def paths(visitor: Visitor, scene: Scene) -> list[str]:
    base = f"/api/questionnaires/{scene.id}"
    entries = (await visitor.get(f"{base}/entries")).json()["entries"]
    return [
        "/api/questionnaires",
        base,
        *(f"{base}/{part}" for part in ("draft", "editions/newest", "gate", "dispatch", "entries")),
        *(f"{base}/entries/{entry['id']}" for entry in entries),
        "/api/registers",
        f"/api/registers/{scene.saltings.id}",
        "/api/trail",
        "/api/mail-room",
    ]


async def test_restricted_answers_are_absent(
    reviewer: Visitor, coordinator: Visitor, scene: Scene
) -> None:
    await scene.submit("a", "district=saltings", ill=True, illness=SECRET)
    await scene.submit("b", "district=saltings")
    for visitor in (reviewer, coordinator):
        for path in await paths(visitor, scene):
            reply = await visitor.get(path)
            assert reply.status_code in (200, 403, 404), path
            assert SECRET not in reply.text


async def test_nor_is_it_told_which_were_answered(reviewer: Visitor, scene: Scene) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    await scene.submit("b")
    reply = (await reviewer.get(f"/api/questionnaires/{scene.id}/entries")).json()
    assert reply["cleared"] is False
    assert [entry["withheld"] for entry in reply["entries"]] == [None, None]
    for entry in reply["entries"]:
        read = await reviewer.get(f"/api/questionnaires/{scene.id}/entries/{entry['id']}")
        assert read.json()["entry"]["withheld"] is None


async def test_only_revealing_brings_them(
    reviewer: Visitor, coordinator: Visitor, scene: Scene
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    base = f"/api/questionnaires/{scene.id}/entries"
    id = (await coordinator.get(base)).json()["entries"][0]["id"]
    refused = await reviewer.post(f"{base}/{id}/revealed")
    assert refused.status_code == 403
    assert SECRET not in refused.text
    revealed = await coordinator.post(f"{base}/{id}/revealed")
    assert revealed.json() == {
        "answers": {"ill": "Yes", "illness": SECRET},
        "finish": "",
        "details": {},
    }
    trail = (await coordinator.get("/api/trail")).json()["marks"]
    assert trail[0]["action"] == "restricted_seen"
