"""Workbooks sent as they are written, away from the event loop."""

import asyncio
from collections.abc import AsyncIterator, Sequence

from jotgate.core.formats.table import Cell
from jotgate.core.formats.workbook import WorkbookFile
from jotgate.services.tables.pieces import pieces_of


async def workbook(
    name: str, head: Sequence[str], chunks: AsyncIterator[Sequence[Sequence[Cell]]]
) -> AsyncIterator[bytes]:
    """The bytes of an XLSX workbook with these rows below `head`."""
    made = await asyncio.to_thread(WorkbookFile, name, head)
    try:
        async for rows in chunks:
            await asyncio.to_thread(made.add, rows)
        await asyncio.to_thread(made.close)
        with made.path.open("rb") as file:
            async for piece in pieces_of(file):
                yield piece
    finally:
        await asyncio.to_thread(made.remove)
