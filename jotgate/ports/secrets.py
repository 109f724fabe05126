"""Keeping secrets: encryption of restricted answers, and passwords."""

from typing import Protocol


class Cipher(Protocol):
    def seal(self, plain: bytes, purpose: str) -> bytes:
        """Encrypt and authenticate; `purpose` binds the result to where it belongs."""

    def open(self, sealed: bytes, purpose: str) -> bytes:
        """What `seal` was given for the same purpose. Raises Sealed."""


class Passwords(Protocol):
    async def hash(self, password: str) -> str: ...

    async def matches(self, password: str, hashed: str | None) -> bool:
        """Whether they belong together; takes as long when there is no hash."""
