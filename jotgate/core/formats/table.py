"""Tables as CSV (RFC 4180), in UTF-8."""

import csv
import io
from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from decimal import Decimal

from jotgate.core.common.decimals import plain

Cell = str | bool | Decimal | date | datetime | time | None
"""What stands in a cell of a table that goes out."""

MARK = "\ufeff".encode()
"""Tells spreadsheets that a file is in UTF-8."""

FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe(cell: str) -> str:
    """`cell` so that a spreadsheet takes it for text and never for a formula."""
    return f"'{cell}" if cell.startswith(FORMULA) else cell


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
