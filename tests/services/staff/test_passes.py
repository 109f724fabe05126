"""Making named links and passes: what is wrong is said before anything is written."""

from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.links import named_links, passes
from jotgate.services.staff.links.passes import NewPasses
from jotgate.services.tables import tables
from tests.conftest import Clock
from tests.scenes import Scene, published
from tests.services.public.test_arrivals import TABLE, Wells, wells


@pytest.fixture
async def wells_of(scene: Scene, context: Context) -> Wells:
    return Wells(scene, *await published(context, scene.coordinator, wells()))


async def faults(trying: Any) -> dict[str, str]:
    with pytest.raises(Invalid) as refused:
        await trying
    return {one.at: one.code for one in refused.value.faults}


async def wish(wells_of: Wells, body: bytes, **more: Any) -> NewPasses:
    owner = wells_of.scene.coordinator
    table, columns = await passes.take_table(wells_of.context, owner, wells_of.id, "t.csv", body)
    asked = {"columns": columns, "values": (), "expires": None, "uses": 1, "name": "L", **more}
    return NewPasses(table_id=table.id, **asked)


async def result(wells_of: Wells, wanted: NewPasses) -> tuple[str, list[tuple[str, str]], int]:
    """The state of the work, what is wrong, and how many passes there are."""
    owner = wells_of.scene.coordinator
    asked = await passes.ask(wells_of.context, owner, wells_of.id, wanted)
    await doing.do(wells_of.context, asked.id)
    work = await passes.progress(wells_of.context, owner, wells_of.id, asked.id)
    found = [(one["at"], one["message"]) for one in work.result.get("faults", [])]
    async with wells_of.context.engine.connect() as conn:
        count: int = (await conn.execute(text("select count(*) from passes"))).scalar_one()
    return work.state, found, count


async def test_columns_are_proposed_by_their_names(wells_of: Wells) -> None:
    owner = wells_of.scene.coordinator
    body = b"District ,NAME,Other\nSaltings,Ines,x\n"
    _, proposed = await passes.take_table(wells_of.context, owner, wells_of.id, "t.csv", body)
    assert proposed == {0: "district", 1: "name"}


async def test_rows_that_will_not_do_are_named_and_nothing_is_made(wells_of: Wells) -> None:
    body = b"District\nSaltings\nAtlantis\n\n,\nMillbeck\n".replace(b",", b"x" * 30)
    state, found, count = await result(wells_of, await wish(wells_of, body))
    assert (state, count) == ("failed", 0)
    assert [at for at, _ in found] == ["rows/3", "rows/4"]
    assert found[0][1].startswith("district: ")


async def test_a_row_without_what_is_required_is_named(wells_of: Wells) -> None:
    body = b"Household,District\nH-1,Saltings\nH-2,\n"
    state, found, count = await result(wells_of, await wish(wells_of, body))
    assert (state, found, count) == ("failed", [("rows/3", "district: this row has none.")], 0)
    everybody = await wish(wells_of, body, columns={}, values=(("district", "Millbeck"),))
    assert await result(wells_of, everybody) == ("done", [], 2)


async def test_a_table_makes_passes_once(wells_of: Wells) -> None:
    wanted = await wish(wells_of, TABLE)
    assert await result(wells_of, wanted) == ("done", [], 3)
    state, found, count = await result(wells_of, wanted)
    assert (state, [at for at, _ in found], count) == ("failed", ["table"], 3)


async def test_work_that_was_done_is_not_done_again(wells_of: Wells, context: Context) -> None:
    owner = wells_of.scene.coordinator
    asked = await passes.ask(context, owner, wells_of.id, await wish(wells_of, TABLE))
    for _ in range(2):
        await doing.do(context, asked.id)
    ways = await named_links.ways(context, owner, wells_of.id)
    assert [(one.passes, one.live) for one in ways.batches] == [(3, 3)]
    work = await passes.progress(context, owner, wells_of.id, asked.id)
    assert (work.state, work.done, work.total) == ("done", 3, 3)


async def test_what_cannot_be_meant_is_said_at_its_field(wells_of: Wells, clock: Clock) -> None:
    owner, context = wells_of.scene.coordinator, wells_of.context
    columns = {0: "nothing", 1: "district", 7: "name"}
    wanted = await wish(wells_of, TABLE, name=" ", columns=columns, uses=0, expires=clock.now())
    found = await faults(passes.ask(context, owner, wells_of.id, wanted))
    assert set(found) == {"columns/0", "columns/7", "name", "expires", "uses"}
    twice = await wish(wells_of, TABLE, columns={0: "district", 1: "district"})
    found = await faults(passes.ask(context, owner, wells_of.id, twice))
    assert found == {"columns/0": "twice", "columns/1": "twice"}
    wrong = await wish(wells_of, TABLE, columns={}, values=(("district", "Atlantis"),))
    found = await faults(passes.ask(context, owner, wells_of.id, wrong))
    assert found == {"district": "not_an_option"}


async def test_a_table_belongs_to_whoever_brought_it(wells_of: Wells, context: Context) -> None:
    scene = wells_of.scene
    wanted = await wish(wells_of, TABLE)
    with pytest.raises(NotAllowed):
        await passes.ask(context, scene.reviewer, wells_of.id, wanted)
    async with context.engine.connect() as conn:
        assert wanted.table_id
        with pytest.raises(NotFound):
            await tables.own(conn, scene.reviewer, wanted.table_id)


async def test_tables_that_nothing_was_made_of_go(
    wells_of: Wells, context: Context, clock: Clock
) -> None:
    left, used = await wish(wells_of, TABLE), await wish(wells_of, TABLE)
    assert (await result(wells_of, used))[0] == "done"
    clock.move(tables.KEPT * 2)
    await tables.forget_old(context)
    async with context.engine.connect() as conn:
        found = (await conn.execute(text("select id from uploaded_tables"))).scalars()
        assert list(found) == [used.table_id]
    assert left.table_id != used.table_id


async def test_what_a_table_says_lies_sealed(wells_of: Wells, context: Context) -> None:
    body = b"District,Name\nSaltings,Quetzalcoatl Unmistakable\n"
    assert (await result(wells_of, await wish(wells_of, body)))[0] == "done"
    async with context.engine.connect() as conn:
        for table in ("passes", "pass_batches", "work"):
            for row in await conn.execute(text(f"select * from {table}")):
                assert "Quetzalcoatl" not in str(row)
                assert "saltings" not in str(row).lower()


async def test_named_links_and_their_faults(wells_of: Wells, context: Context) -> None:
    owner, id = wells_of.scene.coordinator, wells_of.id
    add = named_links.add
    assert await faults(add(context, owner, id, " ", [])) == {"name": "no_text"}
    assert await faults(add(context, owner, id, "P", [])) == {"district": "required"}
    wrong = [("district", "Atlantis"), ("x", "y")]
    found = await faults(add(context, owner, id, "P", wrong))
    assert found == {"district": "not_an_option", "x": "no_item"}
    made = await add(context, owner, id, " A  poster ", [("district", "Saltings")])
    assert (made.name, len(made.code)) == ("A poster", 22)
    taken = add(context, owner, id, "A poster", [("district", "Millbeck")])
    assert await faults(taken) == {"name": "taken"}
    await named_links.remove(context, owner, id, made.id)
    with pytest.raises(NotFound):
        await named_links.put(context, owner, id, made.id, "x", True)


async def test_a_link_that_was_used_is_shut_and_not_removed(wells_of: Wells) -> None:
    await wells_of.send(await wells_of.come("l", await wells_of.link("Saltings")), "a")
    owner, context = wells_of.scene.coordinator, wells_of.context
    (link,) = (await named_links.ways(context, owner, wells_of.id)).named
    with pytest.raises(Invalid, match="Shut it instead"):
        await named_links.remove(context, owner, wells_of.id, link.id)


async def test_a_link_without_values_is_short(scene: Scene, context: Context) -> None:
    made = await named_links.add(context, scene.coordinator, scene.id, "Poster", [])
    assert len(made.code) == 6
