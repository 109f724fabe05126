"""Tables that are sent as files, piece by piece."""

from collections.abc import AsyncIterator, Sequence
from typing import Literal
from urllib.parse import quote

from fastapi.responses import StreamingResponse

from jotgate.core.formats.table import lines, write
from jotgate.core.formats.table_in import Row
from jotgate.services.workbooks import workbook

TableFormat = Literal["csv", "xlsx"]

_TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}


def table_file(
    name: str, format: TableFormat, head: Sequence[str], rows: AsyncIterator[list[Row]]
) -> StreamingResponse:
    """A table to be kept under `name`: CSV (RFC 4180) that begins with a mark of its encoding, for
    spreadsheets, or XLSX."""
    pieces = _csv(head, rows) if format == "csv" else workbook(name, head, rows)
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}.{format}"}
    return StreamingResponse(pieces, media_type=_TYPES[format], headers=headers)


async def _csv(head: Sequence[str], rows: AsyncIterator[list[Row]]) -> AsyncIterator[bytes]:
    yield b"\xef\xbb\xbf" + write(head, []).encode()
    async for some in rows:
        yield lines(some).encode()
