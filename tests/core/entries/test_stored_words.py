"""What a table reads in a hurry is what it reads at length."""

import random
from datetime import UTC, datetime

from jotgate.core.common.today import Today
from jotgate.core.entries.display import Reader
from jotgate.core.entries.stored import values_of
from jotgate.core.walking.plan import compile_plan
from tests.services.staff.entries.chance_entries import ITEMS, answers, documents


def test_every_kind_reads_the_same() -> None:
    today = Today(datetime(2026, 11, 25, 9, 30, tzinfo=UTC))
    chance = random.Random(4)
    seen: set[str] = set()
    for document in documents():
        reader = Reader(compile_plan(document))
        for _ in range(300):
            said = answers(document, today, chance)
            seen |= said.keys()
            assert reader.stored(said) == reader.all(values_of(reader.plan.items, said))
    assert seen >= {one["key"] for one in ITEMS} - {"secret", "file", "signature"}
