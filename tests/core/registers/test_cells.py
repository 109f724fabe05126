"""What is given for a cell, as its column keeps it."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jotgate.core.registers.cells import NotFit, read_cell
from jotgate.core.registers.columns import COLUMN_TYPES, PICKED, Column

USES = [{"code": "drink", "label": "Drinking"}, {"code": "wash", "label": "Washing"}]

EMPTY: tuple[Any, ...] = ("", "  ", None, [])


def column(type: str) -> Column:
    more: dict[str, Any] = {"options": USES} if type in PICKED else {}
    if type == "computed":
        more = {"formula": {"do": "count", "of": ["d"]}}
    if type == "entry":
        more = {"of": "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a09"}
    return Column.model_validate({"key": "c", "label": "C", "type": type, **more})


@pytest.mark.parametrize(
    ("type", "given", "kept"),
    [
        ("text", "  a\n b ", "a b"),
        ("long_text", "a\n b", "a\n b"),
        ("number", "012.50", "12.5"),
        ("number", "-3", "-3"),
        ("date", "2026-03-01", "2026-03-01"),
        ("time", "14:05:30", "14:05"),
        ("time", "9:05", "09:05"),
        ("date", "27 Nov 2026", "2026-11-27"),
        ("date_time", "27 Nov 2026, 9:05", "2026-11-27T09:05+00:00"),
        ("date_time", "2026-03-01T14:05+02:00", "2026-03-01T12:05+00:00"),
        ("yes_no", True, True),
        ("yes_no", "No", False),
        ("pick_one", "drink", "drink"),
        ("pick_one", " drinking ", "drink"),
        ("pick_many", "Washing, drink,washing", ["wash", "drink"]),
        ("pick_many", ["wash"], ["wash"]),
        ("email", "A@Example.ORG", "A@example.org"),
        ("phone", "+44 20 7946 0991", "+44 20 7946 0991"),
        ("web_address", "https://example.org/x", "https://example.org/x"),
        ("entry", " 0012 ", "12"),
        ("entry", "2147483647", "2147483647"),
        ("pick_many", [""], None),
        ("pick_many", ",", None),
        *((type, empty, None) for type in COLUMN_TYPES for empty in EMPTY),
    ],
)
def test_what_fits(type: str, given: Any, kept: Any) -> None:
    assert read_cell(column(type), given) == kept


@pytest.mark.parametrize(
    ("type", "given"),
    [
        ("text", "x" * 10_001),
        ("text", "a\0b"),
        ("text", 5),
        ("number", "many"),
        ("number", "NaN"),
        ("number", "1e400"),
        ("number", True),
        ("date", "2026-02-30"),
        ("date", "1 March"),
        ("time", "25:00"),
        ("time", "12:00+01:00"),
        ("time", "0042"),
        ("date_time", "noon"),
        ("date_time", "9999-12-31T23:59-23:00"),
        ("yes_no", "perhaps"),
        ("pick_one", "garden"),
        ("pick_many", "drink, garden"),
        ("pick_many", [["drink"]]),
        ("email", "ines"),
        ("phone", "ring me"),
        ("web_address", "javascript:alert(1)"),
        ("entry", "0"),
        ("entry", "-3"),
        ("entry", "1.5"),
        ("entry", "٣"),
        ("entry", "2147483648"),
        ("entry", "9" * 5_000),
    ],
)
def test_what_does_not_is_told(type: str, given: Any) -> None:
    with pytest.raises(NotFit) as told:
        read_cell(column(type), given)
    assert str(told.value).endswith(".")


@given(
    st.sampled_from(COLUMN_TYPES),
    st.text() | st.booleans() | st.lists(st.text(max_size=10), max_size=4) | st.integers(),
)
def test_a_cell_that_is_kept_reads_the_same_again(type: str, given: Any) -> None:
    one = column(type)
    try:
        kept = read_cell(one, given)
    except NotFit:
        return
    assert read_cell(one, kept) == kept


def test_only_a_column_that_is_picked_from_has_options() -> None:
    for type in COLUMN_TYPES:
        with pytest.raises(ValidationError):
            Column.model_validate(
                {"key": "c", "label": "C", "type": type, "options": [] if type in PICKED else USES}
            )
    for type in COLUMN_TYPES:
        of = {} if type == "entry" else {"of": "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a09"}
        with pytest.raises(ValidationError):
            Column.model_validate({**column(type).model_dump(), "of": None, **of})
    twice = {"key": "c", "label": "C", "type": "pick_one", "options": [USES[0], USES[0]]}
    with pytest.raises(ValidationError):
        Column.model_validate(twice)
