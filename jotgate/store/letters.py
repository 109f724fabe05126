"""Letters that wait to be sent, sealed, in the queue."""

from sqlalchemy import func, literal, select

from jotgate.ports.queue import Queue
from jotgate.store.base import Connection


async def ask(conn: Connection, sealed: str, queue: Queue) -> None:
    """Ask for a sealed letter to be sent, once this transaction is committed."""
    named = func.jsonb_build_object(literal("sealed"), literal(sealed))
    await conn.execute(select(queue.asking("send_letter", named)))


async def ask_reset(conn: Connection, sealed: str, queue: Queue) -> None:
    """Ask for somebody to be written to who wants a new password, if there is such a person."""
    named = func.jsonb_build_object(literal("sealed"), literal(sealed))
    await conn.execute(select(queue.asking("send_reset", named)))
