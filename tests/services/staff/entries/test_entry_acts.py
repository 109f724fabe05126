"""Acting on many entries at once: all of them once, with a trail, stopped and undone."""

from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.handling import Care, Handling, Status
from jotgate.core.records.trail import TrailFilter
from jotgate.core.records.work import Work
from jotgate.core.table_views import TableView
from jotgate.services import doing, entry_rows
from jotgate.services import trail as trail_of
from jotgate.services.context import Context
from jotgate.services.handling import Change
from jotgate.services.staff import trail
from jotgate.services.staff.entries import entry_acts, entry_table, handling
from jotgate.services.staff.entries.choosing import Choice
from jotgate.services.staff.entries.entry_table import Asked
from tests.scenes import Scene

NEW = Change(status="new")
ALL = Choice(all=True)


async def filled(scene: Scene, count: int = 8) -> None:
    stands = Handling(
        statuses=(Status(key="new", name="Looked at"), Status(key="done", name="Done"))
    )
    await handling.save(scene.context, scene.coordinator, scene.id, stands, 1)
    for n in range(count):
        await scene.submit(f"k{n}", name="Ines" if n % 2 else "Oskar")
    await entry_rows.catch_up_with(scene.context, scene.id)


async def done(scene: Scene, one: Work) -> Work:
    await doing.do(scene.context, one.id)
    return await entry_acts.progress(scene.context, scene.coordinator, scene.id, one.id)


async def act(scene: Scene, choice: Choice, change: Change | None) -> Work:
    asked = await entry_acts.ask(scene.context, scene.coordinator, scene.id, choice, change)
    return await done(scene, asked)


async def statuses(scene: Scene) -> dict[int, str]:
    asked = Asked(archived=True)
    found = await entry_table.page(scene.context, scene.coordinator, scene.id, asked)
    return {one.number: one.status for one in reversed(found.entries)}


def named(name: str) -> TableView:
    return TableView.model_validate({"filter": {"op": "is", "item": "name", "value": name}})


async def test_all_that_a_view_shows_but_some_each_on_the_trail(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_acts, "AT_ONCE", 2)
    await filled(scene)
    found = await act(scene, Choice((2,), all=True, view=named("Ines")), NEW)
    assert (found.state, found.total, found.result["entries"]) == ("done", 3, 3)
    assert [n for n, one in (await statuses(scene)).items() if one] == [4, 6, 8]
    marks, _ = await trail.page(context, scene.coordinator, TrailFilter(), None)
    told = [one for one in marks if one.action == "entry_handled"]
    assert {one.detail["number"] for one in told} == {4, 6, 8}
    assert all(one.detail["status"] == "new" and one.entry_id for one in told)
    assert (await trail_of.check(context))[2] == ""


async def test_a_filter_by_what_is_changed_misses_none(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Entries leave the view while they are changed."""
    monkeypatch.setattr(entry_acts, "AT_ONCE", 2)
    await filled(scene)
    open_ones = {"filter": {"op": "is", "item": "entry.status", "value": "first"}}
    view = TableView.model_validate(open_ones)
    assert (await act(scene, Choice(all=True, view=view), NEW)).result["entries"] == 8
    assert set((await statuses(scene)).values()) == {"new"}


async def test_undone_where_nobody_has_changed_it_since(scene: Scene, context: Context) -> None:
    await filled(scene)
    await act(scene, Choice((1, 2)), Change(status="done", care=Care(scene.reviewer.id)))
    first = await act(scene, ALL, NEW)
    await act(scene, Choice((5,)), Change(status="done"))
    back = await entry_acts.undo(context, scene.coordinator, scene.id, first.id)
    assert (await done(scene, back)).result["entries"] == 7
    assert await statuses(scene) == {1: "done", 2: "done", 5: "done"} | dict.fromkeys(
        (3, 4, 6, 7, 8), ""
    )
    assert (await done(scene, back)).result["entries"] == 7
    again = await entry_acts.undo(context, scene.coordinator, scene.id, first.id)
    assert (await done(scene, again)).result["entries"] == 0
    with pytest.raises(Invalid):
        await entry_acts.undo(context, scene.coordinator, scene.id, back.id)


async def test_stopped_and_carried_out_twice(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_acts, "AT_ONCE", 3)
    await filled(scene)
    asked = await entry_acts.ask(context, scene.coordinator, scene.id, ALL, NEW)
    await entry_acts.stop(context, scene.coordinator, scene.id, asked.id)
    found = await done(scene, asked)
    assert (found.result["entries"], found.result["stopped"]) == (3, True)
    assert [n for n, one in (await statuses(scene)).items() if one] == [1, 2, 3]


async def test_deleted_with_their_copies(scene: Scene, context: Context) -> None:
    await filled(scene)
    found = await act(scene, Choice(all=True, view=named("Oskar")), None)
    assert found.result["entries"] == 4
    assert list(await statuses(scene)) == [2, 4, 6, 8]
    async with context.engine.connect() as conn:
        left = await conn.execute(text("select number from entry_rows order by number"))
        assert [row.number for row in left] == [2, 4, 6, 8]


async def test_what_arrives_afterwards_is_not_meant(scene: Scene, context: Context) -> None:
    await filled(scene, 3)
    asked = await entry_acts.ask(context, scene.coordinator, scene.id, ALL, NEW)
    await scene.submit("later")
    assert (await done(scene, asked)).result["entries"] == 3
    assert (await statuses(scene))[4] == ""


async def test_only_by_whoever_may_and_while_they_may(scene: Scene, context: Context) -> None:
    await filled(scene, 2)
    with pytest.raises(NotAllowed):
        await entry_acts.ask(context, scene.reviewer, scene.id, ALL, NEW)
    with pytest.raises(Invalid):
        await entry_acts.ask(context, scene.coordinator, scene.id, Choice(), NEW)
    with pytest.raises(Invalid, match="no such status"):
        await act(scene, ALL, Change(status="nothing"))
    with pytest.raises(NotFound):
        await entry_acts.progress(context, scene.coordinator, scene.id, context.ids.id())
    asked = await entry_acts.ask(context, scene.coordinator, scene.id, ALL, NEW)
    async with context.engine.begin() as conn:
        gone = "update accounts set role = null where id = :id"
        await conn.execute(text(gone), {"id": scene.coordinator.id})
    await doing.do(context, asked.id)
    async with context.engine.connect() as conn:
        row = (
            await conn.execute(text("select state from work where id = :id"), {"id": asked.id})
        ).one()
        left: Any = await conn.execute(text("select count(*) from entries where status <> ''"))
        assert (row.state, left.scalar_one()) == ("failed", 0)
