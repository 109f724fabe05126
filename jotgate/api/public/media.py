"""What pages show of one's own: pictures, videos and captions, also in parts (RFC 9110, 14)."""

import re
from collections.abc import AsyncIterator
from uuid import UUID

from fastapi import Header, Response
from fastapi.responses import StreamingResponse

from jotgate.api.dependencies import CurrentContext
from jotgate.api.routes import routes
from jotgate.core.records.files import Medium
from jotgate.services.context import Context
from jotgate.services.public import media

router = routes("", "answering")

_RANGE = re.compile(r"bytes=(\d*)-(\d*)")

FOR_EVER = "public, max-age=31536000, immutable"

PIECE = 256 * 1024
"""Bytes that are held at once while a file is sent."""


def span(header: str, size: int) -> tuple[int, int] | None:
    """The one range that is asked for as (first, last) byte; None for all of it.

    Raises ValueError where it lies outside.
    """
    found = _RANGE.fullmatch(header.strip())
    if found is None or found[0] == "bytes=-":
        return None
    if not found[1]:
        first, last = max(size - int(found[2]), 0), size - 1
    else:
        first, last = int(found[1]), min(int(found[2] or size - 1), size - 1)
    if first > last:
        raise ValueError(header)
    return first, last


async def _pieces(
    context: Context, found: Medium, begun: bytes, first: int, last: int
) -> AsyncIterator[bytes]:
    yield begun
    for start in range(first + PIECE, last + 1, PIECE):
        yield await media.part(context, found, start, min(PIECE, last - start + 1))


@router.get("/media/{media_id}", response_class=Response)
async def medium(
    media_id: UUID, context: CurrentContext, wanted: str = Header("", alias="Range", max_length=200)
) -> Response:
    found = await media.find(context, media_id)
    headers = {"Accept-Ranges": "bytes", "Cache-Control": FOR_EVER}
    try:
        asked = span(wanted, found.size)
    except ValueError:
        return Response(status_code=416, headers={"Content-Range": f"bytes */{found.size}"})
    first, last = asked or (0, found.size - 1)
    length = last - first + 1
    # The first piece before the answer begins, so that a file that is gone is said to be.
    begun = await media.part(context, found, first, min(PIECE, length))
    headers["Content-Length"] = str(length)
    if asked:
        headers["Content-Range"] = f"bytes {first}-{last}/{found.size}"
    pieces = _pieces(context, found, begun, first, last)
    return StreamingResponse(pieces, 206 if asked else 200, headers, media_type=found.type)
