"""Background work that starts only if the transaction it was asked in is committed."""

from typing import Literal, Protocol

from sqlalchemy.ext.asyncio import AsyncConnection

Task = Literal["dispatch_entry", "send_notice"]


class Queue(Protocol):
    async def defer(self, conn: AsyncConnection, task: Task, **arguments: str) -> None:
        """Ask for `task` on the connection's own transaction; it is done at least once."""
