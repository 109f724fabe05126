"""Copies of open answers for tables: whole, in step with what is changed, nothing restricted."""

import asyncio

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Unavailable
from jotgate.core.table_views import TableView
from jotgate.services import entry_rows
from jotgate.services.context import Context
from jotgate.services.keys import resealing
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.store.entry_table import rows
from tests.scenes import Scene
from tests.services.test_resealing import restrict


async def copies(context: Context) -> dict[int, dict[str, object]]:
    async with context.engine.connect() as conn:
        found = await conn.execute(text("select number, answers from entry_rows order by number"))
        return {row.number: row.answers for row in found}


async def search(scene: Scene, words: str) -> list[int]:
    asked = Asked(TableView(search=words))
    found = await entry_table.page(scene.context, scene.coordinator, scene.id, asked)
    return [one.number for one in found.entries]


async def test_every_entry_is_copied_once_though_some_commit_late(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    """An entry with a smaller number can be stored after one with a larger."""
    monkeypatch.setattr(entry_rows, "AT_ONCE", 3)
    for n in range(4):
        await scene.submit(f"k{n}")
    assert await entry_rows.catch_up(context) == 4
    insert = """
insert into entries (questionnaire_id, id, edition, number, arrived, finish, answers, flags,
  idempotency_key, stripe, status, language)
select questionnaire_id, gen_random_uuid(), edition, :number, now(), finish, answers, flags,
  :key, stripe, status, language from entries where number = 1
"""
    async with context.engine.connect() as late:
        await late.begin()
        await late.execute(text(insert), {"number": 5, "key": "late"})
        async with context.engine.begin() as conn:
            await conn.execute(text(insert), {"number": 6, "key": "early"})
        for _ in range(4):
            await entry_rows.catch_up(context)
        assert list(await copies(context)) == [1, 2, 3, 4, 6]
        await late.commit()
    await entry_rows.catch_up(context)
    assert list(await copies(context)) == [1, 2, 3, 4, 5, 6]
    for _ in range(3):
        await entry_rows.catch_up(context)
    async with context.engine.connect() as conn:
        assert await rows.behind(conn) == []


async def test_several_workers_copy_each_entry_once(scene: Scene, context: Context) -> None:
    for n in range(12):
        await scene.submit(f"k{n}")
    counts = await asyncio.gather(*(entry_rows.catch_up(context) for _ in range(4)))
    while missing := await entry_rows.catch_up(context):
        counts.append(missing)
    assert sum(counts) == 12
    assert len(await copies(context)) == 12


async def test_a_copy_follows_what_is_changed(scene: Scene, context: Context) -> None:
    taken = await scene.submit("a", name="Ines")
    await entry_rows.catch_up(context)
    assert await search(scene, "ines") == [1]
    async with context.engine.begin() as conn:
        said = 'update entries set answers = answers || \'{"name": "Oskar"}\' where id = :id'
        await conn.execute(text(said), {"id": taken.id})
    assert (await copies(context))[1]["name"] == "Oskar"
    assert await search(scene, "ines") == []
    assert await search(scene, "osk") == [1]


async def test_what_is_restricted_later_is_in_no_copy_and_found_by_nobody(
    scene: Scene, context: Context
) -> None:
    await scene.submit("a", name="Ines", drinkers="17")
    await entry_rows.catch_up(context)
    assert await search(scene, "17") == [1]
    await restrict(scene, "drinkers")
    with pytest.raises(Unavailable):
        await search(scene, "17")
    await scene.submit("late", name="Oskar", drinkers="17")
    await entry_rows.catch_up(context)
    assert "drinkers" not in (await copies(context))[2]
    await resealing.seal_anew(context, scene.id)
    assert await search(scene, "17") == []
    assert all("drinkers" not in one for one in (await copies(context)).values())


async def test_an_index_is_made_for_an_order_of_many_and_dropped_when_unused(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_table, "MANY", 2)
    monkeypatch.setattr(entry_rows, "INDEXES", 2)
    for n in range(3):
        await scene.submit(f"k{n}", drinkers=str(n + 1))
    await entry_rows.catch_up(context)

    async def page(**view: object) -> entry_table.EntryPage:
        asked = Asked(TableView.model_validate(view))
        return await entry_table.page(context, scene.coordinator, scene.id, asked)

    async def made() -> list[str]:
        query = "select indexdef from pg_indexes where indexname like 'er\\_%' order by 1"
        async with context.engine.connect() as conn:
            return [row.indexdef for row in await conn.execute(text(query))]

    async def work_off() -> None:
        query = "select name from entry_row_indexes where made is null"
        async with context.engine.connect() as conn:
            names = [row.name for row in await conn.execute(text(query))]
        for name in names:
            await entry_rows.make_index(context, name)

    assert (await page(sort=[{"column": "drinkers"}])).making
    await work_off()
    found = await page(sort=[{"column": "drinkers"}])
    assert not found.making
    assert len(await made()) == 1
    await page(filter={"op": "contains", "item": "name", "value": "ne"})
    await page(filter={"op": "at_least", "item": "drinkers", "value": "1"})
    await work_off()
    assert len(await made()) == 2
    async with context.engine.begin() as conn:
        old = "update entry_row_indexes set used = now() - interval '60 days'"
        await conn.execute(text(old))
    await entry_rows.drop_unused(context)
    assert await made() == []
