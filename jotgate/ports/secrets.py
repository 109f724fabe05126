"""Keeping secrets: encryption of restricted answers, and passwords."""

from typing import Protocol


class Unreadable(Exception):
    """Sealed bytes that none of our keys opens, or that were sealed for another purpose."""


class Cipher(Protocol):
    def seal(self, plain: bytes, purpose: str) -> bytes:
        """Encrypt and authenticate; `purpose` binds the result to where it belongs."""

    def open(self, sealed: bytes, purpose: str) -> bytes:
        """What `seal` was given for the same purpose. Raises Unreadable."""


class Passwords(Protocol):
    def hash(self, password: str) -> str: ...

    def matches(self, password: str, hashed: str | None) -> bool:
        """Whether they belong together; takes as long when there is no hash."""
