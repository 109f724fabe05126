"""Data keys in a database of their own, each encrypted with the installation's key."""

import asyncio
import secrets
from collections import deque
from collections.abc import AsyncIterator, Collection
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass, field
from uuid import UUID, uuid4

import psycopg
from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from psycopg import AsyncConnection, sql
from psycopg_pool import AsyncConnectionPool, PoolTimeout

from jotgate.core.common.errors import Sealed, Unavailable
from jotgate.ports.secrets import Cipher
from jotgate.settings import for_libpq

AHEAD = 200
"""Keys that one process makes at once, ahead of those who need one."""

REWRAPPED_AT_ONCE = 1_000

WAIT, IDLE = 5.0, 60.0
"""Seconds to wait for a connection, and for which one is kept that nobody uses."""

_NONCE, _BYTES = 12, 32
"""Bytes of a nonce and of a key of AES-256 in Galois counter mode (NIST SP 800-38D)."""

_SCHEMA = """
create table if not exists data_keys (
  id uuid primary key,
  wrapped bytea not null,
  wrapped_by bytea not null
)
"""
"""`wrapped_by` tells the installation's keys apart, and nothing of them."""


def prepare(url: str, role: str) -> None:
    """Make the table, as the role that it is to belong to, and let `role` work on it."""
    with psycopg.connect(for_libpq(url)) as conn:
        conn.execute(_SCHEMA)
        if role and role != conn.info.user:
            text = sql.SQL("grant select, insert, update, delete on data_keys to {}")
            conn.execute(text.format(sql.Identifier(role)))


@dataclass(frozen=True)
class AesKey:
    """AES-256 in Galois counter mode, with the purpose as what is authenticated beside it."""

    id: UUID
    secret: bytes = field(repr=False)

    def seal(self, plain: bytes, purpose: str) -> bytes:
        nonce = secrets.token_bytes(_NONCE)
        return nonce + AESGCM(self.secret).encrypt(nonce, plain, purpose.encode())

    def open(self, sealed: bytes, purpose: str) -> bytes:
        nonce, content = sealed[:_NONCE], sealed[_NONCE:]
        try:
            return AESGCM(self.secret).decrypt(nonce, content, purpose.encode())
        except (InvalidTag, ValueError):
            raise Sealed("What is stored here was sealed for another place.") from None


class DatabaseKeys:
    """Keys in the database at `url`, encrypted with `cipher`, `ahead` of them made at once."""

    def __init__(self, url: str, cipher: Cipher, ahead: int = AHEAD) -> None:
        self._url = for_libpq(url)
        self._pool: AsyncConnectionPool | None = None
        self._cipher = cipher
        self._ahead = ahead
        self._free: deque[AesKey] = deque()
        self._making: asyncio.Task[None] | None = None
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
            raise Unavailable("The store of keys does not answer. Try again shortly.") from None

    async def take(self) -> AesKey:
        while not self._free:
            await asyncio.shield(self._more())
        found = self._free.popleft()
        if len(self._free) < self._ahead // 2:
            self._more().add_done_callback(_looked_at)
        return found

    def _more(self) -> "asyncio.Task[None]":
        """Keys are being made; whoever waits for it gets what goes wrong."""
        if self._making is None or self._making.done():
            self._making = asyncio.create_task(self._make())
        return self._making

    async def _make(self) -> None:
        made = [AesKey(uuid4(), secrets.token_bytes(_BYTES)) for _ in range(self._ahead)]
        by = self._name()
        async with self._transaction() as conn, conn.cursor() as cursor:
            text = "insert into data_keys (id, wrapped, wrapped_by) values (%s, %s, %s)"
            await cursor.executemany(text, [(key.id, self._wrap(key), by) for key in made])
        self._free.extend(made)

    def _name(self) -> bytes:
        """Of the key that encrypts now."""
        return self._cipher.mark(b"data keys")[:8]

    def _wrap(self, key: AesKey) -> bytes:
        return self._cipher.seal(key.secret, _purpose(key.id))

    def _unwrap(self, id: UUID, wrapped: bytes) -> AesKey:
        return AesKey(id, self._cipher.open(wrapped, _purpose(id)))

    async def find(self, ids: Collection[UUID]) -> dict[UUID, AesKey]:
        if not ids:
            return {}
        async with self._transaction() as conn:
            text = "select id, wrapped from data_keys where id = any(%s)"
            found = await (await conn.execute(text, [list(ids)])).fetchall()
        return {id: self._unwrap(id, wrapped) for id, wrapped in found}

    async def destroy(self, ids: Collection[UUID]) -> None:
        async with self._transaction() as conn:
            await conn.execute("delete from data_keys where id = any(%s)", [list(ids)])

    async def rewrap(self) -> int:
        count, some = 0, -1
        while some:
            async with self._transaction() as conn:
                some = await self._rewrap_some(conn)
            count += max(some, 0)
        return count

    async def _rewrap_some(self, conn: AsyncConnection) -> int:
        by = self._name()
        text = "select id, wrapped from data_keys where wrapped_by <> %s limit %s for update"
        found = await (await conn.execute(text, [by, REWRAPPED_AT_ONCE])).fetchall()
        anew = [(self._wrap(self._unwrap(id, old)), by, id) for id, old in found]
        async with conn.cursor() as cursor:
            text = "update data_keys set wrapped = %s, wrapped_by = %s where id = %s"
            await cursor.executemany(text, anew)
        return len(anew)

    async def close(self) -> None:
        if self._making is not None:
            await asyncio.wait([self._making])
        left = [key.id for key in self._free]
        self._free.clear()
        with suppress(Unavailable):
            if left:
                await self.destroy(left)
        if self._pool is not None:
            await self._pool.close()


def _looked_at(task: "asyncio.Task[None]") -> None:
    """Keys that cannot be made ahead are made when one is needed; what is wrong is told then."""
    if not task.cancelled():
        task.exception()


def _purpose(id: UUID) -> str:
    return f"data key {id}"
