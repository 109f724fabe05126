"""Wrapped data keys in a database of their own."""

import asyncio
from collections.abc import AsyncIterator, Collection
from contextlib import asynccontextmanager
from uuid import UUID

import psycopg
from psycopg import AsyncConnection, sql
from psycopg_pool import AsyncConnectionPool, PoolTimeout

from jotgate.adapters.data_keys import AWAY, WrappedKey
from jotgate.core.common.errors import Unavailable
from jotgate.settings import for_libpq

WAIT, IDLE = 5.0, 60.0
"""Seconds to wait for a connection, and for which one is kept that nobody uses."""

_SCHEMA = """
create table if not exists data_keys (
  id uuid primary key,
  wrapped bytea not null,
  wrapped_by bytea not null
)
"""


def prepare(url: str, role: str) -> None:
    """Make the table, as the role that it is to belong to, and let `role` work on it."""
    with psycopg.connect(for_libpq(url)) as conn:
        conn.execute(_SCHEMA)
        if role and role != conn.info.user:
            text = sql.SQL("grant select, insert, update, delete on data_keys to {}")
            conn.execute(text.format(sql.Identifier(role)))


class KeyDatabase:
    """The database at `url`."""

    def __init__(self, url: str) -> None:
        self._url = for_libpq(url)
        self._pool: AsyncConnectionPool | None = None
        self._opening = asyncio.Lock()

    async def _opened(self) -> AsyncConnectionPool:
        async with self._opening:
            if self._pool is None:
                pool = AsyncConnectionPool(
                    self._url, open=False, min_size=0, max_size=4, timeout=WAIT, max_idle=IDLE
                )
                await pool.open()
                self._pool = pool
        return self._pool

    @asynccontextmanager
    async def _transaction(self) -> AsyncIterator[AsyncConnection]:
        pool = await self._opened()
        try:
            async with pool.connection() as conn:
                yield conn
        except (psycopg.OperationalError, PoolTimeout):
            raise Unavailable(AWAY) from None

    async def add(self, keys: Collection[WrappedKey]) -> None:
        async with self._transaction() as conn, conn.cursor() as cursor:
            text = "insert into data_keys (id, wrapped, wrapped_by) values (%s, %s, %s)"
            await cursor.executemany(text, [(one.id, one.wrapped, one.wrapped_by) for one in keys])

    async def find(self, ids: Collection[UUID]) -> list[WrappedKey]:
        async with self._transaction() as conn:
            text = "select id, wrapped, wrapped_by from data_keys where id = any(%s)"
            found = await (await conn.execute(text, [list(ids)])).fetchall()
        return [WrappedKey(*one) for one in found]

    async def destroy(self, ids: Collection[UUID]) -> None:
        async with self._transaction() as conn:
            await conn.execute("delete from data_keys where id = any(%s)", [list(ids)])

    async def not_wrapped_by(self, mark: bytes, limit: int) -> list[WrappedKey]:
        async with self._transaction() as conn:
            text = "select id, wrapped, wrapped_by from data_keys where wrapped_by <> %s limit %s"
            found = await (await conn.execute(text, [mark, limit])).fetchall()
        return [WrappedKey(*one) for one in found]

    async def replace(self, keys: Collection[WrappedKey]) -> None:
        async with self._transaction() as conn, conn.cursor() as cursor:
            text = "update data_keys set wrapped = %s, wrapped_by = %s where id = %s"
            await cursor.executemany(text, [(one.wrapped, one.wrapped_by, one.id) for one in keys])

    async def close(self) -> None:
        if self._pool is not None:
            await self._pool.close()
