"""The public routes for files, started entries, media and languages; and trying a draft."""

import io
import json
import re
from typing import Any

import pytest
from PIL import Image

from jotgate.api.first_page import autonym, preferred
from jotgate.api.public.media import PIECE, span
from jotgate.services.context import Context
from jotgate.services.staff import media, questionnaires
from jotgate.store.entries import entries as entry_store
from tests.api.conftest import Visitor
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published, save

TOKEN = {"Started-Token": "ab" * 32}

DOCUMENT = questionnaire(
    page("p", item("file", "photo", kinds=["picture"]), item("short_text", "name", required=True))
).model_copy(update={"languages": ("en", "es", "ar")})


def png() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (80, 50)).save(out, "PNG")
    return out.getvalue()


@pytest.fixture
async def address(scene: Scene, context: Context) -> str:
    return (await published(context, scene.coordinator, DOCUMENT))[1]


async def test_a_file_in_two_pieces(anybody: Visitor, address: str) -> None:
    data = png()
    base = f"/api/public/{address}/files"
    body = {"edition": 1, "item": "photo", "name": "a.png", "size": len(data)}
    made = (await anybody.post(base, json=body)).json()
    assert made == {"id": made["id"], "received": 0, "done": None}
    path = f"{base}/{made['id']}"
    await anybody.put(path, params={"offset": 0}, content=data[:40])
    assert (await anybody.get(path)).json()["received"] == 40
    done = (await anybody.put(path, params={"offset": 40}, content=data[40:])).json()["done"]
    assert done == {"id": made["id"], "name": "a.png", "size": len(data), "type": "image/png"}
    answers = {"edition": 1, "answers": {"name": "Ines", "photo": [{"id": made["id"]}]}}
    key = {"Idempotency-Key": "k" * 20}
    reply = await anybody.post(f"/api/public/{address}/entries", json=answers, headers=key)
    assert reply.status_code == 201


async def test_bad_files_are_met_with_a_message_in_the_reader_s_language(
    anybody: Visitor, address: str
) -> None:
    base = f"/api/public/{address}/files"
    body = {"edition": 1, "item": "photo", "name": "a.png", "size": 0, "language": "es"}
    reply = await anybody.post(base, json=body)
    assert (reply.status_code, reply.json()["faults"][0]["code"]) == (422, "file_empty")
    assert "vacío" in reply.json()["detail"]
    wrong = {**body, "size": 4}
    made = (await anybody.post(base, json=wrong)).json()
    path = f"{base}/{made['id']}"
    sent = await anybody.put(path, params={"offset": 0, "language": "es"}, content=b"nope")
    assert sent.json()["faults"][0]["code"] == "file_not_of_kind"
    assert (await anybody.get(path)).status_code == 404
    assert (await anybody.post(base, json={**body, "item": "name"})).status_code == 404
    large = await anybody.put(path, params={"offset": 0}, content=bytes(2_000_001))
    assert large.status_code == 413


async def test_a_started_entry(anybody: Visitor, address: str) -> None:
    path = f"/api/public/{address}/started"
    body = {"edition": 1, "link": "a=b", "page": "p", "submission": "s", "answers": {"name": "I"}}
    body["arrival"] = ""
    assert (await anybody.get(path, headers=TOKEN)).status_code == 404
    assert (await anybody.put(path, json=body, headers=TOKEN)).status_code == 204
    assert (await anybody.get(path, headers=TOKEN)).json() == body
    assert (await anybody.get(path, headers={"Started-Token": "short"})).status_code == 422
    wrong = await anybody.post(f"{path}/letter", json={"email": "ines"}, headers=TOKEN)
    assert "mail address" in wrong.json()["detail"]
    right = await anybody.post(f"{path}/letter", json={"email": "i@example.org"}, headers=TOKEN)
    assert right.status_code == 202
    assert (await anybody.delete(path, headers=TOKEN)).status_code == 204
    assert (await anybody.get(path, headers=TOKEN)).status_code == 404


def first(html: str) -> dict[str, Any]:
    (data,) = re.findall(r'id="first"[^>]*>(.*?)</script>', html)
    found: dict[str, Any] = json.loads(data)
    return found


async def test_the_language_is_chosen_by_the_path_else_by_the_browser(
    anybody: Visitor, address: str
) -> None:
    async def language(path: str, header: str) -> tuple[str, str]:
        reply = await anybody.get(path, headers={"Accept-Language": header})
        data = first(reply.text)
        assert data["words"]["continue"]
        return data["language"], re.findall('dir="(.*?)"', reply.text)[0]

    assert await language(f"/q/{address}", "es-MX,en;q=0.5") == ("es", "ltr")
    assert await language(f"/q/{address}", "fi") == ("en", "ltr")
    assert await language(f"/q/{address}/ar", "es") == ("ar", "rtl")
    assert await language("/q/nowhere", "ar") == ("ar", "rtl")
    failed = await anybody.post(
        f"/api/public/{address}/page",
        json={"edition": 1, "move": "onward", "at": "p", "language": "es"},
    )
    assert failed.json()["faults"][0]["message"] == "Responda a esta pregunta."


@pytest.mark.parametrize(
    ("header", "found"),
    [
        ("es", ["es"]),
        ("fi;q=0.2, es-MX, en;q=0.8", ["es-MX", "en", "fi"]),
        ("en;q=0, es", ["es"]),
        ("", []),
        ("a;q=x,,;q=1", []),
    ],
)
def test_accept_language(header: str, found: list[str]) -> None:
    """The header of RFC 9110, section 12.5.4."""
    assert preferred(header) == found


def test_languages_by_their_own_names() -> None:
    assert [autonym(code) for code in ("en", "es", "ar", "xx")] == [
        "English",
        "español",
        "العربية",
        "xx",
    ]


@pytest.mark.parametrize(
    ("header", "found"),
    [
        ("bytes=0-3", (0, 3)),
        ("bytes=4-", (4, 9)),
        ("bytes=-3", (7, 9)),
        ("bytes=0-99", (0, 9)),
        ("", None),
        ("bytes=0-1,3-4", None),
        ("pages=1-2", None),
    ],
)
def test_ranges(header: str, found: Any) -> None:
    """The single ranges of RFC 9110, section 14.1.2."""
    assert span(header, 10) == found
    with pytest.raises(ValueError, match="bytes"):
        span("bytes=10-", 10)


async def test_media(
    coordinator: Visitor, reviewer: Visitor, anybody: Visitor, scene: Scene, context: Context
) -> None:
    path = f"/api/questionnaires/{scene.id}/media"
    data = png()
    made = await coordinator.post(path, params={"name": "map.png"}, content=data)
    assert made.status_code == 201
    assert (made.json()["width"], made.json()["height"], made.json()["type"]) == (
        80,
        50,
        "image/png",
    )
    shown = await anybody.get(f"/media/{made.json()['id']}")
    assert (shown.content, shown.headers["content-type"]) == (data, "image/png")
    part = await anybody.get(f"/media/{made.json()['id']}", headers={"Range": "bytes=0-3"})
    assert (part.status_code, part.content) == (206, data[:4])
    assert part.headers["content-range"] == f"bytes 0-3/{len(data)}"
    none = await anybody.get(f"/media/{made.json()['id']}", headers={"Range": "bytes=9999-"})
    assert none.status_code == 416
    html = await coordinator.post(path, params={"name": "x.html"}, content=b"<script>1</script>")
    assert html.status_code == 422
    captions = b"WEBVTT\n\n00:00.000 --> 00:01.000\nHello\n"
    vtt = await coordinator.post(path, params={"name": "x.vtt"}, content=captions)
    assert vtt.json()["type"] == media.CAPTIONS
    long = captions + b"NOTE " + bytes(range(32, 127)) * 8_000
    made = await coordinator.post(path, params={"name": "long.vtt"}, content=long)
    address = f"/media/{made.json()['id']}"
    whole = await anybody.get(address)
    assert whole.content == long, "sent in pieces"
    assert whole.headers["content-length"] == str(len(long))
    part = await anybody.get(address, headers={"Range": f"bytes={PIECE - 3}-{2 * PIECE + 5}"})
    assert part.content == long[PIECE - 3 : 2 * PIECE + 6]
    await context.files.remove(f"media/{made.json()['id']}")
    assert (await anybody.get(address)).status_code == 404
    assert (await reviewer.post(path, params={"name": "a"}, content=data)).status_code == 403
    assert (await anybody.post(path, params={"name": "a"}, content=data)).status_code == 401
    huge = await coordinator.post(path, params={"name": "a"}, content=bytes(31_000_001))
    assert huge.status_code == 413


async def test_trying_a_draft_stores_nothing(
    coordinator: Visitor, anybody: Visitor, scene: Scene, context: Context
) -> None:
    html = await coordinator.get(f"/try/{scene.id}")
    data = first(html.text)
    assert data["trial"]["id"] == str(scene.id)
    body = {
        "edition": 1,
        "move": "onward",
        "at": "health",
        "answers": {"name": "I", "source": "own"},
    }
    reply = await coordinator.post(f"/api/questionnaires/{scene.id}/trial/page", json=body)
    assert reply.json() == {"kind": "finish", "heading": "Booked", "message": ""}
    async with context.engine.connect() as conn:
        assert await entry_store.newest(conn, scene.id, None, 10) == []
    assert (await anybody.get(f"/try/{scene.id}")).status_code == 401
    assert (
        await anybody.post(f"/api/questionnaires/{scene.id}/trial/page", json=body)
    ).status_code == 401


async def test_a_draft_with_faults_says_what_is_left(
    coordinator: Visitor, scene: Scene, context: Context
) -> None:
    state = await questionnaires.draft(context, scene.coordinator, scene.id)
    empty = questionnaire(page("p"))
    await save(context, scene.coordinator, scene.id, empty, state.revision)
    data = first((await coordinator.get(f"/try/{scene.id}")).text)
    assert data["shown"]["code"] == "invalid"
    assert "one thing is left to do" in data["shown"]["detail"]
