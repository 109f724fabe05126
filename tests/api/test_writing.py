"""Writing over the API: outlines, company, editions and their changes, files in and out."""

import json
from datetime import timedelta

import pytest
from fhir.resources.R4B.questionnaire import Questionnaire as Resource

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.demo.load import documents
from tests.api.conftest import Visitor
from tests.conftest import Clock
from tests.documents import item, page, questionnaire

DOCUMENT = questionnaire(page("p", item("short_text", "name")))


async def made(coordinator: Visitor, document: Questionnaire = DOCUMENT) -> str:
    body = document.model_dump_json()
    reply = await coordinator.post("/api/questionnaires/files", content=body)
    return f"/api/questionnaires/{reply.json()['id']}"


async def save(coordinator: Visitor, base: str, document: Questionnaire) -> int:
    revision = (await coordinator.get(f"{base}/draft")).json()["revision"]
    body = {"revision": revision, "document": document.model_dump(mode="json")}
    reply = await coordinator.put(f"{base}/draft", json=body)
    saved: int = reply.json()["revision"]
    return saved


async def test_an_outline_comes_back_as_questions(coordinator: Visitor) -> None:
    body = {"text": "How many? *\nWhy?", "language": "en", "taken": ["how_many"]}
    (found,) = (await coordinator.post("/api/outlines", json=body)).json()["pages"]
    assert [(one["line"], one["item"]["kind"], one["item"]["key"]) for one in found["items"]] == [
        (1, "number", "how_many_2"),
        (2, "long_text", "why"),
    ]
    long = {"text": "x" * 200_001, "language": "en", "taken": []}
    assert (await coordinator.post("/api/outlines", json=long)).status_code == 422


async def test_two_tabs_see_each_other_and_silence_counts_as_gone(
    coordinator: Visitor, reviewer: Visitor, clock: Clock
) -> None:
    base = await made(coordinator)
    one = {"tab": "a" * 32, "at": "name"}
    alone = (await coordinator.post(f"{base}/draft/presence", json=one)).json()
    assert alone == {"revision": 1, "others": []}
    other = {"tab": "b" * 32, "at": ""}
    seen = (await reviewer.post(f"{base}/draft/presence", json=other)).json()["others"]
    assert [(found["tab"], found["at"]) for found in seen] == [("a" * 32, "name")]
    await save(coordinator, base, DOCUMENT)
    again = (await coordinator.post(f"{base}/draft/presence", json=one)).json()
    assert (again["revision"], len(again["others"])) == (2, 1)
    clock.move(timedelta(seconds=13))
    silent = (await reviewer.post(f"{base}/draft/presence", json=other)).json()
    assert silent["others"] == []
    wrong = {"tab": "not hex", "at": ""}
    assert (await reviewer.post(f"{base}/draft/presence", json=wrong)).status_code == 422


async def test_editions_are_listed_read_and_told_apart(coordinator: Visitor) -> None:
    base = await made(coordinator)
    assert (await coordinator.get(f"{base}/draft/changes")).json() == {
        "edition": None,
        "changes": [],
    }
    await coordinator.post(f"{base}/editions", json={"revision": 1})
    later = questionnaire(page("p", item("short_text", "name", required=True)))
    revision = await save(coordinator, base, later)
    told = {
        "edition": 1,
        "changes": [{"at": "pages/p/items/name", "says": "name is required now."}],
    }
    assert (await coordinator.get(f"{base}/draft/changes")).json() == told
    await coordinator.post(f"{base}/editions", json={"revision": revision})
    assert (await coordinator.get(f"{base}/editions/2/changes")).json() == told
    assert (await coordinator.get(f"{base}/editions/1/changes")).json()["edition"] is None
    listed = (await coordinator.get(f"{base}/editions")).json()
    assert [one["number"] for one in listed] == [2, 1]
    first = (await coordinator.get(f"{base}/editions/1")).json()
    assert Questionnaire.model_validate(first["document"]) == DOCUMENT
    assert (await coordinator.get(f"{base}/editions/3")).status_code == 404
    assert (await coordinator.get(f"{base}/editions/3/changes")).status_code == 404


async def test_a_file_taken_out_is_brought_in_the_same(coordinator: Visitor) -> None:
    document = documents()["private_well_check"]
    base = await made(coordinator, document)
    file = await coordinator.get(f"{base}/draft/file")
    assert file.headers["content-disposition"].endswith("Private%20well%20check.json")
    reply = await coordinator.post("/api/questionnaires/files", content=file.content)
    assert reply.status_code == 201
    draft = (await coordinator.get(f"/api/questionnaires/{reply.json()['id']}/draft")).json()
    assert Questionnaire.model_validate(draft["document"]) == document
    schema = (await coordinator.get("/api/questionnaires/schema")).json()
    assert schema["$schema"] == "https://json-schema.org/draft/2020-12/schema"


async def test_fhir_out_and_in_says_what_is_lost(coordinator: Visitor) -> None:
    base = await made(coordinator, documents()["private_well_check"])
    fhir = await coordinator.get(f"{base}/draft/fhir")
    assert fhir.headers["content-type"] == "application/fhir+json"
    Resource.model_validate(fhir.json())
    left = (await coordinator.get(f"{base}/draft/fhir/left-out")).json()["left"]
    assert "taps: the rows." in left
    reply = await coordinator.post("/api/questionnaires/files", content=fhir.content)
    assert reply.status_code == 201
    assert reply.json()["left"]


@pytest.mark.parametrize("data", [b"{", b"[]", b'{"resourceType": "Questionnaire", "item": 1}'])
async def test_a_broken_file_changes_nothing(coordinator: Visitor, data: bytes) -> None:
    before = len((await coordinator.get("/api/questionnaires")).json())
    reply = await coordinator.post("/api/questionnaires/files", content=data)
    assert reply.status_code == 422
    assert reply.json()["faults"][0]["message"]
    assert len((await coordinator.get("/api/questionnaires")).json()) == before


async def test_a_reviewer_brings_nothing_in_and_copies_nothing(
    coordinator: Visitor, reviewer: Visitor
) -> None:
    base = await made(coordinator)
    data = json.dumps(DOCUMENT.model_dump(mode="json")).encode()
    assert (await reviewer.post("/api/questionnaires/files", content=data)).status_code == 403
    assert (await reviewer.post(f"{base}/copies")).status_code == 403


async def test_a_copy_is_another_draft(coordinator: Visitor) -> None:
    base = await made(coordinator)
    copied = (await coordinator.post(f"{base}/copies")).json()["id"]
    draft = (await coordinator.get(f"/api/questionnaires/{copied}/draft")).json()["document"]
    assert draft["title"] == {"en": "Test (copy)"}
    assert draft["pages"] == (await coordinator.get(f"{base}/draft")).json()["document"]["pages"]
