"""Data keys, each encrypted with the installation's key and kept where answers are not."""

import asyncio
import secrets
from collections import deque
from collections.abc import Collection, Iterable
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Protocol
from uuid import UUID, uuid4

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM

from jotgate.core.common.errors import Sealed, Unavailable
from jotgate.ports.secrets import Cipher

AHEAD = 200
"""Keys that one process makes at once, ahead of those who need one."""

REWRAPPED_AT_ONCE = 1_000

AWAY = "The store of keys does not answer. Try again shortly."

_NONCE, _BYTES = 12, 32
"""Bytes of a nonce and of a key of AES-256 in Galois counter mode (NIST SP 800-38D)."""


@dataclass(frozen=True)
class WrappedKey:
    """A data key encrypted with a key of the installation; `wrapped_by` tells those apart, and
    nothing of them."""

    id: UUID
    wrapped: bytes
    wrapped_by: bytes


class KeyStore(Protocol):
    """Where wrapped keys are. Each raises Unavailable where it is away."""

    async def add(self, keys: Collection[WrappedKey]) -> None: ...

    async def find(self, ids: Collection[UUID]) -> Iterable[WrappedKey]: ...

    async def destroy(self, ids: Collection[UUID]) -> None: ...

    async def not_wrapped_by(self, mark: bytes, limit: int) -> Collection[WrappedKey]: ...

    async def replace(self, keys: Collection[WrappedKey]) -> None:
        """Those that are there still; what was destroyed does not come back."""

    async def close(self) -> None: ...


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


MOVED_AT_ONCE = 500


async def move(source: KeyStore, target: KeyStore) -> int:
    """Move all keys from one store to another; how many. At each moment a key is in one of them, or
    in both: what was interrupted is carried on."""
    count = 0
    while some := await source.not_wrapped_by(b"", MOVED_AT_ONCE):
        ids = [one.id for one in some]
        there = {one.id for one in await target.find(ids)}
        new = [one for one in some if one.id not in there]
        if new:
            await target.add(new)
        await source.destroy(ids)
        count += len(some)
    return count


class EnvelopeKeys:
    """Keys in a store, encrypted with `cipher`, `ahead` of them made at once."""

    def __init__(self, store: KeyStore, cipher: Cipher, ahead: int = AHEAD) -> None:
        self._store = store
        self._cipher = cipher
        self._ahead = ahead
        self._free: deque[AesKey] = deque()
        self._making: asyncio.Task[None] | None = None

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
        await self._store.add([self._wrap(key) for key in made])
        self._free.extend(made)

    def _mark(self) -> bytes:
        """Of the key that encrypts now."""
        return self._cipher.mark(b"data keys")[:8]

    def _wrap(self, key: AesKey) -> WrappedKey:
        return WrappedKey(key.id, self._cipher.seal(key.secret, _purpose(key.id)), self._mark())

    def _unwrap(self, key: WrappedKey) -> AesKey:
        return AesKey(key.id, self._cipher.open(key.wrapped, _purpose(key.id)))

    async def find(self, ids: Collection[UUID]) -> dict[UUID, AesKey]:
        if not ids:
            return {}
        return {one.id: self._unwrap(one) for one in await self._store.find(ids)}

    async def destroy(self, ids: Collection[UUID]) -> None:
        await self._store.destroy(ids)

    async def rewrap(self) -> int:
        count = 0
        while some := await self._store.not_wrapped_by(self._mark(), REWRAPPED_AT_ONCE):
            await self._store.replace([self._wrap(self._unwrap(one)) for one in some])
            count += len(some)
        return count

    async def close(self) -> None:
        if self._making is not None:
            await asyncio.wait([self._making])
        left = [key.id for key in self._free]
        self._free.clear()
        with suppress(Unavailable):
            if left:
                await self._store.destroy(left)
        await self._store.close()


def _looked_at(task: "asyncio.Task[None]") -> None:
    """Keys that cannot be made ahead are made when one is needed; what is wrong is told then."""
    if not task.cancelled():
        task.exception()


def _purpose(id: UUID) -> str:
    return f"data key {id}"
