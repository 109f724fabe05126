"""Work that goes on for a while tells how far it is, and ends where somebody wants that."""

from uuid import UUID

from jotgate.services.context import Context
from jotgate.store import work


async def is_stopped(context: Context, id: UUID, looked: int) -> bool:
    """Notes how far it is; whether somebody wants it to end."""
    async with context.single.connect() as conn:
        await work.advance(conn, id, looked, context.clock.now())
        now = await work.find(conn, id)
    return now is None or bool(now.arguments.get("stop"))
