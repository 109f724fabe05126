"""Figures over HTTP: what is told of each question, and the table behind all pictures."""

import csv
import io
import json
from typing import Any
from urllib.parse import quote

from jotgate.services import entry_rows
from jotgate.services.context import Context
from tests.api.conftest import Visitor
from tests.scenes import SECRET, Scene


def _written(view: dict[str, Any]) -> str:
    return quote(json.dumps(view))


async def test_each_question_with_its_picture(coordinator: Visitor, scene: Scene) -> None:
    await scene.submit("a", drinkers="3")
    await scene.submit("b", source="mains")
    await scene.submit("c", ill=True, illness=SECRET)
    reply = await coordinator.get(f"/api/questionnaires/{scene.id}/figures")
    assert reply.status_code == 200
    found = reply.json()
    assert (found["entries"], found["total"], found["lag"]) == (3, 3, 0)
    told = {one["key"]: one for page in found["pages"] for one in page["questions"]}
    source = told["source"]
    assert (source["asked"], source["answered"], source["kind"]) == (3, 3, "pick_one")
    bars = source["picture"]["bars"]
    assert [(one["label"], one["count"]) for one in bars] == [("Own", 2), ("Mains", 1)]
    assert bars[0]["low"] < bars[0]["share"] < bars[0]["high"]
    assert (told["drinkers"]["asked"], told["drinkers"]["answered"]) == (2, 1)
    assert told["drinkers"]["picture"]["spread"]["mean_low"] is None
    restricted = {key for key, one in told.items() if one["restricted"]}
    assert restricted == {"ill", "illness"}
    assert {told[key]["answered"] for key in restricted} == {0}
    assert SECRET not in reply.text


async def test_all_of_them_as_a_table(coordinator: Visitor, scene: Scene, context: Context) -> None:
    await scene.submit("a", name="=1+1", drinkers="3")
    await scene.submit("b", name="=1+1", source="mains")
    base = f"/api/questionnaires/{scene.id}/figures-export"
    reply = await coordinator.get(base)
    assert reply.headers["content-type"] == "text/csv; charset=utf-8"
    head, *lines = csv.reader(io.StringIO(reply.text))
    assert head == ["key", "question", "inside", "row", "what", "number", "share", "from", "to"]
    of_source = [line[3:7] for line in lines if line[0] == "source"]
    assert of_source == [
        ["", "asked", "2", ""],
        ["", "left empty", "0", ""],
        ["", "answered", "2", ""],
        ["Own", "answers", "1", "0.5"],
        ["Mains", "answers", "1", "0.5"],
    ]
    drinkers = {line[4]: line[5] for line in lines if line[0] == "drinkers"}
    assert (drinkers["asked"], drinkers["left empty"], drinkers["median"]) == ("1", "0", "3")
    texts = [line[3] for line in lines if line[0] == "name" and line[4] == "answers"]
    assert texts == ["'=1+1"], "no program computes it"
    asked = {"filter": {"op": "is", "item": "source", "value": "mains"}}
    behind = await coordinator.get(f"/api/questionnaires/{scene.id}/figures?view={_written(asked)}")
    assert (behind.json()["entries"], behind.json()["lag"]) == (0, 2), "not found by a filter yet"
    await entry_rows.catch_up(context)
    filtered = await coordinator.get(f"{base}?view={_written(asked)}&of=asked")
    assert "Mains,answers,1,1," in filtered.text
    assert "illness" not in reply.text


async def test_one_question_by_another(coordinator: Visitor, scene: Scene) -> None:
    base = f"/api/questionnaires/{scene.id}/figures-crossing"
    for n in range(6):
        of = {"source": "own" if n < 4 else "mains"}
        await scene.submit(f"s{n}", f"district={'saltings' if n % 2 else 'millbeck'}", **of)
    reply = await coordinator.get(f"{base}?rows=district&columns=source")
    assert reply.status_code == 200
    found = reply.json()
    assert (found["total"], found["columns"], found["totals"]) == (6, ["Own", "Mains"], [4, 2])
    told = [(row["label"], [one["count"] for one in row["cells"]]) for row in found["rows"]]
    assert told == [("Saltings", [2, 1]), ("Millbeck", [2, 1])]
    assert found["test"]["p"] == 1
    assert found["rows"][0]["cells"][0]["expected"] == 2
    for rows in ("name", "ill", "nothing", "entry.status"):
        reply = await coordinator.get(f"{base}?rows={rows}&columns=source")
        assert reply.status_code == 422
        assert rows in reply.json()["detail"]


async def test_a_filter_that_asks_for_what_is_not_there(coordinator: Visitor, scene: Scene) -> None:
    asked = {"filter": {"op": "is", "item": "nothing", "value": "x"}}
    base = f"/api/questionnaires/{scene.id}/figures"
    reply = await coordinator.get(f"{base}?view={_written(asked)}")
    assert reply.status_code in (200, 422)
    await scene.submit("a")
    reply = await coordinator.get(f"{base}?view={_written(asked)}")
    assert reply.status_code == 422
    assert "nothing" in reply.json()["detail"]
    assert (await coordinator.get(f"{base}?of=everybody")).status_code == 422
