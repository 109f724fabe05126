"""Data keys in each place that can keep them: a database, and a key service."""

import asyncio
import os
import subprocess
import sys
from collections.abc import AsyncIterator
from pathlib import Path
from uuid import UUID, uuid4

import httpx
import pytest
from cryptography.fernet import Fernet

from jotgate.adapters import data_keys
from jotgate.adapters.data_keys import EnvelopeKeys, KeyStore, WrappedKey
from jotgate.adapters.key_database import KeyDatabase, prepare
from jotgate.adapters.key_service import AT_ONCE, KeyService
from jotgate.adapters.secrets import FernetCipher
from jotgate.adapters.simulated.key_service import key_service_app
from jotgate.core.common.errors import Sealed, Unavailable
from jotgate.local import checks
from jotgate.local import cluster as clusters
from jotgate.settings import ROOT, Settings

TOKEN = "aged-oak-31"
OLD, NEW = (Fernet.generate_key().decode() for _ in range(2))


def service(path: Path, token: str = TOKEN) -> KeyService:
    app = key_service_app(path, TOKEN)
    return KeyService("http://keys.test", token, httpx.ASGITransport(app=app))


@pytest.fixture(params=["database", "service"])
async def store(
    request: pytest.FixtureRequest, cluster: clusters.Cluster, tmp_path: Path
) -> AsyncIterator[KeyStore]:
    if request.param == "service":
        made: KeyStore = service(tmp_path / "keys.db")
    else:
        name = f"keys_{uuid4().hex}"
        clusters.create_database(cluster, name)
        prepare(cluster.url(name), clusters.REQUESTS)
        made = KeyDatabase(cluster.url(name, clusters.REQUESTS))
    yield made
    await made.close()


async def test_found_until_they_are_destroyed(store: KeyStore) -> None:
    keys = EnvelopeKeys(store, FernetCipher([OLD]), ahead=3)
    taken = [await keys.take() for _ in range(5)]
    sealed = [one.seal(b"ill", "here") for one in taken]
    ids = [one.id for one in taken]
    found = await keys.find([*ids, uuid4()])
    assert set(found) == set(ids)
    assert [found[id].open(one, "here") for id, one in zip(ids, sealed, strict=True)] == [
        b"ill"
    ] * 5
    with pytest.raises(Sealed):
        found[ids[0]].open(sealed[0], "elsewhere")
    await keys.destroy([*ids[:2], uuid4()])
    assert set(await keys.find(ids)) == set(ids[2:])
    assert await keys.find([]) == {}


async def test_moved_to_another_store(
    store: KeyStore, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """And carried on where it was interrupted after keys were added and before they were left."""
    monkeypatch.setattr(data_keys, "MOVED_AT_ONCE", 3)
    keys = [WrappedKey(uuid4(), bytes([at, 0, 255]), b"mark") for at in range(8)]
    await store.add(keys)
    other = service(tmp_path / "other.db")
    await other.add(keys[2:4])
    ids = [one.id for one in keys]
    assert await data_keys.move(store, other) == 8
    assert not list(await store.find(ids))
    assert set(await other.find(ids)) == set(keys)
    assert await data_keys.move(other, store) == 8
    assert set(await store.find(ids)) == set(keys)
    assert await data_keys.move(other, store) == 0
    await other.close()


async def test_wrapped_anew_and_never_brought_back(store: KeyStore) -> None:
    old = EnvelopeKeys(store, FernetCipher([OLD]), ahead=2)
    key, gone = await old.take(), await old.take()
    wrapped = {one.id: one for one in await store.find([key.id, gone.id])}
    await old.destroy([gone.id])
    await store.replace([wrapped[gone.id]])
    assert set(await old.find([key.id, gone.id])) == {key.id}
    both = EnvelopeKeys(store, FernetCipher([NEW, OLD]), ahead=2)
    assert await both.rewrap() > 0
    assert await both.rewrap() == 0
    only = EnvelopeKeys(store, FernetCipher([NEW]), ahead=2)
    assert (await only.find([key.id]))[key.id].secret == key.secret
    assert next(iter(await store.find([key.id]))).wrapped != wrapped[key.id].wrapped


async def test_more_than_one_request_takes(store: KeyStore) -> None:
    many = [WrappedKey(uuid4(), os.urandom(40), b"\x00\xffmark") for _ in range(2 * AT_ONCE + 1)]
    await store.add(many)
    ids = [one.id for one in many]
    assert {one.id: one for one in await store.find(ids)} == {one.id: one for one in many}
    await store.destroy(ids)
    assert list(await store.find(ids)) == []


async def test_the_service_wants_its_token(tmp_path: Path) -> None:
    with pytest.raises(Unavailable):
        await service(tmp_path / "keys.db", "guessed").find([uuid4()])


@pytest.mark.parametrize(
    "answer",
    [
        httpx.Response(200, content=b"<html>"),
        httpx.Response(200, json={"keys": [{"id": "x"}]}),
        httpx.Response(
            200, json={"keys": [{"id": str(uuid4()), "wrapped": "§", "wrapped_by": "§"}]}
        ),
        httpx.Response(500),
        httpx.Response(302, headers={"Location": "http://elsewhere.test"}),
        httpx.ConnectError("away"),
        httpx.ReadTimeout("slow"),
    ],
    ids=str,
)
async def test_whatever_it_says_nothing_is_made_up(answer: httpx.Response | Exception) -> None:
    def say(_: httpx.Request) -> httpx.Response:
        if isinstance(answer, Exception):
            raise answer
        return answer

    asked = KeyService("http://keys.test", TOKEN, httpx.MockTransport(say))
    with pytest.raises(Unavailable):
        await asked.find([uuid4()])


async def test_keys_that_nobody_asked_for_are_not_taken() -> None:
    wrong = {"id": str(uuid4()), "wrapped": "AAAA", "wrapped_by": "AAAA"}
    answer = httpx.MockTransport(lambda _: httpx.Response(200, json={"keys": [wrong]}))
    assert await KeyService("http://keys.test", TOKEN, answer).find([uuid4()]) == []


async def test_what_is_destroyed_leaves_the_file(tmp_path: Path) -> None:
    kept = service(tmp_path / "keys.db")
    key = WrappedKey(uuid4(), b"canary of a wrapped key", b"mark")
    await kept.add([key])
    await kept.destroy([key.id])
    assert await kept.find([key.id]) == []
    data = (tmp_path / "keys.db").read_bytes()
    assert b"Y2FuYXJ5" not in data  # "canary" in base64, as it was kept.
    assert str(key.id).encode() not in data


async def test_over_a_real_connection(tmp_path: Path) -> None:
    """The stand-in as it is started, and what `check` says of it."""
    port = clusters.free_port()
    told = {
        "JOTGATE_KEY_SERVICE": str(tmp_path / "keys.db"),
        "JOTGATE_KEY_SERVICE_PORT": str(port),
        "JOTGATE_KEY_STORE_TOKEN": TOKEN,
    }
    url = f"http://127.0.0.1:{port}"
    asked = Settings(key_store_url=url, key_store_token=TOKEN)
    guessed = Settings(key_store_url=url, key_store_token="guessed")
    command = [sys.executable, "-m", "jotgate", "key-service"]
    with subprocess.Popen(command, cwd=ROOT, env={**os.environ, **told}) as process:
        try:
            store = KeyService(url, TOKEN)
            keys = EnvelopeKeys(store, FernetCipher([OLD]), ahead=2)
            key = await _once_up(keys)
            assert set(await keys.find([key])) == {key}
            assert await asyncio.to_thread(lambda: [*checks._key_store(asked)]) == []
            assert await asyncio.to_thread(lambda: [*checks._key_store(guessed)]) != []
            await keys.close()
        finally:
            process.terminate()


async def _once_up(keys: EnvelopeKeys) -> UUID:
    for _ in range(200):
        try:
            return (await keys.take()).id
        except Unavailable:
            await asyncio.sleep(0.1)
    raise AssertionError("The key service does not come up.")
