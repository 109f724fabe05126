"""Columns that become others."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import COLUMN_TYPES, Column
from jotgate.core.registers.columns_changed import Becoming, column_faults
from tests.core.registers.kinds import COLUMNS, GIVEN, MORE, WHERE, cells, column, kept


def of(type: str, key: str, **more: Any) -> Column:
    return Column.model_validate(
        {"key": key, "label": key.capitalize(), "type": type, **MORE.get(type, {}), **more}
    )


def test_a_name_or_an_order_changes_no_cell() -> None:
    new = [one.model_copy(update={"label": "Other"}) for one in reversed(COLUMNS)]
    assert not Becoming(COLUMNS, new, WHERE).touches_cells


@pytest.mark.parametrize(
    ("old", "new", "cell", "becomes"),
    [
        ("text", "number", "12.50", "12.5"),
        ("text", "number", "many", None),
        ("text", "date", "27 Nov 2026", "2026-11-27"),
        ("date", "text", "2026-11-27", "27 Nov 2026"),
        ("number", "text", "12.5", "12.5"),
        ("text", "pick_one", "drinking", "drink"),
        ("text", "pick_one", "garden", None),
        ("pick_one", "text", "drink", "Drinking"),
        ("pick_one", "pick_many", "drink", ["drink"]),
        ("pick_many", "pick_one", ["drink"], "drink"),
        ("pick_many", "pick_one", ["drink", "wash"], None),
        ("yes_no", "text", True, "Yes"),
        ("text", "yes_no", "no", False),
        ("text", "person", "Sam Tarn", "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a01"),
        ("person", "text", "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a01", "Sam Tarn"),
        ("date_time", "date", "2026-11-27T14:05+00:00", None),
    ],
)
def test_cells_go_along_by_their_words(old: str, new: str, cell: Cell, becomes: Any) -> None:
    becoming = Becoming([of(old, "a")], [of(new, "a")], WHERE)
    cells, unfit = becoming.row(7, {"a": cell})
    assert cells.get("a") == becomes
    assert [(one.row, one.column) for one in unfit] == ([] if becomes is not None else [(7, "a")])
    assert all(one.said and one.why for one in unfit)


def test_an_option_that_goes_is_told_and_one_that_is_reworded_stays() -> None:
    old = of("pick_one", "a")
    fewer = of("pick_one", "a", options=[{"code": "drink", "label": "To drink"}])
    becoming = Becoming([old], [fewer], WHERE)
    assert becoming.row(1, {"a": "drink"}) == ({"a": "drink"}, [])
    assert becoming.row(1, {"a": "wash"})[1][0].said == "Washing"


def test_what_is_computed_follows_its_columns() -> None:
    sum_of = {"do": "sum", "of": ["b", "c"]}
    old = [of("number", "b"), of("number", "c")]
    new = [*old, of("computed", "a", formula=sum_of)]
    assert Becoming(old, new, WHERE).row(1, {"b": "2", "c": "0.5"})[0]["a"] == "2.5"
    assert "a" not in Becoming(new, old, WHERE).row(1, {"b": "2", "a": "2.5"})[0]


@given(cells(), st.sampled_from(COLUMN_TYPES), st.sampled_from(COLUMNS))
def test_any_row_becomes_one_of_any_column_or_is_told(
    row: dict[str, Cell], type: str, one: Column
) -> None:
    new = [of(type, other.key) if other is one else other for other in COLUMNS]
    found, unfit = Becoming(COLUMNS, new, WHERE).row(1, row)
    lost = {key for key in row if key not in found and key != one.key}
    assert not lost
    if type not in ("computed",) and one.key in row:
        assert (one.key in found) != bool(unfit)
    for key, cell in found.items():
        there = next(other for other in new if other.key == key)
        if there.type not in ("computed", "files", "person"):
            assert kept(there, cell) == cell


@pytest.mark.parametrize(
    ("columns", "code"),
    [
        ([of("text", "a"), of("number", "a")], "double_key"),
        ([of("computed", "a", formula={"do": "sum", "of": ["b"]})], "not_earlier"),
        (
            [of("text", "b"), of("computed", "a", formula={"do": "sum", "of": ["b"]})],
            "wrong_source",
        ),
        (
            [
                of("date", "b"),
                of("computed", "a", formula={"do": "difference", "since": "b", "until": "today"}),
            ],
            "today",
        ),
        (
            [
                of("computed", "a", formula={"do": "count", "of": ["b"]}),
                of("computed", "b", formula={"do": "count", "of": ["a"]}),
            ],
            "not_earlier",
        ),
    ],
)
def test_columns_that_do_not_go_together(columns: list[Column], code: str) -> None:
    assert code in {one.code for one in column_faults(columns)}


def test_every_type_has_a_column_that_goes_with_the_others() -> None:
    assert not list(column_faults([*COLUMNS, column("files"), column("computed")]))
    assert {*GIVEN, "files", "computed"} == set(COLUMN_TYPES)
