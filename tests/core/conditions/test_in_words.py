"""Conditions as sentences: the desk says the same (`web/tests/condition.words.test.ts`)."""

import json
from typing import Any, get_args

import pytest
from pydantic import TypeAdapter

from jotgate.core.conditions.condition import Compare, Condition
from jotgate.core.conditions.in_words import WORDS, in_words
from jotgate.core.statistics.describing import subjects
from jotgate.settings import ROOT
from tests.documents import item, page, questionnaire

SAID = json.loads((ROOT / "web/tests/condition_words.json").read_text())

WELL = [{"code": "well", "label": {"en": "Well"}}]
USES = [
    {"code": "drink", "label": {"en": "Drinking"}},
    {"code": "wash", "label": {"en": "Washing"}},
]

DOCUMENT = questionnaire(
    page(
        "p",
        item("pick_one", "water", options=WELL, else_label={"en": "Another"}),
        item("pick_many", "uses", options=USES),
        item("number", "litres"),
        item("date", "day"),
        item("short_text", "note"),
        item("yes_no", "ill"),
        item("roster", "wells", items=[item("yes_no", "deep")]),
    ),
    saved=[{"key": "dry", "name": "A dry year", "when": {"op": "answered", "item": "note"}}],
)


@pytest.mark.parametrize("one", SAID, ids=lambda one: one["words"])
def test_sentences(one: dict[str, Any]) -> None:
    condition: Condition = TypeAdapter(Condition).validate_python(one["condition"])
    assert in_words(condition, subjects(DOCUMENT)) == one["words"]


def test_every_operator_is_among_them() -> None:
    used = {one["condition"]["op"] for one in SAID}
    assert set(WORDS) <= used
    assert set(get_args(Compare.model_fields["op"].annotation)) <= set(WORDS)
