"""Tables that people bring: CSV as programs write it, and workbooks."""

import io
import json
from datetime import date, datetime, time

import pytest
from hypothesis import given
from hypothesis import strategies as st
from xlsxwriter import Workbook

from jotgate.core.common.errors import Invalid
from jotgate.core.formats.table import write
from jotgate.core.formats.table_in import AT_ONCE, read_table
from jotgate.core.formats.workbook import WorkbookFile


def rows(data: bytes, name: str = "t.csv") -> list[list[str]]:
    found = read_table(name, data)
    return [list(found.columns)] + [row for one in found.chunks for row in json.loads(one)]


@pytest.mark.parametrize(
    "data",
    [
        b"Name,District\r\nInes,Saltings\r\n",
        b"\xef\xbb\xbfName;District\nInes;Saltings\n\n",
        b"Name\tDistrict\nInes\tSaltings",
        "Name|District\nInes|Saltings\n".encode("utf-16"),
        b'\n"Name","District"\n"Ines","Saltings"\n',
        b"Name,District,,\nInes,Saltings,,\n",
    ],
)
def test_csv_as_programs_write_it(data: bytes) -> None:
    assert rows(data) == [["Name", "District"], ["Ines", "Saltings"]]


def test_quotes_lines_and_a_western_code_page() -> None:
    """Quotes doubled, and line breaks in cells: RFC 4180, 2."""
    data = 'Name,Note\n"Zoë ""Z"" Fell","two\nlines, and a comma"\n'.encode("cp1252")
    assert rows(data)[1] == ['Zoë "Z" Fell', "two\nlines, and a comma"]


CELLS = st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=12).map(str.strip)


@given(st.lists(st.lists(CELLS, min_size=2, max_size=2).filter(any), min_size=1, max_size=5))
def test_what_we_write_comes_back(given: list[list[str]]) -> None:
    found = rows(write(("Näme", "b"), given).encode())
    # A quote before what looks like a formula is taken for the one that we write there.
    read = [
        [c[1:] if c[:1] == "'" and c[1:2] in "=+-@" and c[1:] else c for c in row] for row in given
    ]
    assert found == [["Näme", "b"], *read]


@pytest.mark.parametrize(
    "cell", ["=1+1", "+44 20 7946 0000", "-3", "@home", "'tis", "''", "'", "it's"]
)
def test_what_was_written_as_no_formula_comes_back_as_it_was(cell: str) -> None:
    assert rows(write(["A"], [[cell], ["end"]]).encode()) == [["A"], [cell], ["end"]]


def test_a_workbook_reads_as_it_is_shown() -> None:
    out = io.BytesIO()
    book = Workbook(out)
    sheet = book.add_worksheet()
    day = book.add_format({"num_format": "yyyy-mm-dd"})
    clock = book.add_format({"num_format": "hh:mm"})
    for column, name in enumerate(("Text", "Whole", "Part", "Day", "Moment", "Yes")):
        sheet.write_string(0, column, name)
    sheet.write_string(1, 0, "=1+1")
    sheet.write_number(1, 1, 401)
    sheet.write_number(1, 2, 2.5)
    sheet.write_datetime(1, 3, datetime(2026, 11, 25), day)
    moment = datetime(2026, 11, 25, 9, 30)
    sheet.write_datetime(1, 4, moment, book.add_format({"num_format": "yyyy-mm-dd hh:mm"}))
    sheet.write_boolean(1, 5, True)
    sheet.write_datetime(2, 3, time(9, 5), clock)
    book.close()
    found = rows(out.getvalue(), "t.xlsx")
    assert found[1] == [
        "=1+1",
        "401",
        "2.5",
        date(2026, 11, 25).isoformat(),
        "2026-11-25 09:30",
        "yes",
    ]
    assert found[2][3] == "09:05:00"


def test_our_own_workbooks_come_back() -> None:
    made = WorkbookFile("a/b: [c]", ("Name", "Link"))
    made.add([("=cmd()", "https://example.org/p"), ("", "x")])
    made.close()
    data = made.path.read_bytes()
    made.remove()
    assert rows(data, "t.xlsx") == [
        ["Name", "Link"],
        ["=cmd()", "https://example.org/p"],
        ["", "x"],
    ]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "no rows"),
        (b"\n\n", "no rows"),
        (b"a,,b\n1,2,3", "no name"),
        (b"a,A\n1,2", "Two columns"),
        (b"a,b\n1,2,3\n", "cannot be read"),
        (b"a\n" + b"x" * 6000, "cannot be read"),
        (b"a\nx\0y\n", "cannot be read"),
        (b"PK\x03\x04 no workbook", "Save it as"),
        (",".join(f"c{n}" for n in range(201)).encode(), "columns"),
    ],
)
def test_what_cannot_be_read_is_said(data: bytes, says: str) -> None:
    with pytest.raises(Invalid) as refused:
        read_table("t.csv", data)
    said = [refused.value.message, *(one.message for one in refused.value.faults)]
    assert says in " ".join(said)


def test_rows_come_in_pieces() -> None:
    data = b"n\n" + b"".join(b"%d\n" % n for n in range(AT_ONCE + 1))
    found = read_table("t.csv", data)
    assert [len(json.loads(one)) for one in found.chunks] == [AT_ONCE, 1]
    assert (found.rows, found.sample[0]) == (AT_ONCE + 1, ("0",))
