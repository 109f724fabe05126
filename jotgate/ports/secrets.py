"""Keeping secrets: encryption of restricted answers, and passwords."""

from datetime import datetime
from typing import Protocol


class Cipher(Protocol):
    def seal(self, plain: bytes, purpose: str) -> bytes:
        """Encrypt and authenticate; `purpose` binds the result to where it belongs."""

    def open(self, sealed: bytes, purpose: str) -> bytes:
        """What `seal` was given for the same purpose. Raises Sealed."""

    def mark(self, data: bytes) -> bytes:
        """What only we can make of `data` (a message authentication code)."""

    def marks(self, data: bytes) -> list[bytes]:
        """The marks of `data` by each of our keys, that of the newest first."""

    def is_mark(self, data: bytes, mark: bytes) -> bool:
        """Whether one of our keys made `mark` of `data`."""


class Passwords(Protocol):
    async def hash(self, password: str) -> str: ...

    async def matches(self, password: str, hashed: str | None) -> bool:
        """Whether they belong together; takes as long when there is no hash."""


class Codes(Protocol):
    """One-time codes that an app shows (RFC 6238)."""

    def secret(self) -> bytes:
        """A new secret, shared by us and the app."""

    def step(self, secret: bytes, code: str, now: datetime) -> int | None:
        """The step of time that `code` belongs to, of those close to `now`; None where it is
        wrong."""

    def address(self, secret: bytes, account: str, issuer: str) -> str:
        """What the app reads (otpauth:)."""
