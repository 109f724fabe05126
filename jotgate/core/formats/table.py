"""Tables as CSV (RFC 4180), in UTF-8."""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from decimal import Decimal

from jotgate.core.common.decimals import plain

Cell = str | bool | Decimal | date | datetime | time | None
"""What stands in a cell of a table that goes out."""

MARK = "\ufeff".encode()
"""Tells spreadsheets that a file is in UTF-8."""

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe(cell: str) -> str:
    """`cell` so that a spreadsheet takes it for text and never for a formula."""
    return f"'{cell}" if cell.startswith(_FORMULA) else cell


def text(cell: Cell) -> str:
    """As in CSV. What is text is kept from being a formula; numbers and days are none."""
    match cell:
        case None:
            return ""
        case str():
            return safe(cell)
        case bool():
            return "true" if cell else "false"
        case Decimal():
            return plain(cell)
        case datetime() | time():
            return cell.isoformat(timespec="minutes")
    return cell.isoformat()


def write(head: Sequence[str], rows: Iterable[Sequence[Cell]]) -> str:
    """The rows below `head`, with lines that end in CR LF as the standard wants."""
    return lines([head]) + lines(rows)


def lines(rows: Iterable[Sequence[Cell]]) -> str:
    """Rows alone, to follow others."""
    out = io.StringIO()
    csv.writer(out).writerows([text(cell) for cell in row] for row in rows)
    return out.getvalue()


_QUOTED = frozenset('",\r\n')
_WITH_CARE = re.compile(r'[",\r\n]|\x1f[=+\-@\t]')
"""What makes fields in a text of many, each behind a separator (ISO/IEC 6429, US), not plain."""


def csv_fields(cells: Sequence[str | None]) -> list[str]:
    """A column of text as `csv_field` has each cell: most columns need no quotes anywhere, and all
    of one are looked at together."""
    said = [one or "" for one in cells]
    if _WITH_CARE.search("\x1f" + "\x1f".join(said)) is None:
        return said
    return [csv_field(one) for one in said]


def csv_field(cell: Cell) -> str:
    """A cell as it stands in CSV (RFC 4180, section 2), where many say the same: a writer of whole
    rows takes far longer to look at each."""
    said = text(cell)
    if _QUOTED.isdisjoint(said):
        return said
    return '"' + said.replace('"', '""') + '"'


def field_lines(rows: Iterable[Sequence[str]]) -> str:
    """Rows of fields that `csv_field` made."""
    return "".join([",".join(row) + "\r\n" for row in rows])
