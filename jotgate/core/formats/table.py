"""Tables as CSV (RFC 4180), in UTF-8."""

import csv
import io
from collections.abc import Iterable, Sequence

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe(cell: str) -> str:
    """`cell` so that a spreadsheet takes it for text and never for a formula."""
    return f"'{cell}" if cell.startswith(_FORMULA) else cell


def write(head: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    """The rows below `head`, with lines that end in CR LF as the standard wants."""
    return lines([head]) + lines(rows)


def lines(rows: Iterable[Sequence[str]]) -> str:
    """Rows alone, to follow others."""
    out = io.StringIO()
    csv.writer(out).writerows([safe(cell) for cell in row] for row in rows)
    return out.getvalue()
