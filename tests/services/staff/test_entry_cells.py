"""Cells that are written in a hurry are those that values make one by one."""

import random
from datetime import UTC, datetime
from uuid import uuid4

import pytest

from jotgate.core.common.today import today_in
from jotgate.core.entries.display import SAID_AGAIN, Memory, Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import Around
from jotgate.core.entries.stored import values_of
from jotgate.core.entries.table import entry_facts, table_of
from jotgate.core.formats.table import Cell, text
from jotgate.core.handling import Terms
from jotgate.core.walking.plan import compile_plan
from jotgate.services.staff.entries.entry_cells import EntryCells
from tests.services.staff.test_entry_filters import ITEMS, answers, documents

NOW = datetime(2026, 11, 25, 9, 30, tzinfo=UTC)


@pytest.mark.parametrize("codes", [False, True])
def test_every_kind_is_written_the_same(codes: bool) -> None:
    today = today_in("Asia/Tokyo", NOW)
    plans = {at: compile_plan(one) for at, one in enumerate(documents(), 1)}
    readers = {at: Reader(plan) for at, plan in plans.items()}
    table = table_of(plans, Around({}, {"sent": "Sent"}), {}, Terms({"sent": 1}, {"sent": 9}))
    shown = tuple(table.open.values())
    typed, texts = (
        EntryCells(readers, table, today, shown, codes, as_text) for as_text in (False, True)
    )
    chance, seen = random.Random(7), set[str]()
    entries: list[Entry] = []
    rows: list[list[Cell]] = []
    for at, plan in plans.items():
        for number in range(1, 200):
            said = answers(plan.questionnaire, today, chance)
            said = {key: one for key, one in said.items() if key in table.open}
            seen |= said.keys()
            status = chance.choice(["", "sent"])
            entry = Entry(
                id=uuid4(),
                questionnaire_id=uuid4(),
                edition=at,
                number=number,
                arrived=NOW,
                finish="",
                answers=said,
                flags=(),
                status=status,
            )
            values = values_of(plan.items, said) | dict(entry_facts(entry, table, today).items())
            row: list[Cell] = [str(number)]
            for one in shown:
                item = one.item if one.fact else plan.items.get(one.key)
                value = values.get(one.key)
                there = item is not None and value is not None
                row.append(typed.cell(item, value, readers[at]) if there else None)  # type: ignore[arg-type]
            rows.append(row)
            entries.append(entry)
    chance.shuffle(order := [*range(len(rows))])
    for places in (range(len(rows)), order):
        some, wanted = [entries[at] for at in places], [rows[at] for at in places]
        assert [list(one) for one in typed.rows(some)] == wanted
        found = [[cell or "" for cell in one] for one in texts.rows(some)]
        assert found == [[text(cell) for cell in one] for one in wanted]
    assert seen >= {one["key"] for one in ITEMS} - {"secret", "file", "signature"}


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
