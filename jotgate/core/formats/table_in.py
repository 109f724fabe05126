"""Tables that people bring: CSV (RFC 4180 and its common variants) and XLSX (ISO/IEC 29500).

What is read are the columns with their names, and rows of texts in chunks, so that whoever works on
them holds few at a time.
"""

import csv
import io
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Any

import orjson
from python_calamine import CalamineError, CalamineWorkbook

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.formats.table import safe

MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 200_000, 200, 5_000
AT_ONCE = 2_000
"""Rows of one chunk."""

Row = list[str]


@dataclass(frozen=True)
class TableIn:
    """`columns` are the names in the first row; `chunks` are JSON arrays of at most `AT_ONCE` rows
    each, every row as long as `columns`; `lines` is the line or row of the file that the first row
    of each chunk stood in. `sample` are the first rows."""

    columns: tuple[str, ...]
    rows: int
    chunks: tuple[bytes, ...]
    sample: tuple[tuple[str, ...], ...]


def read_table(name: str, data: bytes) -> TableIn:
    """Raises Invalid, with the lines of what cannot be read."""
    workbook = data[:4] == b"PK\x03\x04"
    rows = _xlsx(data) if workbook else _csv(data)
    head = next((row for row in rows if any(row)), None)
    if head is None:
        raise Invalid(f"{name or 'The file'} has no rows.")
    while head and not head[-1]:
        head.pop()
    columns = _columns(head)
    chunks: list[bytes] = []
    count = 0
    sample: list[tuple[str, ...]] = []
    faults: list[Fault] = []
    held: list[Row] = []
    for row in rows:
        if not any(row):
            continue
        count += 1
        if count > MOST_ROWS:
            raise Invalid(f"There are more than {MOST_ROWS:,} rows. Bring them in parts.")
        faults += _row_faults(row, len(columns), count + 1)
        if len(faults) >= 50:
            break
        fitted = [*row[: len(columns)], *[""] * (len(columns) - len(row))]
        held.append(fitted)
        if count <= 5:
            sample.append(tuple(fitted))
        if len(held) == AT_ONCE:
            chunks.append(orjson.dumps(held))
            held = []
    if faults:
        raise Invalid("Some rows cannot be read.", faults)
    if held:
        chunks.append(orjson.dumps(held))
    return TableIn(columns, count, tuple(chunks), tuple(sample))


def folded(name: str) -> str:
    """A name of a column as it is compared: letters and digits, letter case ignored."""
    return " ".join("".join(one if one.isalnum() else " " for one in name.casefold()).split())


def matched(columns: Sequence[str], names: Mapping[str, str]) -> dict[int, str]:
    """By the number of a column, from 0, what is called so in `names`, which are folded; each thing
    once."""
    found: dict[int, str] = {}
    for number, column in enumerate(columns):
        name = names.get(folded(column), "")
        if name and name not in found.values():
            found[number] = name
    return found


def _columns(head: Row) -> tuple[str, ...]:
    if len(head) > MOST_COLUMNS:
        raise Invalid(f"There are more than {MOST_COLUMNS} columns.")
    names = [" ".join(name.split()) for name in head]
    empty = next((number for number, name in enumerate(names, 1) if not name), None)
    if empty:
        raise Invalid(f"Column {empty} has no name in the first row. Give it one.")
    folded = [name.casefold() for name in names]
    twice = next((name for name in names if folded.count(name.casefold()) > 1), None)
    if twice:
        raise Invalid(f"Two columns are called {twice}. Give them different names.")
    return tuple(names)


def _row_faults(row: Row, wide: int, number: int) -> Iterator[Fault]:
    if any(row[wide:]):
        message = f"Row {number} has more cells than there are columns."
        yield Fault(code="too_wide", at=f"rows/{number}", message=message)
    if any(len(cell) > LONGEST_CELL for cell in row):
        message = f"Row {number} has a cell of more than {LONGEST_CELL:,} characters."
        yield Fault(code="too_long", at=f"rows/{number}", message=message)
    if any("\0" in cell for cell in row):
        message = f"Row {number} has the character NUL in it."
        yield Fault(code="nul", at=f"rows/{number}", message=message)


def _csv(data: bytes) -> Iterator[Row]:
    text = _decoded(data)
    first = text[:20_000].split("\n", 1)[0]
    delimiter = max(",;\t|", key=first.count)
    csv.field_size_limit(1_000_000)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    try:
        for row in reader:
            yield [_written(cell.strip()) for cell in row]
    except csv.Error:
        line = reader.line_num
        message = f"Line {line} cannot be read: look for a quote that is not closed."
        raise Invalid(message, [Fault(code="csv", at=f"rows/{line}", message=message)]) from None


def _written(cell: str) -> str:
    """A cell as it was before a quote made it a text and no formula, as in our own tables."""
    return cell[1:] if cell[:1] == "'" and safe(cell[1:]) == cell else cell


def _decoded(data: bytes) -> str:
    """UTF-8, with or without a mark, UTF-16 with one, else the Western code page."""
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", "replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


def _xlsx(data: bytes) -> Iterator[Row]:
    try:
        sheet = CalamineWorkbook.from_filelike(io.BytesIO(data)).get_sheet_by_index(0)
        found: Iterable[list[Any]] = sheet.iter_rows()
        yield from ([_cell(one) for one in row] for row in found)
    except CalamineError:
        raise Invalid("This workbook cannot be read. Save it as .xlsx or .csv again.") from None


def _cell(value: Any) -> str:
    """A cell as a person reads it: whole numbers without a point, dates in ISO 8601."""
    match value:
        case bool():
            return "yes" if value else "no"
        case float() if value.is_integer() and abs(value) < 1e15:
            return str(int(value))
        case datetime() if value.time() == time():
            return value.date().isoformat()
        case datetime():
            return value.isoformat(" ", "minutes")
        case date() | time():
            return value.isoformat()
    return str(value).strip()
