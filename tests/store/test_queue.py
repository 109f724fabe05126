"""Outgoing work is asked for in the transaction of what it belongs to."""

from typing import Any

from sqlalchemy import func, literal, select, text
from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.services.context import Context


async def jobs(context: Context) -> int:
    async with context.engine.connect() as conn:
        query = text("select count(*) from procrastinate_jobs")
        found: int = (await conn.execute(query)).scalar_one()
        return found


async def _backend(conn: AsyncConnection) -> tuple[int, int]:
    """The server process and the transaction that a connection is in."""
    row = (await conn.execute(text("select pg_backend_pid(), txid_current()"))).one()
    return row[0], row[1]


def asked(context: Context) -> Any:
    arguments = func.jsonb_build_object(literal("sealed"), literal("x"))
    return context.queue.asking("send_letter", arguments)


async def test_a_job_goes_with_its_transaction(context: Context) -> None:
    async with context.engine.connect() as conn:
        await conn.execute(select(asked(context)))
        seen_inside = await conn.execute(text("select xmin::text::bigint from procrastinate_jobs"))
        assert seen_inside.scalar_one() == (await _backend(conn))[1]
        assert await jobs(context) == 0
        await conn.rollback()
    assert await jobs(context) == 0
    async with context.engine.begin() as conn:
        await conn.execute(select(asked(context)))
    assert await jobs(context) == 1
