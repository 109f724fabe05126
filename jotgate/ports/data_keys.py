"""Data keys: each encrypts one thing, and is kept apart from it (envelope encryption)."""

from collections.abc import Collection, Mapping
from typing import Protocol
from uuid import UUID


class DataKey(Protocol):
    @property
    def id(self) -> UUID: ...

    def seal(self, plain: bytes, purpose: str) -> bytes:
        """Encrypt and authenticate; `purpose` binds the result to where it belongs."""

    def open(self, sealed: bytes, purpose: str) -> bytes:
        """What `seal` was given for the same purpose. Raises Sealed."""


class DataKeys(Protocol):
    """Raises Unavailable where they are kept is away."""

    async def take(self) -> DataKey:
        """One that nothing was encrypted with; some are made ahead, and kept before they are
        used."""

    async def find(self, ids: Collection[UUID]) -> Mapping[UUID, DataKey]:
        """Those of `ids` that were not destroyed."""

    async def destroy(self, ids: Collection[UUID]) -> None:
        """What these encrypted can be read by nobody any more, in whatever copy of it."""

    async def rewrap(self) -> int:
        """Encrypt them with the newest key of the installation, where they are not; how many."""

    async def close(self) -> None:
        """Those that were made ahead and not taken are destroyed."""
