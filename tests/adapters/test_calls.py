"""Calls to other systems: signed, to addresses that anybody can reach, whatever is answered."""

import asyncio
import json
import socket
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
import uvicorn
from standardwebhooks import Webhook

from jotgate.adapters import calls
from jotgate.adapters.calls import HttpCalls
from jotgate.adapters.simulated.webhook_bench import Bench, bench_app
from jotgate.core.dispatch.hosts import is_public
from jotgate.core.signed_calls import read_written, written
from jotgate.local.cluster import free_port
from jotgate.ports.calls import Call, CallFailed

SECRET, OLDER = b"s" * 32, b"o" * 32
BODY = json.dumps({"type": "entry.arrived", "data": {"name": "Ines ✓"}}).encode()

CLOSED = """
127.0.0.1 127.1.2.3 0.0.0.0 0.1.2.3 10.0.0.1 10.255.255.255 172.16.0.1 172.31.255.254 192.168.0.1
192.168.255.255 169.254.169.254 169.254.0.1 100.64.0.1 100.127.255.254 192.0.0.1 192.0.0.170
192.0.2.1 198.51.100.7 203.0.113.9 192.88.99.1 198.18.0.1 198.19.255.254 224.0.0.1 239.255.255.255
240.0.0.1 255.255.255.255 ::1 :: ::ffff:127.0.0.1 ::ffff:10.0.0.1 ::ffff:169.254.169.254
::127.0.0.1 ::ffff:0:192.168.0.1 64:ff9b::10.0.0.1 64:ff9b::7f00:1 64:ff9b:1::1 2002:7f00:1::
2002:a00:1::1 2001::1 2001:db8::1 fc00::1 fd12:3456::1 fe80::1 fe80::1%eth0 fec0::1 ff02::1
100::1 localhost 2130706433 0x7f.0.0.1 0177.0.0.1 127.1
""".split()
OPEN = """
9.9.9.9 172.15.255.255 172.32.0.1 100.63.255.255 100.128.0.1 192.167.255.255 198.17.255.255
198.20.0.1 223.255.255.254 2606:4700::1 2a00:1450::1 ::ffff:9.9.9.9 64:ff9b::909:909 2002:909:909::1
""".split()


@pytest.mark.parametrize("address", CLOSED)
def test_what_only_this_server_can_reach_is_closed(address: str) -> None:
    """The networks of IANA's special-purpose registries, and addresses that carry one of those; an
    address in another form than the usual is no address."""
    assert not is_public(address)


@pytest.mark.parametrize("address", OPEN)
def test_what_anybody_can_reach_is_open(address: str) -> None:
    assert is_public(address)


@pytest.mark.parametrize(
    "address",
    [
        *("http://example.org/", "ftp://example.org/", "example.org", "https://", "//x", "", "x"),
        *("https://a:b@example.org/", "https://a@example.org/", "https://example.org/#x"),
        *("https://127.0.0.1/", "https://[::1]/", "https://[::ffff:10.0.0.1]:8443/x"),
        *("https://2130706433/", "https://0x7f000001/", "https://0177.1/", "https://127.1/"),
        *("https://example.org:0/", "https://example.org:99999/", "https://[/", "file:///etc/x"),
        *("https://169.254.169.254/latest", "gopher://example.org/", "https://0/"),
    ],
)
def test_an_address_that_cannot_be_called_is_told(address: str) -> None:
    assert HttpCalls().fault_of(address)


def test_one_that_can_be_is_taken() -> None:
    assert HttpCalls().fault_of("https://example.org:8443/a?b=c") == ""
    assert HttpCalls().fault_of("https://9.9.9.9/") == ""
    assert HttpCalls(private=True).fault_of("http://127.0.0.1:80/") == ""


def call(address: str, id: str = "one", secrets: tuple[bytes, ...] = (SECRET,)) -> Call:
    return Call(id, address, BODY, secrets)


@pytest.mark.parametrize(
    "found", [["127.0.0.1"], ["9.9.9.9", "10.0.0.1"], ["::1"], ["::ffff:127.0.0.1"]]
)
async def test_a_name_that_leads_inside_is_not_called(
    found: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Whichever of the addresses of a name it is."""

    async def looked_up(*_: Any, **__: Any) -> Any:
        return [(socket.AF_INET, socket.SOCK_STREAM, 6, "", (one, 443)) for one in found]

    monkeypatch.setattr(asyncio.get_running_loop(), "getaddrinfo", looked_up)
    with pytest.raises(CallFailed, match="only this server") as failed:
        await HttpCalls().send(call("https://inside.example.org/"))
    assert failed.value.for_good


async def test_the_connection_goes_to_the_address_that_was_looked_at(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """The name is looked up once: what it means a moment later is not asked."""
    asked: list[str] = []

    async def looked_up(host: str, *_: Any, **__: Any) -> Any:
        asked.append(host)
        return [(socket.AF_INET, socket.SOCK_STREAM, 6, "", ("9.9.9.9", 443))]

    seen: list[httpx.Request] = []

    async def answer(request: httpx.Request) -> httpx.Response:
        seen.append(request)
        return httpx.Response(200, stream=httpx.ByteStream(b"ok"))

    monkeypatch.setattr(asyncio.get_running_loop(), "getaddrinfo", looked_up)
    client = HttpCalls(transport=httpx.MockTransport(answer))
    await client.send(call("https://hook.example.org/x?y=1"))
    (request,) = seen
    assert str(request.url) == "https://9.9.9.9/x?y=1"
    assert request.headers["host"] == "hook.example.org"
    assert request.extensions["sni_hostname"] == "hook.example.org"
    assert asked == ["hook.example.org"]


@pytest.fixture
def bench(tmp_path: Path) -> Iterator[tuple[Bench, str]]:
    made, port = Bench(tmp_path), free_port()
    config = uvicorn.Config(bench_app(made), port=port, log_level="critical")
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run)
    thread.start()
    while not server.started:
        pass
    yield made, f"http://127.0.0.1:{port}/calls"
    server.should_exit = server.force_exit = True
    thread.join()


@pytest.fixture
def client() -> HttpCalls:
    return HttpCalls(private=True)


async def test_a_call_is_signed_for_whoever_has_one_of_the_secrets(
    bench: tuple[Bench, str], client: HttpCalls
) -> None:
    made, address = bench
    made.told.secrets = [written(OLDER)]
    answered = await client.send(call(address, secrets=(SECRET, OLDER)))
    assert answered.status == 200
    await client.send(call(address, secrets=(SECRET, OLDER)))
    assert [json.loads(one["body"]) for one in made.received()] == [json.loads(BODY)]
    with pytest.raises(CallFailed, match="status 401"):
        await client.send(call(address, id="two", secrets=(SECRET,)))
    assert len(made.received()) == 1


async def test_the_signature_is_that_of_the_specification() -> None:
    """Checked by the library of the Standard Webhooks project."""
    seen: list[httpx.Request] = []

    async def answer(request: httpx.Request) -> httpx.Response:
        seen.append(request)
        return httpx.Response(204, stream=httpx.ByteStream(b""))

    client = HttpCalls(private=True, transport=httpx.MockTransport(answer))
    await client.send(call("http://127.0.0.1:9/", secrets=(OLDER, SECRET)))
    (request,) = seen
    assert request.content == BODY
    found = Webhook(written(SECRET)).verify(request.content, dict(request.headers))
    assert found["data"] == {"name": "Ines ✓"}
    assert read_written(written(SECRET)) == SECRET


@pytest.mark.parametrize(
    ("mode", "told", "for_good"),
    [
        ("fail", "status 503", False),
        ("garbage", "status 500", False),
        ("cut", "could not be reached", False),
        ("redirect", "redirect, which is not followed", False),
        ("gone", "status 410", True),
        ("slow", "within 0 seconds", False),
    ],
)
async def test_whatever_the_other_side_does_is_told(
    bench: tuple[Bench, str],
    client: HttpCalls,
    mode: Any,
    told: str,
    for_good: bool,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    if mode == "slow":
        monkeypatch.setattr(calls, "SECONDS", 0.3)
    made, address = bench
    made.told.mode = mode
    with pytest.raises(CallFailed, match=told) as failed:
        await client.send(call(address))
    assert failed.value.for_good is for_good
    assert made.received() == []
    if failed.value.answered is not None:
        assert len(failed.value.answered.words) <= 4_096


async def test_nobody_there_is_told(client: HttpCalls) -> None:
    with pytest.raises(CallFailed, match="could not be reached"):
        await client.send(call(f"http://127.0.0.1:{free_port()}/"))
    with pytest.raises(CallFailed, match="no computer by that name"):
        await client.send(call("http://nobody.invalid/"))
