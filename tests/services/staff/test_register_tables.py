"""Registers out of tables and as tables."""

from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.formats.rows_in import proposed_columns
from jotgate.core.records.work import Work
from jotgate.core.table_views import TableView
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.registers import bringing, export, registers
from jotgate.services.staff.registers.bringing import Bringing
from tests.register_rows import rows_of
from tests.scenes import Scene

TABLE = b"""Household,Drinkers,Visit,Use,Well no.,Note
Ines,4,27 Nov 2026,Drinking,0042,"two
lines"
Noor,12.5,2026-11-28,Washing,0043,
Bram,,,Drinking,0044,x
Sive,0,1.12.2026,Drinking,0045,
Jun,3,,Washing,0046,
Hana,3,,Washing,0047,
"""


async def brought(
    scene: Scene, body: bytes, partly: bool = False, columns: dict[int, str] | None = None
) -> Work:
    context, id = scene.context, scene.rest.id
    table, proposed = await bringing.take_table(context, scene.coordinator, id, "t.csv", body)
    wanted = Bringing(table.id, proposed if columns is None else columns, partly, None)
    asked = await bringing.bring(context, scene.coordinator, id, wanted)
    await doing.do(context, asked.id)
    return await bringing.progress(context, scene.coordinator, id, asked.id)


async def test_columns_are_proposed_by_what_they_hold(scene: Scene, context: Context) -> None:
    _, columns = await bringing.take_new(context, scene.coordinator, "t.csv", TABLE)
    assert [(one.label, one.type) for one in columns] == [
        ("Household", "text"),
        ("Drinkers", "number"),
        ("Visit", "date"),
        ("Use", "pick_one"),
        ("Well no.", "text"),
        ("Note", "long_text"),
    ]
    assert [one.label for one in columns[3].options] == ["Drinking", "Washing"]
    assert len({one.key for one in columns}) == len(columns)


@pytest.mark.parametrize(
    ("cells", "type"),
    [
        (["1", "0", "1"], "number"),
        (["+442079460991", "+442079460992"], "text"),
        (["Yes", "no", "Yes"], "yes_no"),
        (["a@example.org"], "email"),
        (["https://example.org/"], "web_address"),
        (["9:30", "14:05"], "time"),
        (["2026-11-27 9:30"], "date_time"),
        (["", " "], "text"),
        (["a", "b", "a", "b", "a", "b"], "pick_one"),
        (["a", "b", "a", "b", "a"], "text"),
    ],
)
def test_what_is_proposed(cells: list[str], type: str) -> None:
    (found,) = proposed_columns(["C"], [[cell] for cell in cells])
    assert found.type == type


async def test_a_register_is_made_of_a_table(scene: Scene, context: Context) -> None:
    table, columns = await bringing.take_new(context, scene.coordinator, "t.csv", TABLE)
    made = await registers.add(context, scene.coordinator, "Made", columns)
    matching = {at: one.key for at, one in enumerate(columns)}
    wanted = Bringing(table.id, matching, False, None)
    asked = await bringing.bring(context, scene.coordinator, made.id, wanted)
    await doing.do(context, asked.id)
    found = await bringing.progress(context, scene.coordinator, made.id, asked.id)
    assert (found.state, found.done, found.result["added"]) == ("done", 6, 6)
    rows = [row.values for row in await rows_of(context, scene.coordinator, made.id)]
    assert rows[-1] == {
        "household": "Ines",
        "drinkers": "4",
        "visit": "2026-11-27",
        "use": "drinking",
        "well_no": "0042",
        "note": "two\nlines",
    }
    history = await registers.row(
        context,
        scene.coordinator,
        made.id,
        (await rows_of(context, scene.coordinator, made.id))[0].id,
    )
    assert [one.did for one in history.changes] == ["filed"]


async def test_nothing_is_added_where_something_does_not_fit_until_it_is_said(
    scene: Scene, context: Context
) -> None:
    body = b"name,d\nInes,4\nNoor,many\nBram,7\n"
    held = await brought(scene, body)
    assert (held.result["added"], held.result["unfit"]) == (0, 1)
    assert held.result["told"][0] | {"why": ""} == {
        "number": 2,
        "column": "D",
        "said": "many",
        "why": "",
    }
    assert await rows_of(context, scene.coordinator, scene.rest.id) == []
    taken = await brought(scene, body, partly=True)
    assert (taken.result["added"], taken.result["unfit"]) == (3, 1)
    rows = await rows_of(context, scene.coordinator, scene.rest.id)
    assert [row.values for row in reversed(rows)] == [
        {"name": "Ines", "drinkers": "4"},
        {"name": "Noor"},
        {"name": "Bram", "drinkers": "7"},
    ]
    async with context.engine.connect() as conn:
        query = text("select detail->>'count' from trail where action = 'rows_brought'")
        assert list((await conn.execute(query)).scalars()) == ["3"]


@pytest.mark.parametrize(
    ("columns", "at"),
    [
        ({0: "gone"}, "columns/0"),
        ({9: "name"}, "columns/9"),
        ({0: "name", 1: "name"}, "columns/0"),
        ({}, "columns"),
    ],
)
async def test_a_matching_that_cannot_be_meant(
    scene: Scene, columns: dict[int, str], at: str
) -> None:
    with pytest.raises(Invalid) as told:
        await brought(scene, b"a,b\n1,2\n", columns=columns)
    assert told.value.faults[0].at == at


async def test_columns_that_changed_meanwhile_end_it_with_why(
    scene: Scene, context: Context
) -> None:
    id = scene.rest.id
    table, proposed = await bringing.take_table(
        context, scene.coordinator, id, "t.csv", b"name\nInes\n"
    )
    wanted = Bringing(table.id, proposed, False, None)
    asked = await bringing.bring(context, scene.coordinator, id, wanted)
    async with context.engine.begin() as conn:
        await conn.execute(text("update registers set revision = 7"))
    await doing.do(context, asked.id)
    found = await bringing.progress(context, scene.coordinator, id, asked.id)
    assert (found.state, found.result["faults"][0]["code"]) == ("failed", "changed")
    with pytest.raises(NotFound):
        await bringing.progress(context, scene.coordinator, scene.saltings.id, asked.id)
    for who in (scene.reviewer,):
        with pytest.raises(NotAllowed):
            await bringing.take_table(context, who, id, "t.csv", b"name\nInes\n")


async def exported(scene: Scene, view: TableView) -> tuple[tuple[str, ...], list[Any]]:
    _, head, rows = await export.table(
        scene.context, scene.coordinator, scene.rest.id, view, "Europe/Berlin"
    )
    return head, [row async for some in rows for row in some]


async def test_a_view_is_exported_as_it_stands(scene: Scene, context: Context) -> None:
    await brought(scene, b"name,d\nInes,4\nNoor,12\nBram,\n")
    view = TableView.model_validate(
        {
            "filter": {"op": "answered", "item": "drinkers"},
            "sort": [{"column": "drinkers"}],
            "columns": [{"column": "drinkers"}, {"column": "name"}],
        }
    )
    head, rows = await exported(scene, view)
    assert head == ("Row", "D", "Name")
    assert [row[1:] for row in rows] == [["4", "Ines"], ["12", "Noor"]]
    away = TableView.model_validate({"columns": [{"column": "drinkers", "away": True}]})
    assert (await exported(scene, away))[0] == ("Row", "Name")


async def test_what_is_exported_comes_back(scene: Scene, context: Context) -> None:
    """Every row of every type of column that is written, through CSV."""
    from jotgate.api.tables import table_file
    from tests.core.registers.kinds import COLUMNS
    from tests.services.staff.test_register_order import filled

    made, rows = await filled(scene, 30)
    name, head, some = await export.table(context, scene.coordinator, made.id, TableView(), None)
    file = table_file(name, "csv", head, some)
    body = b"".join([piece async for piece in file.body_iterator])  # type: ignore[misc]
    other = await registers.add(context, scene.coordinator, "Other", list(made.columns))
    table, proposed = await bringing.take_table(context, scene.coordinator, other.id, "t.csv", body)
    assert set(proposed.values()) == {one.key for one in COLUMNS}
    wanted = Bringing(table.id, proposed, False, None)
    asked = await bringing.bring(context, scene.coordinator, other.id, wanted)
    await doing.do(context, asked.id)
    again = await rows_of(context, scene.coordinator, other.id)
    assert [row.values for row in again] == [row.values for row in reversed(rows)]
