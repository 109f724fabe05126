"""Tables that are sent as files, piece by piece."""

import asyncio
from collections.abc import AsyncIterator, Sequence
from typing import Literal
from urllib.parse import quote

from fastapi.responses import StreamingResponse

from jotgate.core.formats.table import MARK, Cell, lines, write
from jotgate.services.tables.workbooks import workbook

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
    if format == "csv":
        return csv_file(name, head, _lines(rows), mark)
    return saved(f"{name}.xlsx", workbook(name, head, rows), _TYPES[format])


def csv_file(
    name: str, head: Sequence[str], lines: AsyncIterator[bytes], mark: bool = True
) -> StreamingResponse:
    """The lines below a head."""
    return saved(f"{name}.csv", _below(head, lines, mark), _TYPES["csv"])


def saved(name: str, pieces: AsyncIterator[bytes], type: str) -> StreamingResponse:
    """A file of a media type, to be kept under `name`."""
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"}
    return StreamingResponse(pieces, media_type=type, headers=headers)


async def _below(
    head: Sequence[str], lines: AsyncIterator[bytes], mark: bool
) -> AsyncIterator[bytes]:
    yield (MARK if mark else b"") + write(head, []).encode()
    async for some in lines:
        yield some


async def _lines(rows: Rows) -> AsyncIterator[bytes]:
    async for some in rows:
        yield (await asyncio.to_thread(lines, some)).encode()
