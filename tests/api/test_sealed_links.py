"""Links that other programs make: read by us, made with another library, tampered with."""

import base64
import json
import re
import subprocess
import sys
from typing import Any

import pytest
from authlib.jose import JsonWebEncryption, jwt

from jotgate.services.context import Context
from jotgate.services.staff.links import link_keys
from jotgate.services.staff.links.link_keys import NewKey
from jotgate.settings import ROOT
from tests.api.conftest import BASE, Visitor
from tests.conftest import Clock
from tests.scenes import Scene, published
from tests.services.public.test_arrivals import Wells, wells

VALUES = {"district": "Millbeck", "name": "Zoë & Ines +1"}


@pytest.fixture
async def ways(scene: Scene, context: Context) -> Wells:
    return Wells(scene, *await published(context, scene.coordinator, wells()))


@pytest.fixture
async def key(ways: Wells) -> NewKey:
    return await link_keys.add(ways.context, ways.scene.coordinator, ways.id)


def secret_of(key: NewKey) -> bytes:
    return base64.urlsafe_b64decode(f"{key.secret}==")


def made(context: Context, key: NewKey, **claims: Any) -> str:
    whole = {"aud": key.audience, "values": VALUES, **claims}
    return context.sealed_links.make(secret_of(key), key.id, whole)


async def by_another_library(key: NewKey, **claims: Any) -> str:
    """The same by Authlib, which shares no code with what reads it (RFC 7516, 7519)."""
    secret = secret_of(key)
    whole = {"aud": key.audience, "values": VALUES, **claims}
    signed = jwt.encode({"alg": "HS256"}, whole, secret[:32])
    header = {"alg": "dir", "enc": "A256GCM", "kid": key.id, "cty": "JWT"}
    found: bytes = JsonWebEncryption().serialize_compact(header, signed, secret[32:])
    return found.decode()


async def test_a_link_of_another_library_brings_its_values(
    ways: Wells, key: NewKey, anybody: Visitor
) -> None:
    token = await by_another_library(key)
    reply = await anybody.get(f"/s/{ways.address}/{token}")
    assert reply.status_code == 200
    assert "illbeck" not in reply.text
    await ways.send(await ways.come("s", token), "a")
    (entry,) = await ways.entries()
    assert entry["district"] == "millbeck"


async def test_ours_is_read_by_another_library(ways: Wells, key: NewKey) -> None:
    secret = secret_of(key)
    outer = JsonWebEncryption().deserialize_compact(made(ways.context, key), secret[32:])
    inner = jwt.decode(outer["payload"], secret[:32])
    assert inner["values"] == VALUES


async def test_the_few_lines_that_are_shown_work(ways: Wells, key: NewKey) -> None:
    """As they stand on the screen, with a table on their input."""
    shown = (ROOT / "web/src/desk/links/recipes.ts").read_text()
    (recipe,) = re.findall(r"const recipe = .*?=>\s+`(#.*?)`;", shown, re.S)
    address = f"{BASE}/s/{key.audience}/"
    filled = {"id": key.id, "secret": key.secret, "audience": key.audience, "address": address}
    script = re.sub(r"\$\{(\w+)\}", lambda match: filled[match[1]], recipe)
    table = "district,name\nSaltings,Ines\nMillbeck,\n"
    ran = subprocess.run(
        [sys.executable, "-c", script], input=table, capture_output=True, text=True, check=True
    )
    links = [line.rpartition(",")[2] for line in ran.stdout.splitlines()[1:]]
    assert all(one.startswith(address) for one in links)
    found = [(await ways.come("s", one.removeprefix(address))).filled.carried for one in links]
    assert [one["district"] for one in found] == ["saltings", "millbeck"]


def flipped(token: str, part: int) -> str:
    parts = token.split(".")
    at = len(parts[part]) // 2
    letter = "A" if parts[part][at] != "A" else "B"
    parts[part] = parts[part][:at] + letter + parts[part][at + 1 :]
    return ".".join(parts)


@pytest.mark.parametrize(
    "wrong",
    ["header", "iv", "text", "tag", "cut", "none", "long", "no_key", "unsigned", "signed_only"],
)
async def test_nobody_gets_in_by_what_was_changed(
    ways: Wells, key: NewKey, anybody: Visitor, wrong: str
) -> None:
    token = made(ways.context, key)
    secret = secret_of(key)
    match wrong:
        case "header":
            token = flipped(token, 0)
        case "iv":
            token = flipped(token, 2)
        case "text":
            token = flipped(token, 3)
        case "tag":
            token = flipped(token, 4)
        case "cut":
            token = token[:-5]
        case "none":
            token = "x"
        case "long":
            token = "a" * 5900 + "...."
        case "no_key":
            other = NewKey("zzzzzz", key.secret, key.calls, key.audience)
            token = made(ways.context, other)
        case "unsigned":
            plain = json.dumps({"aud": key.audience, "values": VALUES}).encode()
            header = {"alg": "dir", "enc": "A256GCM", "kid": key.id}
            token = JsonWebEncryption().serialize_compact(header, plain, secret[32:]).decode()
        case "signed_only":
            whole = {"aud": key.audience, "values": VALUES}
            token = jwt.encode({"alg": "HS256", "kid": key.id}, whole, secret[:32]).decode()
    reply = await anybody.get(f"/s/{ways.address}/{token}")
    unknown = await anybody.get(f"/s/{ways.address}/{'x' * 40}")
    assert reply.status_code == unknown.status_code == 404
    assert len(reply.content) == len(unknown.content)


@pytest.mark.parametrize("until", [-1, 10**9, True, "soon"])
async def test_a_link_ends_with_its_time(
    ways: Wells, key: NewKey, anybody: Visitor, clock: Clock, until: Any
) -> None:
    given = clock.now().timestamp() + until if type(until) is int else until
    found = await anybody.get(f"/s/{ways.address}/{made(ways.context, key, exp=given)}")
    assert found.status_code == (200 if until == 10**9 else 404)
    assert ('"code":"pass_expired"' in found.text) is (until == -1)


async def test_a_link_belongs_to_one_questionnaire(
    ways: Wells, key: NewKey, anybody: Visitor
) -> None:
    other = await link_keys.add(ways.context, ways.scene.coordinator, ways.scene.id)
    token = made(ways.context, key)
    assert (await anybody.get(f"/s/{other.audience}/{token}")).status_code == 404
    wrong = NewKey(other.id, other.secret, other.calls, key.audience)
    assert (await anybody.get(f"/s/{key.audience}/{made(ways.context, wrong)}")).status_code == 404
    assert (
        await anybody.get(f"/s/{other.audience}/{made(ways.context, wrong)}")
    ).status_code == 404


async def test_keys_are_changed_one_after_the_other(
    ways: Wells, key: NewKey, anybody: Visitor
) -> None:
    newer = await link_keys.add(ways.context, ways.scene.coordinator, ways.id)
    paths = [f"/s/{ways.address}/{made(ways.context, one)}" for one in (key, newer)]
    assert [(await anybody.get(path)).status_code for path in paths] == [200, 200]
    await link_keys.end(ways.context, ways.scene.coordinator, ways.id, key.id)
    assert [(await anybody.get(path)).status_code for path in paths] == [404, 200]


@pytest.mark.parametrize(
    "values", [None, [], "x", {"district": 1}, {"district": ["Millbeck", 2]}, {"x": "y"}, {}]
)
async def test_what_is_no_value_is_none(
    ways: Wells, key: NewKey, anybody: Visitor, values: Any
) -> None:
    """Never a failure of ours: a value that is needed is missing, or it is there."""
    reply = await anybody.get(f"/s/{ways.address}/{made(ways.context, key, values=values)}")
    there = isinstance(values, dict) and isinstance(values.get("district"), list)
    assert reply.status_code == (200 if there else 422)
