"""Ways in and on through the real routes: pages, frames, hand-offs, and what leaks by none."""

import re
from typing import Any
from uuid import UUID

import httpx
import pytest
from sqlalchemy import event

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.hand_off import HandedValue, HandOff
from jotgate.core.links import Links
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.public.handing import TOKEN_LASTS
from jotgate.services.staff.links import batches, links_part, passes
from tests.api.conftest import BASE, Visitor
from tests.api.test_asking import first
from tests.documents import finish, item, options, page, questionnaire, words
from tests.scenes import Scene, published
from tests.services.public.test_arrivals import Wells

CANARY = "xq7canary"
"""A sealed value that stands nowhere else."""


def wells() -> Questionnaire:
    district = options(CANARY, "millbeck")
    district[0]["label"] = words("Quetzalcoatl")
    return questionnaire(
        page(
            "start",
            item("carried", "district", options=district, sources=[{"kind": "pass"}], sealed=True),
            item("name", "who"),
            item("note", "hello", text=words("Hello **{who.given|neighbour}**")),
        ),
        page("end", item("yes_no", "again", text=words("Again, {who.given|you}?"))),
        finishes=(finish("done", message=words("Thank you, {who.given}.")),),
    )


def visit() -> Questionnaire:
    return questionnaire(
        page(
            "p",
            item("name", "who"),
            item("short_text", "remark"),
            item(
                "carried",
                "area",
                sources=[{"kind": "hand_off"}],
                sealed=True,
                options=options(CANARY, "millbeck"),
            ),
        ),
        finishes=("met",),
    )


VALUES = (
    HandedValue(source="who", target="who", locked=True),
    HandedValue(source="district", target="area"),
)


@pytest.fixture
async def ways(scene: Scene, context: Context) -> Wells:
    """The well check, from which people go on with the sampling visit."""
    owner = scene.coordinator
    made = Wells(scene, *await published(context, owner, wells()))
    _, to = await published(context, owner, visit())
    on = HandOff(finish="done", to=to, label=words("Go on"), values=VALUES)
    links = Links(hand_offs=(on,), frames=("https://a.example.org",))
    await links_part.save(context, owner, made.id, links, 1)
    return made


class Respondent:
    """Answers as the page does, and keeps every byte that came."""

    def __init__(self, browser: Visitor, path: str) -> None:
        self.browser, self.path = browser, path
        self.received: list[str] = []

    async def ask(self, method: str, path: str, **more: Any) -> httpx.Response:
        reply = await self.browser.request(method, path, **more)
        told = "".join(f"{name}: {value}\n" for name, value in reply.headers.items())
        self.received.append(f"{told}{reply.text}")
        return reply

    async def come(self) -> dict[str, Any]:
        reply = await self.ask("GET", self.path)
        return first(reply.text)

    async def send(self, found: dict[str, Any], key: str, **answers: Any) -> dict[str, Any]:
        address = self.path.split("/")[2]
        body = {"edition": 1, "answers": answers, "arrival": found.get("arrival", "")}
        for move, at in (("onward", "start"), ("stay", "start"), ("onward", "end")):
            await self.ask(
                "POST", f"/api/public/{address}/page", json={**body, "move": move, "at": at}
            )
        reply = await self.ask(
            "POST",
            f"/api/public/{address}/entries",
            json=body,
            headers={"Idempotency-Key": key.rjust(20, "0")},
        )
        done: dict[str, Any] = reply.json()
        return done


WHO = {"given": "Ines", "family": "Carvalho"}


async def test_a_chain_from_a_link_to_two_linked_entries(ways: Wells, anybody: Visitor) -> None:
    code = await ways.link(CANARY)
    someone = Respondent(anybody, f"/l/{ways.address}/{code}")
    found = await someone.come()
    assert found["arrival"]
    done = await someone.send(found, "a", who=WHO)
    assert (done["message"], done["continues"]) == ("Thank you, Ines.", "Go on")
    onward = f"/api/public/{ways.address}/hand-offs"
    headers = {"Idempotency-Key": "a".rjust(20, "0")}
    token = (
        await someone.ask("POST", onward, json={"arrival": found["arrival"]}, headers=headers)
    ).json()
    sent = await someone.ask("POST", token["action"], data={"token": token["token"]})
    assert sent.status_code == 303
    assert sent.headers["location"] == token["action"]
    assert "HttpOnly" in sent.headers["set-cookie"]
    assert f"Path={token['action']}" in sent.headers["set-cookie"]
    someone.path = token["action"]
    for _ in range(2):
        there = await someone.come()
        (who, *_) = there["shown"]["items"]
        assert (who["locked"], who["value"]) == (True, "Ines Carvalho")
    forged = await someone.send(there, "b", who={"given": "Eve", "family": "X"}, area="millbeck")
    assert forged["heading"] == "Met"
    assert "locked" not in str((await someone.come())["shown"]["items"])
    assert not [one for one in someone.received if CANARY in one.lower()]
    assert not [one for one in someone.received if "quetzalcoatl" in one.lower()]


async def test_the_entries_of_a_chain_know_each_other(
    ways: Wells, anybody: Visitor, coordinator: Visitor
) -> None:
    await test_a_chain_from_a_link_to_two_linked_entries(ways, anybody)
    base = "/api/questionnaires"
    (entry,) = (await coordinator.get(f"{base}/{ways.id}/entries")).json()["entries"]
    read = (await coordinator.get(f"{base}/{ways.id}/entries/{entry['id']}")).json()
    assert read["came"]["name"] == "Poster"
    (after,) = read["came"]["after"]
    other = f"{base}/{after['questionnaire_id']}/entries/{after['entry_id']}"
    linked = (await coordinator.get(other)).json()
    assert linked["came"]["before"]["entry_id"] == entry["id"]
    assert linked["entry"]["answers"]["who"] == "Ines Carvalho"
    assert linked["entry"]["answers"]["area"] == CANARY.capitalize()


@pytest.mark.parametrize("wrong", ["replayed", "elsewhere", "changed", "none", "late"])
async def test_a_token_is_good_once_there_and_soon(
    ways: Wells, anybody: Visitor, wrong: str, clock: Any
) -> None:
    someone = Respondent(anybody, f"/q/{ways.address}")
    await someone.send(await someone.come(), "a", who=WHO)
    headers = {"Idempotency-Key": "a".rjust(20, "0")}
    onward = f"/api/public/{ways.address}/hand-offs"
    found = (await someone.ask("POST", onward, json={}, headers=headers)).json()
    action, token = found["action"], found["token"]
    match wrong:
        case "replayed":
            assert (await anybody.post(action, data={"token": token})).status_code == 303
        case "elsewhere":
            action = f"/q/{ways.scene.address}"
        case "changed":
            token = token[:-1] + ("A" if token[-1] != "A" else "B")
        case "none":
            token = ""
        case "late":
            clock.move(TOKEN_LASTS)
    refused = await anybody.post(action, data={"token": token})
    assert refused.status_code == 422
    assert refused.json()["code"] == "link_refused"
    again = (await someone.ask("POST", onward, json={}, headers=headers)).json()
    assert (await anybody.post(again["action"], data={"token": again["token"]})).status_code == 303


async def test_nobody_goes_on_from_an_entry_of_others(ways: Wells, anybody: Visitor) -> None:
    someone = Respondent(anybody, f"/q/{ways.address}")
    await someone.send(await someone.come(), "a", who=WHO)
    headers = {"Idempotency-Key": "b".rjust(20, "0")}
    onward = f"/api/public/{ways.address}/hand-offs"
    assert (await anybody.post(onward, json={}, headers=headers)).status_code == 404


async def test_another_site_cannot_send_somebody_on(ways: Wells, anybody: Visitor) -> None:
    reply = await anybody.post(
        f"/q/{ways.address}", data={"token": "x"}, headers={"Sec-Fetch-Site": "cross-site"}
    )
    assert reply.status_code == 403


async def test_texts_speak_of_what_is_known(ways: Wells, anybody: Visitor) -> None:
    reply = await anybody.get(f"/q/{ways.address}")
    assert "Hello <strong>neighbour</strong>" in str(first(reply.text)["shown"]["items"])
    body = {"edition": 1, "answers": {"who": {"given": "<b>I</b>", "family": "C"}}}
    page_path = f"/api/public/{ways.address}/page"
    stayed = await anybody.post(page_path, json={**body, "move": "stay", "at": "start"})
    assert "<strong>&lt;b&gt;I&lt;/b&gt;</strong>" in stayed.json()["items"][-1]["html"]
    onward = await anybody.post(page_path, json={**body, "move": "onward", "at": "start"})
    assert onward.json()["items"][0]["text"] == "Again, <b>I</b>?"


async def test_what_somebody_sends_never_becomes_a_slot(ways: Wells, anybody: Visitor) -> None:
    code = await ways.link(CANARY)
    someone = Respondent(anybody, f"/l/{ways.address}/{code}")
    found = await someone.come()
    trick = {"given": "{district}", "family": "{district|x}"}
    done = await someone.send(found, "a", who=trick)
    assert done["message"] == "Thank you, {district}."
    assert not [one for one in someone.received if CANARY in one.lower()]


def policy(reply: httpx.Response) -> str:
    found = re.search(r"frame-ancestors ([^;]+)", reply.headers["content-security-policy"])
    assert found is not None
    return found[1]


async def test_only_named_sites_may_frame_it(
    ways: Wells, anybody: Visitor, coordinator: Visitor
) -> None:
    assert policy(await anybody.get(f"/q/{ways.address}")) == "https://a.example.org"
    refused = await anybody.get(f"/p/{ways.address}/{'x' * 22}")
    assert (refused.status_code, policy(refused)) == (404, "https://a.example.org")
    assert policy(await anybody.get(f"/q/{ways.scene.address}")) == "'none'"
    assert policy(await anybody.get("/q/nothing")) == "'none'"
    path = f"/api/questionnaires/{ways.id}/links/settings"
    for site in ("javascript:x", "https://a.example/path", "https://*", "'self'", "a b"):
        body = {"revision": 2, "links": {"frames": [site]}}
        assert (await coordinator.put(path, json=body)).status_code == 422, site
    body = {"revision": 2, "links": {"frames": ["B.example.org", "http://localhost:8080"]}}
    saved = (await coordinator.put(path, json=body)).json()
    assert saved["links"]["frames"] == ["https://b.example.org", "http://localhost:8080"]


async def test_the_script_for_frames_may_be_fetched_by_any_site(anybody: Visitor) -> None:
    reply = await anybody.get("/embed.js")
    assert reply.headers["cross-origin-resource-policy"] == "cross-origin"
    assert reply.headers["content-type"].startswith("text/javascript")
    assert "localStorage" not in reply.text


async def test_an_unknown_pass_and_a_revoked_one_read_the_same(
    ways: Wells, anybody: Visitor
) -> None:
    batch, secrets = await make(ways)
    await batches.revoke(ways.context, ways.scene.coordinator, ways.id, batch, None)
    replies = [await anybody.get(f"/p/{ways.address}/{one}") for one in (secrets[0], "A" * 22)]
    told = [re.sub(r"nonce[=-]\"?[\w-]+", "", one.text) for one in replies]
    assert told[0] == told[1]
    assert {one.status_code for one in replies} == {404}
    lengths = {len(one.content) for one in replies}
    assert len(lengths) == 1


async def make(ways: Wells) -> tuple[UUID, list[str]]:
    table = b"District\nMillbeck\nMillbeck\n"
    owner = ways.scene.coordinator
    found, columns = await passes.take_table(ways.context, owner, ways.id, "t.csv", table)
    wanted = passes.NewPasses("L", found.id, columns, (), None, None)
    work = await passes.ask(ways.context, owner, ways.id, wanted)
    await doing.do(ways.context, work.id)
    links = await batches.with_links(ways.context, owner, ways.id, found.id)
    rows = [row async for chunk in links.rows for row in chunk]
    return found.id, [row[-1].rpartition("/")[2] for row in rows]


async def test_unknown_and_revoked_ask_the_database_the_same(ways: Wells) -> None:
    """So that nobody learns from the time that it takes which passes there were: a revoked one has
    no hash, and is looked up as one that never was."""
    batch, secrets = await make(ways)
    await batches.revoke(ways.context, ways.scene.coordinator, ways.id, batch, None)
    asked: list[str] = []
    engines = {ways.context.engine, ways.context.single, ways.context.restricted}
    for engine in engines:

        @event.listens_for(engine.sync_engine, "before_cursor_execute")
        def keep(conn: Any, cursor: Any, statement: str, *_: Any) -> None:
            asked.append(statement)

    found = []
    for secret in (secrets[0], "A" * 22):
        for _ in range(2):
            asked.clear()
            with pytest.raises(Exception, match="not known here"):
                await ways.come("p", secret)
        found.append(tuple(asked))
    revoked, unknown = found
    assert revoked == unknown
    assert any("passes" in one for one in revoked)


async def test_the_qr_code_is_of_our_own_addresses(ways: Wells, coordinator: Visitor) -> None:
    path = f"/api/questionnaires/{ways.id}/links/qr"
    own = f"{BASE}/q/{ways.address}?x=1"
    for kind, begins in (("svg", b"<svg"), ("png", b"\x89PNG")):
        reply = await coordinator.get(path, params={"address": own, "format": kind})
        assert reply.content.startswith(begins)
    for other in ("https://example.net", f"{BASE}/q/{ways.address}x", f"{BASE}/desk"):
        assert (await coordinator.get(path, params={"address": other})).status_code == 422


async def test_a_visitor_of_a_pass_is_known_by_all_of_its_requests(
    ways: Wells, anybody: Visitor
) -> None:
    _, secrets = await make(ways)
    someone = Respondent(anybody, f"/p/{ways.address}/{secrets[0]}/en?who.given=Ada")
    found = await someone.come()
    assert found["shown"]["filled"] == {}
    await someone.send(found, "a", who=WHO)
    assert [one["district"] for one in await ways.entries()] == ["millbeck"]


async def test_the_visitors_eye_looks_at_the_real_responses(
    ways: Wells, coordinator: Visitor, reviewer: Visitor
) -> None:
    code = await ways.link(CANARY)
    path = f"/api/questionnaires/{ways.id}/links/eye"
    link = f"{BASE}/l/{ways.address}/{code}?who.given=Ines&who.family=Carvalho"
    seen = (await reviewer.post(path, json={"link": link})).json()
    assert seen["leaks"] is False
    learned = {one["key"]: one for one in seen["learned"]}
    assert (learned["district"]["sealed"], learned["district"]["read"]) == (True, "")
    assert (learned["who"]["read"], learned["who"]["changes"]) == ("the address", True)
    assert seen["hidden_options"] == [{"name": "District", "labels": ["Quetzalcoatl", "Millbeck"]}]
    assert (seen["cookies"], seen["referrer"], seen["address"]) == (
        [],
        False,
        ["who.given", "who.family"],
    )
    assert seen["responses"] > 5
    assert seen["items"][-1] == "Hello Ines"
    ways_now = (await coordinator.get(f"/api/questionnaires/{ways.id}/links")).json()
    assert (ways_now["plain"], ways_now["named"][0]["entries"]) == (0, 0)
    for other in (f"{BASE}/desk", "https://example.net/q/a", f"{BASE}/l/{ways.scene.address}/x"):
        assert (await coordinator.post(path, json={"link": other})).status_code == 422
    unknown = await coordinator.post(path, json={"link": f"{BASE}/p/{ways.address}/{'x' * 22}"})
    assert unknown.json()["code"] == "pass_unknown"
