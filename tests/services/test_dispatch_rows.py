"""Rows that rules bring up to date, and what is known of them."""

import asyncio
from uuid import UUID

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.accounts import Part
from jotgate.core.registers.columns import Column
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import rehearsing
from jotgate.services.staff.entries import removing
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import parts
from tests.core.dispatch.rules import file
from tests.register_rows import rows_of
from tests.scenes import PASSWORD, Scene
from tests.services.dispatching import (
    NAMED,
    arrived,
    done,
    rows,
    ruled,
)


async def test_a_row_is_brought_up_to_date(scene: Scene, context: Context) -> None:
    """Only what differs is changed, and noted; two that come at once do not both add one."""
    act = file(scene.rest.id, NAMED, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(act,))
    first = [await scene.submit(key, drinkers="2") for key in "ab"]
    await asyncio.gather(*(dispatch_entry(context, scene.id, one.id) for one in first))
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "2"}]
    taken = await scene.submit("c", drinkers="5")
    tried = Dispatch.model_validate({"otherwise": [act]})
    shown = await rehearsing.rehearse(context, scene.coordinator, scene.id, tried, 3)
    ((moved,),) = (one.rows for one in shown.effects)
    assert (moved.before, moved.after) == ({"drinkers": "2"}, {"drinkers": "5"})
    await dispatch_entry(context, scene.id, taken.id)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "5"}]
    async with context.engine.connect() as conn:
        query = 'select "before", "after", entry_number from row_changes order by id'
        noted = [tuple(one) for one in await conn.execute(text(query))]
    assert noted[1:] == [({"drinkers": "2"}, {"drinkers": "5"}, 3)]
    assert noted[0][:2] == ({}, {"name": "Ines", "drinkers": "2"})


@pytest.mark.parametrize(
    ("several", "wanted"),
    [
        ("first", ["9", "2"]),
        ("last", ["1", "9"]),
        ("all", ["9", "9"]),
        ("add", ["1", "2", "9"]),
        ("leave", ["1", "2"]),
        ("ask", ["1", "2"]),
    ],
)
async def test_several_rows_that_are_alike(
    scene: Scene, context: Context, several: str, wanted: list[str]
) -> None:
    plain = file(scene.rest.id, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(plain,))
    for key, number in (("a", "1"), ("b", "2")):
        await arrived(scene, key, drinkers=number)
    matching = {"matching": {"columns": ["name"], "none": "ask", "several": several}}
    await ruled(scene, otherwise=({**plain, **matching},))
    await arrived(scene, "c", drinkers="9")
    assert [row["drinkers"] for row in await rows(scene, scene.rest)] == wanted
    (run,) = await done(scene)
    states = {"ask": "failed", "leave": "left_out"}
    assert run.state == states.get(several, "done")


@pytest.mark.parametrize(("none", "state"), [("ask", "failed"), ("leave", "left_out")])
async def test_no_row_that_is_alike(scene: Scene, context: Context, none: str, state: str) -> None:
    matching = {"matching": {"columns": ["name"], "none": none, "several": "ask"}}
    await ruled(scene, otherwise=(file(scene.rest.id, matching, name="name"),))
    await arrived(scene, "a")
    assert await rows(scene, scene.rest) == []
    (run,) = await done(scene)
    assert run.state == state


async def test_a_row_knows_what_became_of_it_and_where_it_came_from(
    scene: Scene, context: Context
) -> None:
    act = file(scene.rest.id, NAMED, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(act,))
    first = await arrived(scene, "a", drinkers="2")
    await arrived(scene, "b", drinkers="5")
    (row,) = await rows_of(context, scene.coordinator, scene.rest.id)
    read = await registers.row(context, scene.coordinator, scene.rest.id, row.id)
    assert read.source == (scene.id, first)
    changed, filed = read.changes
    assert (changed.before, changed.after) == ({"drinkers": "2"}, {"drinkers": "5"})
    assert (changed.entry_number, changed.rule) == (2, "otherwise")
    assert (filed.did, filed.before, filed.after) == (
        "filed",
        {},
        {"name": "Ines", "drinkers": "2"},
    )
    await removing.remove(context, scene.coordinator, scene.id, first)
    read = await registers.row(context, scene.coordinator, scene.rest.id, row.id)
    assert (read.source, read.gone) == (None, True)
    with pytest.raises(NotFound):
        await registers.row(context, scene.coordinator, scene.saltings.id, row.id)


async def test_a_column_names_an_entry_that_its_row_leads_to(
    scene: Scene, context: Context
) -> None:
    """By its number, of the questionnaire that the column says: only a rule of that one puts the
    number of its own entry there. Who may not see the entry is not led to it."""
    column = Column.model_validate({"key": "e", "label": "E", "type": "entry", "of": scene.id})
    other = column.model_copy(update={"key": "o", "of": UUID(int=5)})
    made = await registers.add(context, scene.coordinator, "Named", [column, other])
    number = {"kind": "entry", "name": "entry_number"}
    with pytest.raises(Invalid) as refused:
        await ruled(scene, otherwise=(file(made.id, o=number),))
    assert [fault.code for fault in refused.value.faults] == ["wrong_type"]
    await ruled(scene, otherwise=(file(made.id, e=number),))
    await arrived(scene, "before")
    id = await arrived(scene, "a")
    (row, _) = await rows_of(context, scene.coordinator, made.id)
    assert row.values == {"e": "2"}
    read = await registers.row(context, scene.coordinator, made.id, row.id)
    assert read.named == {"e": id}
    outside = await people.add(context, "lou@example.org", "Lou", None, PASSWORD)
    part = Part(context.ids.id(), "reader", outside.id, None)
    async with context.engine.begin() as conn:
        await parts.give(conn, part, "register", made.id)
    assert (await registers.row(context, outside, made.id, row.id)).named == {}
