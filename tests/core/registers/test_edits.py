"""Changes of cells, and what is refused of them."""

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.registers.cells import Cell
from jotgate.core.registers.edits import Edit, differences, edited, new_row
from jotgate.core.registers.values import with_computed
from jotgate.core.registers.words import cell_words
from tests.core.registers.kinds import COLUMNS, GIVEN, WHERE, cells, column, fits, kept


def test_each_cell_is_checked_by_itself() -> None:
    rows: dict[int, dict[str, Cell]] = {1: {"number": "3"}, 2: {"number": "4", "text": "a"}}
    found = edited(
        COLUMNS,
        rows,
        [
            Edit(1, "number", "many", "3"),
            Edit(1, "text", "b", None),
            Edit(2, "number", "5", "3"),
            Edit(2, "text", "", "a"),
            Edit(3, "text", "c", None),
            Edit(1, "gone", "c", None),
        ],
        WHERE,
    )
    assert found.rows == {1: {"number": "3", "text": "b"}, 2: {"number": "4"}}
    assert [(one.row, one.column, one.code, one.now) for one in found.refused] == [
        (1, "number", "unfit", None),
        (2, "number", "changed", "4"),
        (3, "text", "no_row", None),
        (1, "gone", "no_column", None),
    ]


def test_what_stands_there_already_is_no_change_whoever_wrote_it() -> None:
    found = edited(COLUMNS, {1: {"number": "5"}}, [Edit(1, "number", "5.0", "3")], WHERE)
    assert (found.rows, found.refused) == ({}, [])


def test_a_cell_that_is_given_twice_takes_the_last() -> None:
    edits = [Edit(1, "text", "a", None), Edit(1, "text", "b", None)]
    assert edited(COLUMNS, {1: {}}, edits, WHERE).rows == {1: {"text": "b"}}


def test_computed_cells_follow_and_cannot_be_written() -> None:
    columns = (column("text"), column("computed"))
    found = edited(columns, {1: {}}, [Edit(1, "text", "a", None)], WHERE)
    assert found.rows == {1: {"text": "a", "computed": "1"}}
    refused = edited(columns, {1: {}}, [Edit(1, "computed", "7", None)], WHERE).refused
    assert [one.code for one in refused] == ["unfit"]
    assert with_computed(columns, {"computed": "9"}) == {}


def test_a_new_row_tells_what_does_not_fit() -> None:
    found = new_row(COLUMNS, -1, {"number": "many", "text": "a"}, WHERE)
    assert found.rows == {-1: {"text": "a"}}
    assert [(one.row, one.column) for one in found.refused] == [(-1, "number")]
    assert new_row(COLUMNS, -1, {}, WHERE).rows == {-1: {}}


@given(cells(), cells(), st.data())
def test_undo_leads_back(
    before: dict[str, Cell], after: dict[str, Cell], data: st.DataObject
) -> None:
    """What becomes of any row by any edits is taken back by their opposites."""
    keys = data.draw(st.sets(st.sampled_from([one.key for one in COLUMNS])))
    there = [Edit(1, key, after.get(key), before.get(key)) for key in keys]
    made = edited(COLUMNS, {1: before}, there, WHERE)
    assert not made.refused
    now = made.rows.get(1, before)
    assert now == {
        key: cell
        for key, cell in {**before, **{key: after.get(key) for key in keys}}.items()
        if cell is not None
    }
    back = [Edit(1, one.column, one.before, now.get(one.column)) for one in there]
    again = edited(COLUMNS, {1: now}, back, WHERE)
    assert again.rows.get(1, now) == before
    old, new = differences(before, now)
    assert set(old) | set(new) == {key for key in keys if before.get(key) != after.get(key)}


def test_what_a_cell_reads_as_can_be_written_again() -> None:
    for one in COLUMNS:
        for given_cell in GIVEN[one.type]:
            cell = kept(one, given_cell)
            if cell == "0b9c7a52-6f0e-4f0c-8f6b-1d9f6c1f0a03":
                assert not fits(one, "Gone Away")
                continue
            assert kept(one, cell_words(one, cell, WHERE)) == cell
