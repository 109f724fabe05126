"""Cells that are read and written in a hurry are those that values make one by one."""

import csv
import io

import pytest

from jotgate.core.common.today import today_in
from jotgate.core.entries.display import SAID_AGAIN, Memory, Reader
from jotgate.core.entries.stored import values_of
from jotgate.core.formats.table import Cell, text
from jotgate.services.context import Context
from jotgate.services.staff.entries import entry_export
from jotgate.services.staff.entries.entry_export import Exporting
from tests.scenes import Scene
from tests.services.staff.entries.chance_entries import ITEMS, filled
from tests.services.staff.entries.table_values import entry_facts
from tests.services.staff.entries.test_entry_export import EVERY


@pytest.mark.parametrize("codes", [False, True])
async def test_every_kind_and_fact_is_written_the_same(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch, codes: bool
) -> None:
    monkeypatch.setattr(entry_export, "LINES_AT_ONCE", 40)
    monkeypatch.setattr(entry_export, "AT_ONCE", 40)
    id, known, every = await filled(scene, 300)
    wanted = Exporting(EVERY, codes)
    look = await entry_export.look(context, scene.coordinator, id, wanted)
    made = await entry_export.export(context, scene.coordinator, id, wanted)
    assert known.table is not None
    typed = entry_export.cells_of(look, look.shown)
    today = today_in(known.zone, context.clock.now())
    readers = {at: Reader(plan) for at, plan in known.plans.items()}
    expected: list[list[Cell]] = []
    seen: set[str] = set()
    for entry in every:
        reader = readers[entry.edition]
        values = values_of(reader.plan.items, entry.answers)
        values |= entry_facts(entry, known.table, today)
        seen |= values.keys()
        row: list[Cell] = [str(entry.number)]
        for one in look.shown:
            item = one.item if one.fact else reader.plan.items.get(one.key)
            value = values.get(one.key)
            there = item is not None and value is not None
            row.append(typed.cell(item, value, entry.edition) if there else None)  # type: ignore[arg-type]
        expected.append(row)
    assert seen >= {one.key for one in look.shown}
    assert seen >= {one["key"] for one in ITEMS} - {"secret", "file", "signature"}
    assert [list(row) async for some in made.rows for row in some] == expected
    written = b"".join([some async for some in made.csv]).decode()
    lines = list(csv.reader(io.StringIO(written, newline="")))
    assert lines == [[text(cell) for cell in row] for row in expected]


def test_what_is_remembered_does_not_grow() -> None:
    made: list[object] = []

    def make(stored: object) -> str:
        made.append(stored)
        return str(stored)

    memory = Memory(make)
    for round in range(2):
        for number in range(SAID_AGAIN):
            assert memory.find(str(number)) == str(number)
        assert len(made) == SAID_AGAIN, round
    for number in range(SAID_AGAIN, 3 * SAID_AGAIN):
        memory.find(str(number))
    assert len(memory._kept) <= SAID_AGAIN
    assert memory.find(["a", {"else": "b"}]) == memory.find(["a", {"else": "b"}])
    assert made[-2:] == [["a", {"else": "b"}]] * 2
    assert memory.find(["a", "b"]) == memory.find(["a", "b"]) == "['a', 'b']"
