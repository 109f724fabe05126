"""The rows that a view shows, against the same worked out here from all rows."""

import random
from collections.abc import Iterator
from decimal import Decimal
from itertools import groupby
from typing import Any

import pytest

from jotgate.core.common.errors import Invalid
from jotgate.core.common.today import today_in
from jotgate.core.conditions.condition import holds
from jotgate.core.items.kinds import OPERATORS
from jotgate.core.publishing.condition_faults import operators_for
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell, Person
from jotgate.core.registers.columns import Column, Register
from jotgate.core.registers.values import column_items, values_of
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff.registers import grid, registers, writing
from jotgate.services.staff.registers.writing import Writing
from tests.core.registers.kinds import COLUMNS, GIVEN, column
from tests.register_rows import rows_of
from tests.scenes import Scene

BLIND = Column.model_validate(
    {"key": "sum", "label": "Sum", "type": "computed", "formula": {"do": "sum", "of": ["number"]}}
)
ALL = (*COLUMNS, BLIND)


async def filled(scene: Scene, count: int = 80) -> tuple[Register, list[Row]]:
    """A register with chance rows of every type of column; its rows, the newest first."""
    chance = random.Random(5)
    people = [str(scene.coordinator.id), str(scene.reviewer.id)]
    made = await registers.add(scene.context, scene.coordinator, "All", ALL)
    added: list[dict[str, Cell | None]] = []
    for _ in range(count):
        row: dict[str, Cell | None] = {}
        for one in COLUMNS:
            if chance.random() < 0.7:
                given = people if one.type == "person" else GIVEN[one.type]
                row[one.key] = chance.choice(given)
        added.append(row)
    found = await writing.write(
        scene.context, scene.coordinator, made.id, Writing([], added, False)
    )
    assert found.taken
    return made, await rows_of(scene.context, scene.coordinator, made.id)


def conditions(one: Column, people: list[str]) -> Iterator[dict[str, Any]]:
    """Every operator that the column can be asked, with each of its cells."""
    known = {id: Person(id[:6], f"{id[:6]}@example.org") for id in people}
    item = column_items([one], known)[one.key]
    given: list[Any] = list(people if one.type == "person" else GIVEN.get(one.type, ("9", "10")))
    flat = [code for cell in given for code in (cell if isinstance(cell, list) else [cell])]
    for op in sorted(operators_for(item)):
        match op:
            case "answered" | "unanswered":
                yield {"op": op, "item": one.key}
            case "between":
                yield {"op": op, "item": one.key, "low": flat[-1], "high": flat[0]}
                yield {"op": op, "item": one.key, "low": flat[0], "high": flat[-1]}
            case "one_of" | "includes_all":
                yield {"op": op, "item": one.key, "values": flat[:2]}
            case "like":
                yield {"op": op, "item": one.key, "value": "[aA].*"}
            case _:
                yield from ({"op": op, "item": one.key, "value": value} for value in flat)


async def test_filters_hold_of_the_rows_that_they_show(scene: Scene, context: Context) -> None:
    made, rows = await filled(scene)
    people = [str(scene.coordinator.id), str(scene.reviewer.id)]
    today = today_in("UTC", context.clock.now())
    asked: set[str] = set()
    some = 0
    for one in ALL:
        for condition in conditions(one, people):
            view = TableView.model_validate({"filter": condition})
            assert view.filter is not None
            wanted = [
                row.id for row in rows if holds(view.filter, values_of(ALL, row.values), today)
            ]
            order = await grid.order(context, scene.coordinator, made.id, view)
            assert list(order.ids) == wanted, condition
            asked.add(condition["op"])
            some += 0 < len(wanted) < len(rows)
    rosters = {"entry_count", "any_entry", "every_entry"}
    everything = {op for found in OPERATORS.values() for op in found} - rosters
    assert asked == everything | {"answered", "unanswered"}
    assert some > 80


async def test_filters_are_joined(scene: Scene, context: Context) -> None:
    made, rows = await filled(scene)
    parts: list[dict[str, Any]] = [
        {"op": "is", "item": "pick_one", "value": "drink"},
        {"op": "not", "part": {"op": "at_least", "item": "number", "value": "9"}},
        {
            "op": "any",
            "parts": [
                {"op": "unanswered", "item": "date"},
                {"op": "is", "item": "yes_no", "value": True},
            ],
        },
    ]
    view = TableView.model_validate({"filter": {"op": "all", "parts": parts}})
    today = today_in("UTC", context.clock.now())
    assert view.filter
    wanted = [row.id for row in rows if holds(view.filter, values_of(ALL, row.values), today)]
    order = await grid.order(context, scene.coordinator, made.id, view)
    assert list(order.ids) == wanted
    assert wanted


def sorted_as(one: Column, cell: Cell) -> Any:
    """What the order of a column goes by: numbers as such, options as they stand."""
    if one.type in ("number", "computed"):
        return Decimal(str(cell))
    if one.options:
        return [option.code for option in one.options].index(str(cell))
    return cell


@pytest.mark.parametrize("descending", [False, True])
async def test_sorted_by_any_column_with_empty_cells_last(
    scene: Scene, context: Context, descending: bool
) -> None:
    made, rows = await filled(scene)
    exact = {"number", "computed", "pick_one", "date", "time", "date_time"}
    for one in ALL:
        view = TableView.model_validate({"sort": [{"column": one.key, "descending": descending}]})
        order = await grid.order(context, scene.coordinator, made.id, view)
        by_id = {row.id: row for row in rows}
        found = [by_id[id].values.get(one.key) for id in order.ids]
        there = [cell for cell in found if cell is not None]
        assert found == there + [None] * (len(found) - len(there))
        assert sorted(order.ids) == sorted(by_id)
        if one.type in exact:
            keys = [sorted_as(one, cell) for cell in there]
            assert keys == sorted(keys, reverse=descending)
        tails = [id for id in order.ids if by_id[id].values.get(one.key) is None]
        assert tails == sorted(tails, reverse=True)


async def test_texts_stand_as_people_expect(scene: Scene, context: Context) -> None:
    """The root order of the Unicode Collation Algorithm (UTS 10): letter case and accents matter
    least. The words are from memory of its examples."""
    made = await registers.add(context, scene.coordinator, "Words", [column("text")])
    added: list[dict[str, Cell | None]] = [
        {"text": one} for one in ("zebra", "Åre", "apple", "Zug", "äpfel", "b")
    ]
    await writing.write(context, scene.coordinator, made.id, Writing([], added, False))
    view = TableView.model_validate({"sort": [{"column": "text"}]})
    rows = await rows_of(context, scene.coordinator, made.id, view)
    assert [row.values["text"] for row in rows] == ["äpfel", "apple", "Åre", "b", "zebra", "Zug"]


async def test_groups_are_runs_of_the_same_cell(scene: Scene, context: Context) -> None:
    made, rows = await filled(scene)
    by_id = {row.id: row for row in rows}
    for one in ALL:
        view = TableView.model_validate(
            {"group": one.key, "sort": [{"column": "number"}, {"column": one.key, "descending": 1}]}
        )
        order = await grid.order(context, scene.coordinator, made.id, view)
        cells = [by_id[id].values.get(one.key) for id in order.ids]
        runs = [(cell, len(list(same))) for cell, same in groupby(cells)]
        assert [(found.cell, found.rows) for found in order.groups] == runs
        assert len(runs) == len({repr(cell) for cell in cells}), one.key
        at = 0
        for found in order.groups:
            numbers = [by_id[id].values.get("number") for id in order.ids[at : at + found.rows]]
            there = [Decimal(str(number)) for number in numbers if number is not None]
            assert one.key in ("number", "sum") or there == sorted(there)
            at += found.rows


async def test_words_are_found_in_any_column_and_in_the_labels_of_options(
    scene: Scene, context: Context
) -> None:
    types = ("text", "pick_one", "pick_many", "number", "date", "person")
    columns = [column(type) for type in types]
    made = await registers.add(context, scene.coordinator, "Words", columns)
    added: list[dict[str, Cell | None]] = [
        {"text": "Ines Carvalho", "pick_one": "drink", "date": "2026-11-03"},
        {"text": "Noor Haddad", "pick_many": ["wash"], "number": "12.5", "person": "Sam"},
        {"text": "wash_drink 100%"},
    ]
    await writing.write(context, scene.coordinator, made.id, Writing([], added, False))

    async def found(words: str) -> list[Any]:
        rows = await rows_of(context, scene.coordinator, made.id, TableView(search=words))
        return [str(row.values["text"])[0] for row in reversed(rows)]

    assert await found("ines") == ["I"]
    assert await found("DRINKING carv") == ["I"]
    assert await found("washing") == ["N"]
    assert await found("2.5") == ["N"]
    assert await found("3 nov") == ["I"]
    assert await found("sam") == ["N"]
    assert await found("%") == ["w"]
    assert await found("wash_") == ["w"]
    assert await found("pick") == []


@pytest.mark.parametrize(
    ("view", "at"),
    [
        ({"filter": {"op": "is", "item": "gone", "value": "x"}}, "filter"),
        ({"filter": {"op": "at_least", "item": "name", "value": "x"}}, "filter"),
        ({"filter": {"op": "is", "item": "drinkers", "value": "many"}}, "filter"),
        ({"filter": {"op": "like", "item": "name", "value": "("}}, "filter"),
        ({"filter": {"op": "saved", "name": "x"}}, "filter"),
        ({"sort": [{"column": "gone"}]}, "sort/0"),
        ({"group": "gone"}, "group"),
    ],
)
async def test_a_view_that_asks_for_what_is_not_there(
    scene: Scene, context: Context, view: dict[str, Any], at: str
) -> None:
    with pytest.raises(Invalid) as told:
        await grid.order(context, scene.coordinator, scene.rest.id, TableView.model_validate(view))
    assert [fault.at for fault in told.value.faults] == [at]
