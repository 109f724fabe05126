"""Tables that are sent as files, piece by piece."""

from collections.abc import AsyncIterator, Sequence
from typing import Literal
from urllib.parse import quote

from fastapi.responses import StreamingResponse

from jotgate.core.formats.table import MARK, Cell, lines, write
from jotgate.services.workbooks import workbook

TableFormat = Literal["csv", "xlsx"]

Rows = AsyncIterator[Sequence[Sequence[Cell]]]

_TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}


def table_file(
    name: str, format: TableFormat, head: Sequence[str], rows: Rows, mark: bool = True
) -> StreamingResponse:
    """A table to be kept under `name`: CSV (RFC 4180) with a `mark` of its encoding for
    spreadsheets or without, or XLSX."""
    pieces = _csv(head, rows, mark) if format == "csv" else workbook(name, head, rows)
    return saved(f"{name}.{format}", pieces, _TYPES[format])


def saved(name: str, pieces: AsyncIterator[bytes], type: str) -> StreamingResponse:
    """A file of a media type, to be kept under `name`."""
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"}
    return StreamingResponse(pieces, media_type=type, headers=headers)


async def _csv(head: Sequence[str], rows: Rows, mark: bool) -> AsyncIterator[bytes]:
    yield (MARK if mark else b"") + write(head, []).encode()
    async for some in rows:
        yield lines(some).encode()
