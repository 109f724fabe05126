"""Contacts as conditions see them."""

from datetime import UTC, date, datetime
from decimal import Decimal

import pytest

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import Compare, holds
from jotgate.core.contacts.asked import BEFORE, contact_items, contact_values
from jotgate.core.contacts.fields import BUILT_IN, ContactField
from jotgate.core.publishing.condition_faults import condition_faults

FIELDS = tuple(
    ContactField(key=kind, label=kind.title(), kind=kind, options=("Fell", "Salt"))
    for kind in ("text", "number", "date", "yes_no", "pick")
)
TODAY = Today(datetime(2026, 11, 28, 12, tzinfo=UTC))
SAID = {
    "text": "a stone wall",
    "number": "12.5",
    "date": "2026-03-01",
    "yes_no": "no",
    "pick": "Salt",
    "before.asked": "2",
    "before.last_asked": "2026-10-01",
    "email": "",
    "key": None,
}


def test_every_field_can_be_named() -> None:
    keys = {*BUILT_IN, *BEFORE, *(one.key for one in FIELDS)}
    assert set(contact_items(FIELDS)) == keys


def test_what_is_known_is_of_its_kind() -> None:
    found = contact_values(FIELDS, SAID)
    assert found == {
        "text": "a stone wall",
        "number": Decimal("12.5"),
        "date": date(2026, 3, 1),
        "yes_no": False,
        "pick": "Salt",
        "before.asked": Decimal(2),
        "before.last_asked": date(2026, 10, 1),
    }


@pytest.mark.parametrize(
    ("item", "op", "value"),
    [
        ("text", "contains", "STONE"),
        ("number", "more_than", "12"),
        ("date", "less_than", "2026-03-02"),
        ("yes_no", "is", False),
        ("pick", "is_not", "Fell"),
        ("before.asked", "at_least", "2"),
        ("before.last_asked", "at_most", "today-30"),
    ],
)
def test_conditions_hold(item: str, op: str, value: str | bool) -> None:
    condition = Compare.model_validate({"op": op, "item": item, "value": value})
    items = contact_items(FIELDS)
    assert not list(condition_faults(condition, items, "en", "only", "It asks for"))
    assert holds(condition, contact_values(FIELDS, SAID), TODAY)
    assert not holds(condition, {}, TODAY)
