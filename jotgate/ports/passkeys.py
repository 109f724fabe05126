"""Passkeys (W3C Web Authentication, level 3)."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol
from uuid import UUID


class PasskeyRefused(Exception):
    """What a browser sent does not hold."""


@dataclass(frozen=True)
class NewPasskey:
    id: bytes
    public_key: bytes
    count: int


class Passkeys(Protocol):
    """Options and credentials are JSON as browsers take and give it
    (https://www.w3.org/TR/webauthn-3/#sctn-parseCreationOptionsFromJSON)."""

    def possible(self) -> bool:
        """Whether our address is one that browsers keep passkeys for: a domain, over HTTPS."""

    def creation(
        self, challenge: bytes, account_id: UUID, email: str, name: str, has: Sequence[bytes]
    ) -> str:
        """Options for making a passkey; none is made where one of `has` lies already."""

    def created(self, challenge: bytes, credential: str) -> NewPasskey:
        """Raises PasskeyRefused."""

    def request(self, challenge: bytes) -> str:
        """Options for signing in with any passkey of ours."""

    def owner(self, credential: str) -> bytes:
        """The id of the passkey that was used, not checked yet. Raises PasskeyRefused."""

    def used(self, challenge: bytes, credential: str, public_key: bytes, count: int) -> int:
        """How often the passkey says it was used. Raises PasskeyRefused."""
