"""The public routes: nothing but what the page shows comes out, anything may come in."""

from html import escape
from typing import Any
from uuid import uuid4

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from jotgate.services.context import Context
from tests.api.conftest import Visitor
from tests.core.answers.test_checks import JSON_SENT
from tests.scenes import Scene

KEY = {"Idempotency-Key": "0123456789abcdef"}


async def ask(anybody: Visitor, scene: Scene, **body: Any) -> Any:
    reply = await anybody.post(f"/api/public/{scene.address}/page", json={"edition": 1, **body})
    return reply.json()


async def test_a_page_holds_only_what_is_shown(anybody: Visitor, scene: Scene) -> None:
    first = await ask(anybody, scene, move="begin")
    assert [item["key"] for item in first["items"]] == ["hello", "name", "source"]
    assert (first["watched"], first["last"], first["before"]) == (["source"], False, None)
    started = {"name": "Ines", "source": "own"}
    second = await ask(anybody, scene, move="onward", at="start", answers=started)
    assert [item["key"] for item in second["items"]] == ["drinkers", "ill"]
    assert (second["watched"], second["last"], second["before"]) == (["ill"], True, "start")
    third = await ask(anybody, scene, move="stay", at="health", answers={**started, "ill": True})
    assert [item["key"] for item in third["items"]] == ["drinkers", "ill", "illness"]


async def test_the_first_page_comes_in_the_html_without_other_pages(
    anybody: Visitor, scene: Scene
) -> None:
    link = "?district=Saltings&name=Ines%3C/script%3E"
    page = await anybody.get(f"/q/{scene.address}{link}")
    assert page.status_code == 200
    assert '"key":"source"' in page.text
    assert "\\u003c/script>" in page.text
    without_link = page.text.replace(link, "").replace(escape(link), "")
    for hidden in ("district", "illness", "Drinkers", "Saltings", "Millbeck"):
        assert hidden not in without_link


async def test_one_drawing_serves_every_link(
    anybody: Visitor, scene: Scene, context: Context
) -> None:
    """What is kept of a page is nobody's own; what a link fills in is drawn for it alone."""
    first = await anybody.get(f"/q/{scene.address}?district=saltings")
    other = await anybody.get(f"/q/{scene.address}?district=millbeck")
    assert len(context.pages_kept) == 1
    assert "millbeck" not in first.text
    assert "saltings" not in other.text
    filled = await anybody.get(f"/q/{scene.address}?name=Ines")
    assert 'value="Ines"' in filled.text
    assert len(context.pages_kept) == 1


async def test_pages_are_sent_compressed_to_those_who_take_that(
    anybody: Visitor, scene: Scene
) -> None:
    address = f"/q/{scene.address}"
    small = await anybody.get(address, headers={"Accept-Encoding": "gzip"})
    plain = await anybody.get(address, headers={"Accept-Encoding": "identity"})
    assert small.headers["Content-Encoding"] == "gzip"
    assert "Content-Encoding" not in plain.headers
    assert int(small.headers["Content-Length"]) * 2 < int(plain.headers["Content-Length"])


async def test_refusals_are_plain_pages(anybody: Visitor, scene: Scene) -> None:
    page = await anybody.get("/q/nowhere")
    assert page.status_code == 404
    assert "There is no questionnaire at this address." in page.text


async def test_failures_stay_on_the_page(anybody: Visitor, scene: Scene) -> None:
    page = await ask(anybody, scene, move="onward", at="start", answers={"name": "x" * 41})
    assert page["key"] == "start"
    assert [(fault["at"], fault["code"]) for fault in page["faults"]] == [
        ("name", "too_long"),
        ("source", "required"),
    ]


async def test_submitting_again_says_the_same(anybody: Visitor, scene: Scene) -> None:
    path = f"/api/public/{scene.address}/entries"
    body = {"edition": 1, "answers": {"name": "Ines", "source": "mains"}}
    first = await anybody.post(path, json=body, headers=KEY)
    again = await anybody.post(path, json=body, headers=KEY)
    assert first.status_code == again.status_code == 201
    nothing = {"message": "", "onward": None, "continues": "", "changes": False}
    said = {"kind": "finish", "heading": "None", **nothing}
    assert first.json() == again.json() == said
    assert (await anybody.post(path, json=body)).status_code == 422


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    answers=st.dictionaries(
        st.sampled_from(["name", "source", "drinkers", "ill", "illness", "district", "hello", "x"]),
        JSON_SENT,
        max_size=6,
    ),
    move=st.sampled_from(["begin", "stay", "onward"]),
    at=st.sampled_from(["start", "health", "nowhere", ""]),
    link=st.text(max_size=40),
)
async def test_whatever_is_sent_is_answered_without_a_fault_of_ours(
    anybody: Visitor, scene: Scene, answers: Any, move: str, at: str, link: str
) -> None:
    body = {"edition": 1, "answers": answers, "link": link}
    page = await anybody.post(
        f"/api/public/{scene.address}/page", json={**body, "move": move, "at": at}
    )
    entry = await anybody.post(
        f"/api/public/{scene.address}/entries",
        json=body,
        headers={"Idempotency-Key": str(uuid4())},
    )
    assert page.status_code in (200, 422)
    assert entry.status_code in (201, 422)


async def test_what_an_entry_holds_can_be_fetched(coordinator: Visitor, scene: Scene) -> None:
    path = f"/api/questionnaires/{scene.id}/editions/newest/entry-schema"
    reply = await coordinator.get(path)
    assert reply.headers["content-type"] == "application/schema+json"
    validator = Draft202012Validator(reply.json())
    assert validator.is_valid({"name": "Ines", "source": "own", "drinkers": 4})
    assert not validator.is_valid({"name": "Ines", "source": "elsewhere"})
    assert not validator.is_valid({"source": "own"})
