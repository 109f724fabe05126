"""Pages to share over HTTP: made by staff, read by whoever has the address, taken back."""

import asyncio
import csv
import io
from dataclasses import replace
from datetime import timedelta
from typing import Any

import httpx
import pytest
from PIL import Image
from pypdf import PdfReader

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.services.context import Context
from jotgate.services.shared_pages import FRESH
from jotgate.services.staff import questionnaires
from tests.api.conftest import BASE, Visitor
from tests.conftest import Clock
from tests.documents import well_check
from tests.scenes import SECRET, Scene, save
from tests.services.test_dispatch_print import TooSlow

PARTS: list[dict[str, Any]] = [
    {"kind": "words", "words": "# Water\n\nWhat *you* told us."},
    {"kind": "figure", "key": "source"},
    {"kind": "arrivals"},
]


def content(**changed: Any) -> dict[str, Any]:
    return {"title": "What wells tell us", "language": "en", "parts": PARTS, **changed}


def pages_of(scene: Scene) -> str:
    return f"/api/questionnaires/{scene.id}/shared-pages"


async def made(visitor: Visitor, scene: Scene, live: bool = True, **changed: Any) -> Any:
    given = {"content": content(**changed), "live": live}
    reply = await visitor.post(pages_of(scene), json=given)
    assert reply.status_code == 201, reply.text
    return reply.json()


def path(page: Any) -> str:
    return str(page["address"]).removeprefix(BASE)


async def test_whoever_has_the_address_sees_it(
    coordinator: Visitor, anybody: Visitor, scene: Scene
) -> None:
    await scene.submit("a")
    await scene.submit("b", source="mains", ill=True, illness=SECRET)
    page = await made(coordinator, scene)
    assert page["address"].startswith(f"{BASE}/figures/")
    reply = await anybody.get(path(page))
    assert reply.status_code == 200
    assert reply.headers["cache-control"] == "no-store"
    assert "script-src" not in reply.headers["content-security-policy"]
    assert reply.headers["content-security-policy"].startswith("default-src 'none'")
    assert "<em>you</em>" in reply.text
    assert "Entries: 2" in reply.text
    assert ">Own</th><td>1</td><td>50 %</td>" in reply.text
    assert "set-cookie" not in reply.headers
    assert SECRET not in reply.text
    pdf = await anybody.get(f"{path(page)}/pdf")
    assert pdf.headers["content-type"] == "application/pdf"
    read = " ".join(one.extract_text() for one in PdfReader(io.BytesIO(pdf.content)).pages)
    assert "What wells tell us" in read
    assert "Mains" in read


@pytest.mark.parametrize("live", [True, False])
async def test_words_that_people_wrote_are_not_on_it(
    coordinator: Visitor, anybody: Visitor, scene: Scene, live: bool
) -> None:
    for key in ("a", "b"):
        await scene.submit(key, name="Ines Raghavan")
    page = await made(coordinator, scene, live=live, parts=[{"kind": "figure", "key": "name"}])
    reply = await anybody.get(path(page))
    assert "Different answers: 1" in reply.text
    assert "Raghavan" not in reply.text


async def test_a_live_page_follows_and_the_other_stays(
    coordinator: Visitor, anybody: Visitor, scene: Scene, clock: Clock
) -> None:
    await scene.submit("a")
    live, then = await made(coordinator, scene), await made(coordinator, scene, live=False)
    assert (live["counted"], then["counted"]) == (None, "2026-11-25T09:30:00Z")
    assert "Entries: 1" in (await anybody.get(path(live))).text
    await scene.submit("b")
    assert "Entries: 1" in (await anybody.get(path(live))).text, "not counted for each who looks"
    clock.move(FRESH)
    assert "Entries: 2" in (await anybody.get(path(live))).text
    assert "Entries: 1" in (await anybody.get(path(then))).text
    again = {"content": content(), "live": False, "revision": 1}
    one = f"{pages_of(scene)}/{then['id']}"
    assert (await coordinator.put(one, json=again)).json()["revision"] == 2
    assert "Entries: 2" in (await anybody.get(path(then))).text, "counted anew when it was changed"
    stale = await coordinator.put(one, json=again)
    assert (stale.status_code, stale.json()["code"]) == (409, "stale")
    assert "somebody changed" in stale.json()["detail"].lower()


async def test_what_is_changed_is_seen_at_once(
    coordinator: Visitor, anybody: Visitor, scene: Scene
) -> None:
    await scene.submit("a")
    page = await made(coordinator, scene)
    assert "Entries: 1" in (await anybody.get(path(page))).text
    none = {"op": "is", "item": "source", "value": "mains"}
    given = {"content": content(filter=none), "live": True, "revision": 1}
    reply = await coordinator.put(f"{pages_of(scene)}/{page['id']}", json=given)
    assert reply.status_code == 200
    assert "Entries: 0" in (await anybody.get(path(page))).text


async def test_it_is_taken_back(
    coordinator: Visitor, anybody: Visitor, scene: Scene, clock: Clock
) -> None:
    await scene.submit("a")
    page = await made(coordinator, scene)
    one = f"{pages_of(scene)}/{page['id']}"
    before = path(page)
    closed = (await coordinator.put(f"{one}/closed", json={"closed": True})).json()
    assert closed["closed"] == "2026-11-25T09:30:00Z"
    await gone(anybody, before)
    opened = (await coordinator.put(f"{one}/closed", json={"closed": False})).json()
    assert opened["closed"] is None
    await gone(anybody, before)
    assert (await anybody.get(path(opened))).status_code == 200
    until = (clock.now() + timedelta(hours=1)).isoformat()
    given = {"content": content(until=until), "live": True, "revision": opened["revision"]}
    assert (await coordinator.put(one, json=given)).status_code == 200
    assert (await anybody.get(path(opened))).status_code == 200
    clock.move(timedelta(hours=1))
    await gone(anybody, path(opened))
    assert (await coordinator.delete(one)).status_code == 204
    assert (await coordinator.get(one)).status_code == 404
    assert (await coordinator.get(pages_of(scene))).json() == []
    trail = (await coordinator.get("/api/trail")).json()["marks"]
    told = [each["detail"]["state"] for each in trail if each["action"] == "page_shared"]
    assert told == ["removed", "changed", "opened", "closed", "made"]


async def gone(anybody: Visitor, at: str) -> None:
    for there in (at, f"{at}/pdf"):
        reply = await anybody.get(there)
        assert reply.status_code == 404
        assert "This page is not here" in reply.text


async def test_an_address_that_nobody_was_given(anybody: Visitor, scene: Scene) -> None:
    """In the language of whoever looks."""
    for token in ("x", "a" * 500, "é", "'"):
        reply = await anybody.get(f"/figures/{token}", headers={"Accept-Language": "ar"})
        assert reply.status_code == 404
        assert '<html lang="ar" dir="rtl">' in reply.text


@pytest.mark.parametrize("live", [True, False])
async def test_what_becomes_restricted_is_not_shown_any_more(
    coordinator: Visitor, anybody: Visitor, scene: Scene, live: bool
) -> None:
    await scene.submit("a")
    page = await made(coordinator, scene, live=live)
    assert ">Own</th>" in (await anybody.get(path(page))).text
    await _restricted(scene, "source")
    reply = await anybody.get(path(page))
    assert ">Own</th>" not in reply.text
    assert "This question is not shown any more." in reply.text


async def _restricted(scene: Scene, key: str) -> None:
    before = well_check().model_dump(mode="json")
    for page in before["pages"]:
        for item in page["items"]:
            if item["key"] == key:
                item["restricted"] = True
    after = Questionnaire.model_validate(before)
    await save(scene.context, scene.coordinator, scene.id, after, 1)
    await questionnaires.publish(scene.context, scene.coordinator, scene.id, 2)


@pytest.mark.parametrize(
    ("changed", "code"),
    [
        ({"language": "fi"}, "no_language"),
        ({"parts": [{"kind": "figure", "key": "nothing"}]}, "no_figure"),
        ({"parts": [{"kind": "figure", "key": "illness"}]}, "no_figure"),
        ({"filter": {"op": "is", "item": "illness", "value": "x"}}, None),
        ({"filter": {"op": "is", "item": "nothing", "value": "x"}}, None),
        ({"title": " "}, "unreadable"),
        ({"parts": [{"kind": "words", "words": ""}]}, "unreadable"),
        ({"parts": PARTS * 21}, "unreadable"),
        ({"until": "2026-12-01T10:00:00"}, "unreadable"),
    ],
)
async def test_what_cannot_be_shown_is_said(
    coordinator: Visitor, scene: Scene, changed: dict[str, Any], code: str | None
) -> None:
    given = {"content": content(**changed)}
    reply = await coordinator.post(pages_of(scene), json=given)
    assert reply.status_code == 422, reply.text
    told = reply.json()
    if code != "unreadable":
        assert told["code"] == "invalid"
        assert code in (None, told["faults"][0]["code"])
    assert (await coordinator.get(pages_of(scene))).json() == []


async def test_who_may_only_read_makes_none(
    coordinator: Visitor, reviewer: Visitor, scene: Scene
) -> None:
    page = await made(coordinator, scene)
    assert (await reviewer.get(pages_of(scene))).json() == [page]
    given = {"content": content()}
    one = f"{pages_of(scene)}/{page['id']}"
    for reply in (
        await reviewer.post(pages_of(scene), json=given),
        await reviewer.put(one, json={**given, "revision": 1}),
        await reviewer.put(f"{one}/closed", json={"closed": True}),
        await reviewer.delete(one),
    ):
        assert (reply.status_code, reply.json()["code"]) == (403, "not_allowed")


async def test_a_figure_by_itself(coordinator: Visitor, scene: Scene) -> None:
    await scene.submit("a", name="=1+1")
    await scene.submit("b", source="mains")
    base = f"/api/questionnaires/{scene.id}/figure-picture"
    svg = await coordinator.get(base, params={"key": "source", "language": "en"})
    assert svg.headers["content-type"] == "image/svg+xml"
    assert svg.headers["content-disposition"] == 'attachment; filename="source.svg"'
    assert "Answered: 2 of 2 who were asked" in svg.text
    png = await coordinator.get(base, params={"key": "source", "language": "en", "format": "png"})
    drawn = Image.open(io.BytesIO(png.content))
    assert drawn.format == "PNG"
    assert drawn.width >= 1_280
    assert len(drawn.convert("RGB").getcolors(100_000) or ()) > 4, "something is on it"
    numbers = await coordinator.get(
        base, params={"key": "source", "language": "en", "format": "csv"}
    )
    lines = list(csv.reader(io.StringIO(numbers.text)))
    assert ["Own", "answers", "1", "0.5"] in [line[3:7] for line in lines]
    for key, language in (("illness", "en"), ("nothing", "en"), ("source", "fi")):
        reply = await coordinator.get(base, params={"key": key, "language": language})
        assert (reply.status_code, reply.json()["code"]) == (422, "invalid")


async def test_a_pdf_is_laid_out_once_for_all(
    coordinator: Visitor, anybody: Visitor, app_of: httpx.ASGITransport, scene: Scene
) -> None:
    """However many ask at once; and again once there is something new to see."""
    await scene.submit("a")
    page = await made(coordinator, scene, live=False)
    state = app_of.app.state  # type: ignore[attr-defined]
    press = Counting()
    state.context = replace(state.context, printing=press)
    replies = await asyncio.gather(*(anybody.get(f"{path(page)}/pdf") for _ in range(8)))
    assert {reply.content for reply in replies} == {b"%PDF"}
    assert press.times == 1
    given = {"content": content(title="Other"), "live": False, "revision": 1}
    await coordinator.put(f"{pages_of(scene)}/{page['id']}", json=given)
    await anybody.get(f"{path(page)}/pdf")
    assert press.times == 2


class Counting(TooSlow):
    """How often something was laid out."""

    def __init__(self) -> None:
        self.times = 0

    async def pdf(self, html: str) -> bytes:
        self.times += 1
        await asyncio.sleep(0.05)
        return b"%PDF"


async def test_what_takes_too_long_is_said(
    coordinator: Visitor, anybody: Visitor, app_of: httpx.ASGITransport, scene: Scene
) -> None:
    await scene.submit("a")
    page = await made(coordinator, scene)
    state = app_of.app.state  # type: ignore[attr-defined]
    context: Context = state.context
    state.context = replace(context, printing=TooSlow())
    reply = await anybody.get(f"{path(page)}/pdf")
    assert reply.status_code == 503
    assert "cannot be counted just now" in reply.text
    state.context = context
    assert (await anybody.get(f"{path(page)}/pdf")).status_code == 200, "it is tried again"
    state.context = replace(context, printing=TooSlow())
    png = await coordinator.get(
        f"/api/questionnaires/{scene.id}/figure-picture",
        params={"key": "source", "language": "en", "format": "png"},
    )
    assert (png.status_code, png.json()["code"]) == (503, "away")
