"""Without clearance no response body has a restricted answer, whatever is asked for."""

import json
import re
from io import BytesIO
from typing import Any
from urllib.parse import quote

from pypdf import PdfReader

from jotgate.services import entry_rows
from jotgate.services.context import Context
from tests.api.conftest import Visitor
from tests.api.routes import NEEDS
from tests.api.test_rights import filled
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


VIEWS: tuple[dict[str, Any], ...] = (
    {},
    {"search": SECRET},
    {"search": "cramps"},
    {"filter": {"op": "contains", "item": "illness", "value": "cramps"}},
    {"filter": {"op": "not", "part": {"op": "unanswered", "item": "ill"}}},
    {"sort": [{"column": "illness"}]},
    {"group": "ill"},
    {"filter": {"op": "is", "item": "name", "value": "Ines"}},
)


async def test_no_route_has_it_whatever_is_looked_for(
    reviewer: Visitor, coordinator: Visitor, scene: Scene, context: Context
) -> None:
    """Every route that reads, and every view, export and print of entries: what is told of two
    entries is the same but for what tells them apart."""
    await scene.submit("a", "district=saltings", ill=True, illness=SECRET)
    await scene.submit("b", "district=saltings")
    await entry_rows.catch_up(context)
    base = f"/api/questionnaires/{scene.id}"
    ids = [one["id"] for one in (await coordinator.get(f"{base}/entries")).json()["entries"]]
    asked = [filled(one, scene) for one in NEEDS if one.startswith("get ")]
    asked += [re.sub(r"(?<=/entries/)[0-9a-f-]{36}", id, one) for one in asked for id in ids]
    views = [quote(json.dumps(view)) for view in VIEWS]
    looks = [f"{base}/{what}?view={one}" for what in LOOKED for one in views]
    looks += [f"{base}/entries-export?format={one}&codes=true" for one in ("csv", "xlsx", "jsonl")]
    looks += [f"{base}/entries-print?numbers=1,2&empty=true"]
    answered = 0
    for visitor in (reviewer, coordinator):
        for path in dict.fromkeys([*asked, *looks]):
            reply = await visitor.get(path)
            assert reply.status_code < 500, path
            assert SECRET not in reply.text, path
            answered += reply.status_code == 200
        found = await visitor.get(f"{base}/entries-print?numbers=1,2&empty=true")
        words = [one.extract_text() for one in PdfReader(BytesIO(found.content)).pages]
        assert SECRET not in "".join(words)
        apart = r"000\d|\d / 2"
        assert re.sub(apart, "", words[0]) == re.sub(apart, "", words[1])
    assert answered > 60


LOOKED = ("entries", "entry-count", "entry-groups", "entries-export", "figures", "figures-export")


async def test_no_view_tells_which_entry_has_one(
    reviewer: Visitor, scene: Scene, context: Context
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    await scene.submit("b")
    await entry_rows.catch_up(context)
    base = f"/api/questionnaires/{scene.id}"
    for view in VIEWS[1:-1]:
        for what in LOOKED:
            reply = await reviewer.get(f"{base}/{what}?view={quote(json.dumps(view))}")
            if reply.status_code == 200 and what == "entries":
                assert reply.json()["entries"] == []
            elif reply.status_code == 200 and what == "entry-count":
                assert reply.json() == {"entries": 0}
            else:
                assert reply.status_code in (200, 422), (view, what)
