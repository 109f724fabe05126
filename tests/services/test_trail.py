"""The chain of the trail: what was changed, left out, cut off or put in is found."""

import csv
import io
from dataclasses import replace

import pytest
from cryptography.fernet import Fernet
from sqlalchemy import text
from sqlalchemy.exc import ProgrammingError

from jotgate.adapters.secrets import FernetCipher
from jotgate.core.common.errors import NotAllowed
from jotgate.core.records.trail import TrailFilter
from jotgate.services import trail
from jotgate.services.context import Context
from jotgate.services.staff import trail as reading
from jotgate.store.base import Engine
from tests.scenes import SECRET, Scene


async def run(owner: Engine, *statements: str) -> None:
    async with owner.begin() as conn:
        for one in statements:
            await conn.execute(text(one))


async def test_it_holds_as_it_was_written(scene: Scene, context: Context) -> None:
    count, last, wrong = await trail.check(context)
    assert wrong == ""
    assert count == int(last.split()[0]) > 4


CHANGES = {
    'update trail set detail = \'{"name": "X"}\' where id = 3': 2,
    "update trail set action = 'published' where id = 1": 0,
    "update trail set at = at + interval '1 second' where id = 2": 1,
    "update trail set account_id = null where id = 2": 1,
    "delete from trail_links where trail_id = 2; delete from trail where id = 2": 1,
    "delete from trail_links where trail_id = 3": 2,
    "update trail_links set hash = decode('00', 'hex') where trail_id = 2": 1,
}


@pytest.mark.parametrize("change", CHANGES)
async def test_a_change_is_found(
    scene: Scene, context: Context, owner: Engine, change: str
) -> None:
    await run(owner, *change.split("; "))
    count, _, wrong = await trail.check(context)
    assert wrong
    assert count == CHANGES[change]


async def test_what_was_cut_off_is_found_by_what_was_noted(
    scene: Scene, context: Context, owner: Engine
) -> None:
    count, last, _ = await trail.check(context)
    number, hashed = last.split()
    noted = int(number), bytes.fromhex(hashed)
    assert (await trail.check(context, *noted))[2] == ""
    await run(
        owner,
        f"delete from trail_links where trail_id = {count}",
        f"delete from trail where id = {count}",
    )
    assert (await trail.check(context))[2] == ""
    assert "cut off" in (await trail.check(context, *noted))[2]


async def test_the_application_can_only_add_to_it(scene: Scene, context: Context) -> None:
    for engine in (context.engine, context.restricted):
        for change in ("update trail set at = now()", "delete from trail", "truncate trail_links"):
            with pytest.raises(ProgrammingError, match="permission denied"):
                async with engine.begin() as conn:
                    await conn.execute(text(change))


async def test_ordinary_requests_cannot_read_restricted_answers(
    scene: Scene, context: Context
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    for engine in (context.engine, context.single):
        with pytest.raises(ProgrammingError, match="permission denied"):
            async with engine.connect() as conn:
                await conn.execute(text("select * from restricted_answers"))
    async with context.restricted.connect() as conn:
        assert (await conn.execute(text("select count(*) from restricted_answers"))).scalar() == 1


async def test_rows_from_before_the_chain_are_taken_into_it(
    scene: Scene, context: Context, owner: Engine
) -> None:
    await run(owner, "delete from trail_links")
    async with context.engine.begin() as conn:
        await trail.note(context, conn, scene.coordinator.id, "signed_in")
    count, _, wrong = await trail.check(context)
    assert (wrong, count) == ("", await last_id(owner))


async def last_id(owner: Engine) -> int:
    async with owner.connect() as conn:
        return int((await conn.execute(text("select max(id) from trail"))).scalar_one())


async def test_another_key_finds_nothing_right(scene: Scene, context: Context) -> None:
    other = replace(context, cipher=FernetCipher([Fernet.generate_key().decode()]))
    count, _, wrong = await trail.check(other)
    assert (count, wrong != "") == (0, True)


async def test_it_goes_out_as_csv(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(reading, "AT_ONCE", 2)
    wanted = TrailFilter(questionnaire=scene.id)
    parts = [one async for one in await reading.export(context, scene.coordinator, wanted)]
    head, *rows = csv.reader(io.StringIO(b"".join(parts).decode()))
    assert head == list(reading.COLUMNS)
    assert [row[3] for row in rows][-1] == "created"
    assert {row[5] for row in rows} == {str(scene.id)}
    assert rows[0][3] == "trail_exported"
    with pytest.raises(NotAllowed):
        await reading.export(context, scene.reviewer, wanted)


async def test_filters_narrow_it(scene: Scene, context: Context) -> None:
    await scene.submit("a")
    found = {}
    for name, wanted in {
        "person": TrailFilter(person=scene.coordinator.id),
        "other": TrailFilter(person=scene.reviewer.id),
        "kind": TrailFilter(actions=("published", "gate_changed")),
        "since": TrailFilter(since=context.clock.now()),
        "until": TrailFilter(until=context.clock.now()),
    }.items():
        marks, _ = await reading.page(context, scene.coordinator, wanted, None)
        found[name] = [mark.action for mark in marks]
    assert found["kind"] == ["gate_changed", "published"]
    assert found["other"] == found["until"] == []
    assert len(found["person"]) == len(found["since"]) > 3
