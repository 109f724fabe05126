"""Rows that people write by hand, and what others learn of them."""

import asyncio
from dataclasses import replace
from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound, Stale
from jotgate.core.records.accounts import Account
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column
from jotgate.core.registers.edits import Edit
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.rows import ColumnsChanged
from jotgate.services.staff import questionnaires, views
from jotgate.services.staff.registers import columns, grid, registers, writing
from jotgate.services.staff.registers.columns import ColumnsGiven
from jotgate.services.staff.registers.grid import Looking, News
from jotgate.services.staff.registers.writing import CellsWritten, Writing
from jotgate.services.staff.views import ViewGiven
from jotgate.store.registers import registers as store
from tests.core.dispatch.rules import file
from tests.core.registers.kinds import COLUMNS, column
from tests.register_rows import rows_of
from tests.scenes import Scene
from tests.services.dispatching import NAMED, rows, ruled

HERE = Looking("tab", "")


async def added(scene: Scene, *given: dict[str, Cell | None]) -> list[int]:
    made = Writing([], list(given), False)
    found = await writing.write(scene.context, scene.coordinator, scene.rest.id, made)
    return [row.id for row in found.rows]


async def write(scene: Scene, *edits: Edit, partly: bool = False) -> CellsWritten:
    given = Writing(list(edits), [], partly)
    return await writing.write(scene.context, scene.coordinator, scene.rest.id, given)


async def news(scene: Scene, since: int, view: TableView | None = None) -> News:
    return await grid.news(
        scene.context, scene.coordinator, scene.rest.id, view or TableView(), since, HERE
    )


async def mark(scene: Scene) -> int:
    return (await grid.order(scene.context, scene.coordinator, scene.rest.id, TableView())).mark


async def test_a_block_is_written_whole_or_told_what_does_not_fit(scene: Scene) -> None:
    (one, two) = await added(scene, {"name": "Ines"}, {"name": "Noor"})
    edits = [Edit(one, "drinkers", "4", None), Edit(two, "drinkers", "many", None)]
    held = await write(scene, *edits)
    assert (held.taken, held.rows) == (False, ())
    assert [(told.row, told.code) for told in held.refused] == [(two, "unfit")]
    assert await rows(scene, scene.rest) == [{"name": "Ines"}, {"name": "Noor"}]
    taken = await write(scene, *edits, partly=True)
    assert taken.taken
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "4"}, {"name": "Noor"}]


async def test_two_in_one_cell_neither_loses_what_they_wrote(scene: Scene) -> None:
    (row,) = await added(scene, {"name": "Ines"})
    both = await asyncio.gather(
        *(write(scene, Edit(row, "drinkers", given, None)) for given in ("3", "4"))
    )
    (won,) = (one for one in both if one.taken)
    (lost,) = (one for one in both if not one.taken)
    assert [(one.code, one.now) for one in lost.refused] == [
        ("changed", won.rows[0].values["drinkers"])
    ]


async def test_a_row_keeps_its_history_and_can_be_taken_out_and_put_back(
    scene: Scene, context: Context
) -> None:
    (row,) = await added(scene, {"name": "Ines"})
    await write(scene, Edit(row, "drinkers", "4", None))
    before = await mark(scene)
    await writing.remove(context, scene.coordinator, scene.rest.id, [row, 10_000], back=False)
    assert await rows(scene, scene.rest) == []
    (gone,) = (await news(scene, before)).rows
    assert (gone.row.id, gone.fits, gone.row.removed is not None) == (row, False, True)
    refused = (await write(scene, Edit(row, "name", "Noor", "Ines"))).refused
    assert [one.code for one in refused] == ["no_row"]
    await writing.remove(context, scene.coordinator, scene.rest.id, [row], back=True)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "4"}]
    read = await registers.row(context, scene.coordinator, scene.rest.id, row)
    assert [(one.did, one.before, one.after) for one in reversed(read.changes)] == [
        ("filed", {}, {"name": "Ines"}),
        ("changed", {}, {"drinkers": "4"}),
        ("removed", {}, {}),
        ("restored", {}, {}),
    ]
    assert {read.names[one.account_id] for one in read.changes if one.account_id} == {"Rowan"}
    assert (read.source, read.gone) == (None, False)


async def test_a_row_that_was_taken_out_is_not_brought_up_to_date(
    scene: Scene, context: Context
) -> None:
    await ruled(scene, otherwise=(file(scene.rest.id, NAMED, name="name", drinkers="drinkers"),))
    (row,) = await added(scene, {"name": "Ines"})
    await writing.remove(context, scene.coordinator, scene.rest.id, [row], back=False)
    taken = await scene.submit("a", drinkers="2")
    await dispatch_entry(context, scene.id, taken.id)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "2"}]


async def test_what_is_new_is_told_with_whether_the_view_shows_it(scene: Scene) -> None:
    before = await mark(scene)
    few, many = await added(scene, {"drinkers": "1"}, {"drinkers": "9", "name": "Ines"})
    view = TableView.model_validate(
        {"filter": {"op": "at_least", "item": "drinkers", "value": "5"}, "search": "ines"}
    )
    told = await news(scene, before, view)
    assert {one.row.id: one.fits for one in told.rows} == {few: False, many: True}
    assert [one.row.id for one in (await news(scene, told.mark)).rows] == []


async def test_what_was_begun_before_and_ended_after_is_not_missed(
    scene: Scene, context: Context
) -> None:
    """A transaction that writes, while another one that began later ends before it."""
    (early, late) = await added(scene, {"name": "a"}, {"name": "b"})
    await mark(scene)
    async with context.engine.connect() as slow:
        change = text(
            'update register_rows set values = \'{"name": "c"}\', touched = '
            "pg_current_xact_id()::text::bigint where id = :id"
        )
        await slow.execute(change, {"id": early})
        await write(scene, Edit(late, "name", "d", "b"))
        since = await mark(scene)
        found = await news(scene, since)
        assert early not in {one.row.id for one in found.rows}
        await slow.commit()
    told = {one.row.id: one.row.values for one in (await news(scene, found.mark)).rows}
    assert told[early] == {"name": "c"}


async def test_who_else_is_there_is_told_with_the_cell(scene: Scene, context: Context) -> None:
    other = Looking("other", "7/name")
    await grid.news(context, scene.reviewer, scene.rest.id, TableView(), 0, other)
    told = await news(scene, 0)
    assert [(one.name, one.at) for one in told.others] == [("Sam", "7/name")]


async def test_too_much_at_once_is_not_told_one_by_one(scene: Scene) -> None:
    before = await mark(scene)
    many: list[dict[str, Cell | None]] = [{"drinkers": "1"}] * (grid.AT_ONCE + 1)
    await added(scene, *many)
    told = await news(scene, before)
    assert (told.many, told.rows) == (True, ())


async def put(scene: Scene, *made: dict[str, Any], revision: int = 1, clear: bool = False) -> Any:
    given = ColumnsGiven(revision, "Rest", [Column.model_validate(one) for one in made], clear)
    return await columns.put(scene.context, scene.coordinator, scene.rest.id, given)


NAME = {"key": "name", "label": "Name"}
DAY = {"key": "name", "label": "Name", "type": "date"}


async def test_columns_become_others_once_it_is_known_what_is_lost(
    scene: Scene, context: Context
) -> None:
    (row, _) = await added(scene, {"name": "Ines", "drinkers": "4"}, {"name": "3 Nov 2026"})
    found = await put(scene, DAY)
    assert (found.unfit, found.told[0].row, found.register.revision) == (1, row, 1)
    assert await rows(scene, scene.rest) == [
        {"name": "Ines", "drinkers": "4"},
        {"name": "3 Nov 2026"},
    ]
    found = await put(scene, DAY, clear=True)
    assert (found.unfit, found.register.revision) == (0, 2)
    assert await rows(scene, scene.rest) == [{}, {"name": "2026-11-03"}]
    read = await registers.row(context, scene.coordinator, scene.rest.id, row)
    assert read.changes[0].before == {"name": "Ines", "drinkers": "4"}
    with pytest.raises(Stale):
        await put(scene, NAME)
    with pytest.raises(Invalid):
        await put(scene, NAME, NAME, revision=2)


async def test_columns_that_change_under_a_rule_have_it_planned_anew(
    scene: Scene, context: Context
) -> None:
    """The rule was read with the old columns; the entry is not lost, and gets no old cell."""
    await ruled(scene, otherwise=(file(scene.rest.id, None, name="name"),))
    taken = await scene.submit("a")
    async with context.engine.connect() as conn:
        await store.locked(conn, scene.rest.id)
        await conn.execute(
            text(
                "update registers set revision = 2, columns = "
                '\'[{"key": "name", "label": "Name", "type": "date"}]\' where id = :id'
            ),
            {"id": scene.rest.id},
        )
        going = asyncio.create_task(dispatch_entry(context, scene.id, taken.id))
        for _ in range(200):
            await asyncio.sleep(0.02)
            waits = text(
                "select count(*) from pg_stat_activity where wait_event_type = 'Lock' "
                "and datname = current_database()"
            )
            if (await conn.execute(waits)).scalar_one():
                break
        await conn.commit()
    with pytest.raises(ColumnsChanged):
        await going
    assert await rows(scene, scene.rest) == []
    await dispatch_entry(context, scene.id, taken.id)
    async with context.engine.connect() as conn:
        (run,) = await conn.execute(text("select state, last_error from runs"))
    assert run.state == "failed"
    assert "Write a day" in run.last_error


async def test_views_are_for_oneself_or_for_all(
    scene: Scene, context: Context, reader: Account
) -> None:
    id = scene.rest.id
    of: views.Of = ("register", id)
    view = TableView.model_validate({"search": "ines"})
    mine = await views.keep(context, scene.reviewer, of, None, ViewGiven("Ines", view, False))
    everybody = await views.keep(
        context, scene.coordinator, of, None, ViewGiven("Ines", TableView(), True)
    )
    with pytest.raises(Invalid):
        await views.keep(context, scene.reviewer, of, None, ViewGiven("Ines", view, False))
    names = [
        {one.id for one in (await registers.read(context, who, id)).views}
        for who in (scene.reviewer, scene.coordinator)
    ]
    assert names == [{mine.id, everybody.id}, {everybody.id}]
    with pytest.raises(NotFound):
        await views.remove(context, scene.coordinator, of, mine.id)
    for given in (ViewGiven("Mine", view, True), ViewGiven("Other", view, False)):
        with pytest.raises(NotAllowed):
            await views.keep(context, scene.reviewer, of, everybody.id, given)
    with pytest.raises(NotAllowed):
        await views.remove(context, scene.reviewer, of, everybody.id)
    await views.remove(context, scene.reviewer, of, mine.id)
    kept = await views.keep(
        context, scene.coordinator, of, everybody.id, ViewGiven("Other", view, True)
    )
    assert (kept.name, kept.view) == ("Other", view)


async def test_whoever_may_only_read_writes_nothing(scene: Scene, context: Context) -> None:
    (row,) = await added(scene, {"name": "Ines"})
    stranger = replace(scene.reviewer, role=None)
    id = scene.rest.id
    for who, error in ((scene.reviewer, NotAllowed), (stranger, NotFound)):
        with pytest.raises(error):
            await writing.write(context, who, id, Writing([], [{}], False))
        with pytest.raises(error):
            await writing.remove(context, who, id, [row], back=False)
        with pytest.raises(error):
            await columns.put(
                context, who, id, ColumnsGiven(1, "R", list(scene.rest.columns), True)
            )
    assert len(await rows_of(context, scene.reviewer, id)) == 1
    for call in (
        registers.read(context, stranger, id),
        grid.order(context, stranger, id, TableView()),
    ):
        with pytest.raises(NotFound):
            await call


async def test_a_questionnaire_is_made_of_a_register(scene: Scene, context: Context) -> None:
    """Of every type of column that can be asked; it can be published as it is."""
    made = await registers.add(
        context, scene.coordinator, "Visits", [*COLUMNS, column("files"), column("computed")]
    )
    found = await registers.make_questionnaire(context, scene.coordinator, made.id)
    assert found.left_out == ("person", "entry", "computed")
    draft = await questionnaires.draft(context, scene.coordinator, found.id)
    assert draft.document.title["en"] == "Visits"
    asked = [item.key for item in draft.document.items()]
    assert asked == [one.key for one in made.columns if one.label not in found.left_out]
    assert await questionnaires.publish(context, scene.coordinator, found.id, draft.revision) == 1


async def test_a_register_is_deleted_once_its_name_is_written(
    scene: Scene, context: Context
) -> None:
    id = scene.rest.id
    await added(scene, {"name": "Ines"})
    owner = replace(scene.coordinator, role="owner")
    with pytest.raises(NotAllowed):
        await registers.remove(context, scene.coordinator, id, "Rest")
    with pytest.raises(Invalid):
        await registers.remove(context, owner, id, "rest")
    await registers.remove(context, owner, id, " Rest ")
    with pytest.raises(NotFound):
        await registers.read(context, owner, id)
    async with context.engine.connect() as conn:
        for table in ("register_rows", "row_changes"):
            assert (await conn.execute(text(f"select count(*) from {table}"))).scalar_one() == 0
