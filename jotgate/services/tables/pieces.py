"""Files that are sent piece by piece."""

import asyncio
from collections.abc import AsyncIterator
from typing import IO

PIECE = 256 * 1024
"""Bytes."""


async def pieces_of(file: IO[bytes]) -> AsyncIterator[bytes]:
    """What stands in a file from where it is, read away from the event loop."""
    while piece := await asyncio.to_thread(file.read, PIECE):
        yield piece
