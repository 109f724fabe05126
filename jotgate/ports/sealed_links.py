"""Links that another program makes with a key of ours: signed and encrypted (JOSE)."""

from datetime import datetime
from typing import Any, Protocol


class LinkBroken(Exception):
    """What a link carries is not ours, was changed, or is over (`expired`)."""

    def __init__(self, expired: bool = False) -> None:
        super().__init__("expired" if expired else "broken")
        self.expired = expired


class SealedLinks(Protocol):
    def secret(self) -> bytes:
        """A new secret for signing and encrypting."""

    def make(self, secret: bytes, key_id: str, claims: dict[str, Any]) -> str:
        """`claims` (RFC 7519) signed, then encrypted, in letters that an address can have."""

    def key_id(self, token: str) -> str:
        """The key that a token says it was made with, not checked yet. Raises LinkBroken."""

    def read(self, token: str, secret: bytes, audience: str, now: datetime) -> dict[str, Any]:
        """What `make` was given, where it was meant for `audience`. Raises LinkBroken."""
