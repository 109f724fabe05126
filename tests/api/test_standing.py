"""Another program asks whether somebody has answered, and reads what a link onward brings back.

Calls are signed by the reference library of Standard Webhooks (the package `standardwebhooks`);
results are read by Authlib, where joserfc made them (RFC 7516, RFC 7515).
"""

import base64
import json
import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import parse_qs, urlsplit
from uuid import UUID

import pytest
from authlib.jose import JsonWebEncryption, jwt
from standardwebhooks import Webhook

from jotgate.core.signed_calls import SignedCall, holds
from jotgate.services import doing
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.public import answering, entering, starts
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.staff.contacts import contacts, lists
from jotgate.services.staff.links import batches, link_keys, passes
from jotgate.services.staff.links.link_keys import NewKey
from jotgate.services.staff.links.passes import NewPasses
from jotgate.settings import ROOT
from tests.api.conftest import Visitor
from tests.conftest import Clock
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published


class Wells:
    """A questionnaire with a pass for one contact, and the key of another program."""

    def __init__(self, scene: Scene, context: Context, anybody: Visitor, clock: Clock) -> None:
        self.scene, self.context, self.anybody, self.clock = scene, context, anybody, clock
        self.id, self.address, self.secret, self.key = UUID(int=0), "", "", NewKey("", "", "", "")

    async def opened(self) -> "Wells":
        owner = self.scene.coordinator
        document = questionnaire(
            page("start", item("short_text", "name")), page("end", item("short_text", "more"))
        )
        link = {"label": {"en": "Back"}, "address": "https://wells.example.org/done?a=1"}
        whole = document.model_dump(mode="json")
        whole["finishes"][0]["link"] = {**link, "signed": True}
        document = type(document).model_validate(whole)
        self.id, self.address = await published(self.context, owner, document)
        values = {"key": "H-1", "name": "Ines", "email": "ines@example.org"}
        list_id = await lists.add(self.context, owner, "All")
        await contacts.add(self.context, owner, values, list_id)
        wanted = NewPasses("Letters", None, {}, (), None, 1, list_id)
        work = await passes.ask(self.context, owner, self.id, wanted)
        await doing.do(self.context, work.id)
        found = await passes.progress(self.context, owner, self.id, work.id)
        batch_id = UUID(found.result["batch_id"])
        links = await batches.with_links(self.context, owner, self.id, batch_id)
        ((row,),) = [rows async for rows in links.rows]
        self.secret = row[-1].rpartition("/")[2]
        self.key = await link_keys.add(self.context, owner, self.id)
        return self

    def signed(self, body: str, id: str = "msg_1") -> dict[str, str]:
        now = self.clock.now()
        return {
            "Content-Type": "application/json",
            "webhook-id": id,
            "webhook-timestamp": str(int(now.timestamp())),
            "webhook-signature": Webhook(self.key.calls).sign(id, now, body),
        }

    async def ask(self, id: str, **whom: str) -> dict[str, Any]:
        body = json.dumps(whom)
        path = f"/api/public/{self.address}/standing"
        reply = await self.anybody.post(path, content=body, headers=self.signed(body, id))
        assert reply.status_code == 200, reply.text
        found: dict[str, Any] = reply.json()
        return found

    async def go_on(self) -> str:
        """The holder of the pass goes on from the first page; what is known of them."""
        entrance = Entrance(way="p", secret=self.secret)
        visit = await entering.visit(self.context, self.address, "", entrance=entrance)
        answers = Answers("", 1, {"name": "I"}, arrival=visit.arrival)
        await answering.page(self.context, self.address, answers, Turn("onward", "start"))
        await starts.keep(self.context)
        return visit.arrival

    async def send(self, arrival: str, key: str = "k1") -> dict[str, Any]:
        body = {"link": "", "edition": 1, "answers": {"name": "I"}, "arrival": arrival}
        headers = {"Idempotency-Key": key.rjust(20, "0")}
        path = f"/api/public/{self.address}/entries"
        reply = await self.anybody.post(path, json=body, headers=headers)
        assert reply.status_code in (200, 201), reply.text
        found: dict[str, Any] = reply.json()
        return found


@pytest.fixture
async def wells(scene: Scene, context: Context, anybody: Visitor, clock: Clock) -> Wells:
    return await Wells(scene, context, anybody, clock).opened()


async def test_a_contact_has_not_started_then_started_then_is_done(wells: Wells) -> None:
    link = f"{wells.context.public_url}/p/{wells.address}/{wells.secret}"
    nothing = {"when": None, "entry": None, "number": None}
    for whom in ({"contact_key": "H-1"}, {"contact_email": "INES@example.org"}):
        found = await wells.ask(f"a {whom}", **whom)
        assert found == {"state": "not_started", "link": link, **nothing}
    arrival = await wells.go_on()
    begun = await wells.ask("b", **{"pass": wells.secret})
    assert (begun["state"], begun["link"]) == ("started", link)
    assert begun["when"] is not None
    await wells.send(arrival)
    done = await wells.ask("c", contact_key="H-1")
    assert (done["state"], done["number"], done["link"]) == ("done", 1, "")
    assert done["when"] == wells.clock.now().isoformat().replace("+00:00", "Z")


async def test_who_is_not_known_has_not_started(wells: Wells) -> None:
    for number, whom in enumerate(
        ({"contact_key": "none"}, {"pass": "x" * 22}, {"issuer": "https://a", "subject": "b"})
    ):
        assert (await wells.ask(str(number), **whom))["state"] == "not_started"


async def test_nobody_or_two_at_once_is_refused(wells: Wells) -> None:
    for number, whom in enumerate(
        ({}, {"contact_key": "H-1", "pass": "x"}, {"issuer": "https://a"},
         {"contact_key": "H-1", "contact_email": "ines@example.org"})
    ):  # fmt: skip
        body = json.dumps(whom)
        headers = wells.signed(body, f"id{number}")
        path = f"/api/public/{wells.address}/standing"
        reply = await wells.anybody.post(path, content=body, headers=headers)
        assert reply.status_code == 422, whom


@pytest.mark.parametrize("wrong", ["unsigned", "other", "body", "old", "ahead", "id", "version"])
async def test_a_call_that_is_not_signed_tells_nothing(wells: Wells, wrong: str) -> None:
    body, sent = '{"contact_key":"H-1"}', '{"contact_key":"H-1"}'
    headers = wells.signed(body)
    match wrong:
        case "unsigned":
            del headers["webhook-signature"]
        case "other":
            secret = "whsec_" + base64.b64encode(b"x" * 32).decode()
            now = wells.clock.now()
            headers["webhook-signature"] = Webhook(secret).sign("msg_1", now, body)
        case "body":
            sent = '{"contact_key":"H-2"}'
        case "old" | "ahead":
            wells.clock.move(timedelta(minutes=6 if wrong == "old" else -6))
        case "id":
            headers["webhook-id"] = "msg_2"
        case "version":
            headers["webhook-signature"] = headers["webhook-signature"].replace("v1,", "v2,")
    path = f"/api/public/{wells.address}/standing"
    reply = await wells.anybody.post(path, content=sent, headers=headers)
    assert reply.status_code == 401
    assert "H-1" not in reply.text


async def test_a_call_is_good_once(wells: Wells) -> None:
    body = '{"contact_key":"H-1"}'
    headers = wells.signed(body)
    path = f"/api/public/{wells.address}/standing"
    statuses = [
        (await wells.anybody.post(path, content=body, headers=headers)).status_code
        for _ in range(2)
    ]
    assert statuses == [200, 401]


async def test_a_key_that_was_ended_signs_nothing(wells: Wells) -> None:
    await link_keys.end(wells.context, wells.scene.coordinator, wells.id, wells.key.id)
    body = '{"contact_key":"H-1"}'
    path = f"/api/public/{wells.address}/standing"
    reply = await wells.anybody.post(path, content=body, headers=wells.signed(body))
    assert reply.status_code == 401


async def test_who_has_a_part_may_ask_without_a_signature(
    wells: Wells, coordinator: Visitor, reviewer: Visitor
) -> None:
    path = f"/api/questionnaires/{wells.id}/standing"
    found = await coordinator.post(path, json={"contact_key": "H-1"})
    assert found.json()["state"] == "not_started"
    assert (await reviewer.post(path, json={"contact_key": "H-1"})).status_code == 403
    assert (await wells.anybody.post(path, json={"contact_key": "H-1"})).status_code == 401


async def test_a_link_onward_brings_back_what_was_done(wells: Wells) -> None:
    arrival = await wells.go_on()
    first = await wells.send(arrival)
    again = await wells.send(arrival)
    secret = base64.urlsafe_b64decode(wells.key.secret + "==")
    told = []
    for reply in (first, again):
        address = urlsplit(reply["onward"]["address"])
        query = parse_qs(address.query)
        assert query["a"] == ["1"]
        plain = JsonWebEncryption().deserialize_compact(query["result"][0], secret[32:])
        assert plain["header"]["kid"] == wells.key.id
        told.append(jwt.decode(plain["payload"], secret[:32]))
    one = told[0]
    assert (one["questionnaire"], one["number"], one["contact"]) == (wells.address, 1, "H-1")
    assert one["aud"] == "https://wells.example.org"
    assert one["exp"] - one["iat"] == 600
    assert one["entry"] == told[1]["entry"]
    assert one["jti"] != told[1]["jti"]


async def test_the_few_lines_that_are_shown_read_a_result(wells: Wells) -> None:
    """As they stand on the screen, by the clock of this machine."""
    wells.clock.at = datetime.now(UTC)
    shown = (ROOT / "web/src/desk/links/recipes.ts").read_text()
    (recipe,) = re.findall(r"const resultRecipe = .*?=>\s+`(#.*?)`;", shown, re.S)
    reply = await wells.send(await wells.go_on())
    (result,) = parse_qs(urlsplit(reply["onward"]["address"]).query)["result"]
    script = recipe.replace("${secret}", wells.key.secret)
    ran = subprocess.run(
        [sys.executable, "-c", script, result], capture_output=True, text=True, check=True
    )
    assert "'contact': 'H-1'" in ran.stdout


async def test_without_a_key_the_link_stays_as_it_is(wells: Wells) -> None:
    await link_keys.end(wells.context, wells.scene.coordinator, wells.id, wells.key.id)
    found = await wells.send(await wells.go_on())
    assert found["onward"]["address"] == "https://wells.example.org/done?a=1"


def test_what_the_reference_library_signs_holds() -> None:
    """Of generated secrets, ids and bodies; and nothing that was changed by a character."""
    now = datetime(2026, 11, 27, tzinfo=UTC)
    for number in range(200):
        secret, id = bytes([number]) * 24, f"msg_{number}"
        body = json.dumps({"n": number, "text": chr(0x20 + number) * 3})
        written = "whsec_" + base64.b64encode(secret).decode()
        signed = Webhook(written).sign(id, now, body)
        call = SignedCall(id, str(int(now.timestamp())), f"v1,x {signed}", body.encode())
        assert holds(call, [b"other", secret], now)
        assert not holds(call, [b"other"], now)
        changed = SignedCall(id, call.timestamp, call.signatures, call.body[:-1] + b" ")
        assert not holds(changed, [secret], now)
