"""ZIP files that are sent while they are made, piece by piece."""

import asyncio
import io
import zipfile
from collections.abc import AsyncIterator
from datetime import datetime

Member = tuple[str, AsyncIterator[bytes]]
"""A name in the file, and what stands under it."""


PACKED = (".parquet",)
"""Endings of what is compressed already, and is put in as it is."""


class _Pieces(io.RawIOBase):
    """What was written and not taken yet; nobody can go back in it."""

    def __init__(self) -> None:
        self._written = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: object) -> int:
        some = bytes(data)  # type: ignore[call-overload]
        self._written += some
        return len(some)

    def take(self) -> bytes:
        found = bytes(self._written)
        self._written.clear()
        return found


async def zipped(members: AsyncIterator[Member], now: datetime) -> AsyncIterator[bytes]:
    """The members one after the other, compressed, each dated `now` in its zone; none is held in
    memory whole."""
    out = _Pieces()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as whole:
        async for name, pieces in members:
            told = zipfile.ZipInfo(name, now.timetuple()[:6])
            packed = name.endswith(PACKED)
            told.compress_type = zipfile.ZIP_STORED if packed else zipfile.ZIP_DEFLATED
            with whole.open(told, "w", force_zip64=True) as member:
                async for one in pieces:
                    await asyncio.to_thread(member.write, one)
                    if some := out.take():
                        yield some
            yield out.take()
    yield out.take()
