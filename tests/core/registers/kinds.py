"""A column of every type, and cells of each, for tests."""

from typing import Any

from hypothesis import strategies as st

from jotgate.core.registers.cells import Cell, NotFit, Person, Where, read_cell
from jotgate.core.registers.columns import Column

USES = [{"code": "drink", "label": "Drinking"}, {"code": "wash", "label": "Washing"}]
PEOPLE = {
    "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a01": Person("Sam Tarn", "sam@example.org"),
    "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a02": Person("Nadia Brandt", "nadia@example.org"),
    "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a03": Person("Gone Away", "gone@example.org", here=False),
}
WHERE = Where(people=PEOPLE)

MORE: dict[str, dict[str, Any]] = {
    "pick_one": {"options": USES},
    "pick_many": {"options": USES},
    "computed": {"formula": {"do": "count", "of": ["text"]}},
    "entry": {"of": "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a09"},
}

GIVEN: dict[str, tuple[Any, ...]] = {
    "text": ("a", "A", "b c", "ä", "ss", "10", "9"),
    "long_text": ("a\nb", "B"),
    "number": ("9", "10", "-1.5", "0"),
    "date": ("2026-11-27", "2027-01-02", "0999-01-01"),
    "time": ("09:30", "14:05"),
    "date_time": ("2026-11-27T14:05+00:00", "2026-11-27T23:30+00:00"),
    "yes_no": (True, False),
    "pick_one": ("drink", "wash"),
    "pick_many": (["drink"], ["wash", "drink"]),
    "email": ("a@example.org", "B@example.org"),
    "phone": ("+44 20 7946 0991",),
    "web_address": ("https://example.org/x",),
    "person": tuple(PEOPLE),
    "entry": ("9", "10", "174"),
}
"""Cells of every type that is written."""


def column(type: str, key: str = "") -> Column:
    more = MORE.get(type, {})
    return Column.model_validate({"key": key or type, "label": type, "type": type, **more})


COLUMNS = tuple(column(type) for type in GIVEN)


def kept(one: Column, given: Any) -> Cell | None:
    return read_cell(one, given, WHERE)


def cells() -> st.SearchStrategy[dict[str, Cell]]:
    """The cells of a row; any may be empty."""
    each = {
        one.key: st.none() | st.sampled_from([kept(one, given) for given in GIVEN[one.type]])
        for one in COLUMNS
    }
    full = st.fixed_dictionaries(each)
    return full.map(lambda row: {key: cell for key, cell in row.items() if cell is not None})


def fits(one: Column, given: Any) -> bool:
    try:
        read_cell(one, given, WHERE)
    except NotFit:
        return False
    return True
