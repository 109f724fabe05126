"""CSV that is written column by column reads back as what the library writes row by row."""

import csv
import io
from datetime import UTC, date, datetime, time
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.formats.table import Cell, csv_field, csv_fields, field_lines, lines, safe

TEXTS = st.text(st.sampled_from('a,"\r\n=+-@\t\x1f é') | st.characters(codec="utf-8"), max_size=6)


@given(st.lists(st.none() | TEXTS, min_size=1, max_size=30))
def test_a_column_is_written_as_each_of_its_cells(column: list[str | None]) -> None:
    assert csv_fields(column) == [csv_field(one or "") for one in column]
    written = field_lines([("x", one) for one in csv_fields(column)])
    rows = list(csv.reader(io.StringIO(written, newline="")))
    assert [row[1] for row in rows] == [safe(one or "") for one in column]


CELLS = st.one_of(
    st.none(),
    TEXTS,
    st.booleans(),
    st.decimals(allow_nan=False, allow_infinity=False),
    st.dates(min_value=date(1000, 1, 1)),
    st.times(),
    st.datetimes(min_value=datetime(1000, 1, 1), timezones=st.just(UTC)),
)


@given(st.lists(st.tuples(CELLS, CELLS), max_size=9))
def test_rows_are_those_of_the_library(rows: list[tuple[Cell, Cell]]) -> None:
    ours = field_lines([tuple(csv_field(cell) for cell in row) for row in rows])
    read = [list(csv.reader(io.StringIO(one, newline=""))) for one in (ours, lines(rows))]
    assert read[0] == read[1]


def test_lines_end_as_the_standard_says() -> None:
    """RFC 4180, section 2, items 1, 6 and 7."""
    row = (csv_field('a"b'), csv_field("c,d"), csv_field(Decimal("1.50")), csv_field(time(8, 5)))
    assert field_lines([row]) == '"a""b","c,d",1.5,08:05\r\n'
