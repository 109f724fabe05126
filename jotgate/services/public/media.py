"""Pictures, videos and captions, as pages show them."""

from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.records.files import Medium
from jotgate.ports.files import Missing
from jotgate.services.context import Context
from jotgate.store import files

GONE = "There is no such picture or video."


async def find(context: Context, id: UUID) -> Medium:
    async with context.engine.connect() as conn:
        found = await files.medium(conn, id)
    if found is None:
        raise NotFound(GONE)
    return found


async def part(context: Context, medium: Medium, start: int, length: int) -> bytes:
    """Bytes of it from `start`. Raises NotFound where they are gone."""
    try:
        return await context.files.get(f"media/{medium.id}", start, length)
    except Missing:
        raise NotFound(GONE) from None
