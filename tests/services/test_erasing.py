"""What was deleted is erased: no copy of the database made before gives it back."""

import subprocess
from collections.abc import AsyncIterator
from dataclasses import replace
from itertools import count

import pytest
from cryptography.fernet import Fernet
from sqlalchemy import text

from jotgate.adapters.data_keys import EnvelopeKeys
from jotgate.adapters.key_database import KeyDatabase
from jotgate.adapters.secrets import FernetCipher
from jotgate.core.common.errors import Erased, Sealed, Unavailable
from jotgate.local import cluster as clusters
from jotgate.local.cluster import Cluster
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.keys.erasing import destroy_keys
from jotgate.services.keys.sealing import Restricted, restricted_of, seal
from jotgate.services.public import uploads
from jotgate.services.staff.entries import entries, removing
from jotgate.services.staff.registers import registers
from jotgate.store.base import Engine, connect
from jotgate.store.entries import entries as entry_store
from jotgate.store.entries import writing
from tests.conftest import KEY, as_role
from tests.core.dispatch.rules import file
from tests.register_rows import rows_of
from tests.scenes import SECRET, Scene
from tests.services.public.test_uploads import Sender, of, picture, sender
from tests.services.test_dispatch_files import made, with_rule

__all__ = ["sender"]

_numbers = count(1)


def restored(cluster: Cluster, database_url: str, dump: bytes) -> str:
    """The address of a new database with what is in a dump."""
    name = f"restored_{database_url.rpartition('/')[2]}_{next(_numbers)}"
    clusters.create_database(cluster, name)
    run(cluster, "psql", name, "--quiet", "--output=/dev/null", given=dump)
    return cluster.url(name)


def run(cluster: Cluster, program: str, database: str, *more: str, given: bytes = b"") -> bytes:
    where = ["--host=127.0.0.1", f"--port={cluster.port}", f"--username={clusters.ROLE}"]
    command = [str(clusters.programs() / program), *where, *more, database]
    return subprocess.run(command, input=given, capture_output=True, check=True).stdout


def dumped(cluster: Cluster, database_url: str) -> bytes:
    return run(cluster, "pg_dump", database_url.rpartition("/")[2])


@pytest.fixture
async def back(cluster: Cluster, context: Context) -> AsyncIterator[list[Engine]]:
    """Engines that a test opens."""
    opened: list[Engine] = []
    yield opened
    for engine in opened:
        await engine.dispose()


async def of_copy(context: Context, url: str, back: list[Engine]) -> Context:
    """The application working on a copy of its database, with the store of keys as it is now."""
    engine = connect(as_role(url, clusters.REQUESTS), 2)
    cleared = connect(as_role(url, clusters.RESTRICTED), 2)
    back += [engine, cleared]
    return replace(context, engine=engine, single=engine, restricted=cleared)


async def test_a_backup_from_before_gives_nothing_restricted_back(
    scene: Scene,
    context: Context,
    cluster: Cluster,
    database_url: str,
    back: list[Engine],
) -> None:
    """It does as long as the entry is there; once that is deleted, its answers are gone in the
    backup too, those of others are not."""
    gone = (await scene.submit("a", ill=True, illness=SECRET)).id
    kept = (await scene.submit("b", ill=True, illness=SECRET)).id
    dump = dumped(cluster, database_url)
    copy = await of_copy(context, restored(cluster, database_url, dump), back)
    who, found = scene.coordinator, Restricted({"ill": True, "illness": SECRET}, "")
    assert (await entries.reveal(copy, who, scene.id, gone))[1] == found
    await removing.remove(context, who, scene.id, gone)
    assert await destroy_keys(context) == 1
    assert await destroy_keys(context) == 0
    again = await of_copy(context, restored(cluster, database_url, dump), back)
    assert (await entries.read(again, who, scene.id, gone)).withheld == ()
    for one in (copy, again):
        with pytest.raises(Erased):
            await entries.reveal(one, who, scene.id, gone)
    assert (await entries.reveal(again, who, scene.id, kept))[1] == found


async def test_the_installations_key_alone_opens_nothing(
    scene: Scene, context: Context, owner: Engine
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    async with owner.connect() as conn:
        (sealed,) = (await conn.execute(text("select sealed from restricted_answers"))).scalars()
    assert SECRET.encode() not in sealed
    with pytest.raises(Sealed):
        context.cipher.open(sealed, "entry")


async def test_whatever_deletes_entries_erases_them(
    scene: Scene, context: Context, owner: Engine
) -> None:
    for key in "abc":
        await scene.submit(key, ill=True, illness=SECRET)
    async with owner.begin() as conn:
        await conn.execute(text("delete from entries"))
    assert await destroy_keys(context) == 3


async def test_a_file_is_erased_with_its_entry(sender: Sender, context: Context) -> None:
    sent = await sender.send("secret", "well.png", picture())
    taken = await sender.submit(secret=[of(sent)])
    pieces = await context.files.get(f"files/{sent.id}/{0:010}")
    await removing.remove(context, sender.scene.coordinator, sender.id, taken.id)
    assert await destroy_keys(context) == 2  # of the answer, and of the file
    await context.files.put(f"files/{sent.id}/{0:010}", pieces)
    async with context.engine.begin() as conn:  # as they were in a backup
        await conn.execute(
            text(
                "insert into files (id, questionnaire_id, edition, item, name, size, received, "
                "type, begun, key_id) values (:id, :of, 1, 'secret', 'x', 1, 1, 'x', now(), :key)"
            ),
            {"id": sent.id, "of": sender.id, "key": sent.key_id},
        )
    with pytest.raises(Erased):
        await uploads.read(context, sent.id, sent.size)


async def test_a_file_that_stands_in_a_row_is_erased_with_the_row(
    sender: Sender, context: Context
) -> None:
    register, who = await made(sender), sender.scene.coordinator
    await with_rule(sender, file(register.id, photo="photo"))
    sent = await sender.send("photo", "well.png", picture())
    taken = await sender.submit(photo=[of(sent)])
    await dispatch_entry(context, sender.id, taken.id)
    (row,) = await rows_of(context, who, register.id)
    await removing.remove(context, who, sender.id, taken.id)
    assert await destroy_keys(context) == 0
    assert await uploads.read(context, sent.id, sent.size) == picture()
    await registers.remove(context, replace(who, role="owner"), register.id, "Photos")
    assert await destroy_keys(context) == 1
    assert row.values == {"photo": [str(sent.id)]}


async def test_the_installations_key_is_rotated_and_no_answer_rewritten(
    scene: Scene, context: Context, cluster: Cluster, owner: Engine
) -> None:
    id = (await scene.submit("a", ill=True, illness=SECRET)).id
    query = text("select sealed from restricted_answers")
    async with owner.connect() as conn:
        before = (await conn.execute(query)).scalars().all()
    url, new = cluster.url("keys", clusters.REQUESTS), Fernet.generate_key().decode()
    both = EnvelopeKeys(KeyDatabase(url), FernetCipher([new, KEY]), ahead=2)
    assert await both.rewrap() > 0
    assert await both.rewrap() == 0
    only = EnvelopeKeys(KeyDatabase(url), FernetCipher([new]), ahead=2)
    rotated = replace(context, data_keys=only)
    _, found = await entries.reveal(rotated, scene.coordinator, scene.id, id)
    assert found.answers["illness"] == SECRET
    back = EnvelopeKeys(KeyDatabase(url), FernetCipher([KEY, new]))
    await back.rewrap()
    async with owner.connect() as conn:
        assert (await conn.execute(query)).scalars().all() == before
    for one in (both, only, back):
        await one.close()


async def test_a_submission_waits_for_no_store_of_keys(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Of what was made ahead there is some; reading says that it is away, and erasing is done once
    it is back."""
    first = (await scene.submit("a", ill=True, illness=SECRET)).id
    keys = context.data_keys
    assert isinstance(keys, EnvelopeKeys)
    monkeypatch.setattr(keys._store, "_transaction", away)
    for key in "bcd":
        await scene.submit(key, ill=True, illness=SECRET)
    with pytest.raises(Unavailable):
        await scene.submit("e", ill=True, illness=SECRET)
    with pytest.raises(Unavailable):
        await entries.reveal(context, scene.coordinator, scene.id, first)
    await removing.remove(context, scene.coordinator, scene.id, first)
    with pytest.raises(Unavailable):
        await destroy_keys(context)
    monkeypatch.undo()
    assert await destroy_keys(context) == 1


def away() -> None:
    raise Unavailable("The store of keys does not answer.")


async def test_keys_made_ahead_go_with_the_process(context: Context, cluster: Cluster) -> None:
    keys = EnvelopeKeys(
        KeyDatabase(cluster.url("keys", clusters.REQUESTS)), FernetCipher([KEY]), ahead=6
    )
    taken = [await keys.take() for _ in range(8)]
    assert len({one.id for one in taken}) == 8
    free = [one.id for one in keys._free]
    assert free
    await keys.close()
    assert set(await context.data_keys.find([*free, taken[0].id])) == {taken[0].id}


async def test_a_corrected_answer_takes_a_new_key_and_lets_the_old_one_go(
    scene: Scene, context: Context
) -> None:
    id = (await scene.submit("a", ill=True, illness=SECRET)).id
    async with context.restricted.begin() as conn:
        entry = await entry_store.entry(conn, scene.id, id)
        assert entry
        before = await entry_store.sealed(conn, scene.id, [id])
        key = await context.data_keys.take()
        assert key.id != before[id].key_id
        kept = await restricted_of(context, id, before)
        await writing.put_sealed(conn, entry, await seal(context, id, kept))
    assert await destroy_keys(context) == 1
    _, found = await entries.reveal(context, scene.coordinator, scene.id, id)
    assert found.answers["illness"] == SECRET
