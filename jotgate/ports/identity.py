"""An identity provider (OpenID Connect Core 1.0)."""

from dataclasses import dataclass
from datetime import datetime
from typing import Protocol


class IdentityRefused(Exception):
    """What the provider said does not hold; the message is for the log, not for people."""


class ProviderAway(Exception):
    """The provider does not answer."""


@dataclass(frozen=True)
class Identity:
    """Who the provider says somebody is. `subject` is unique over all providers; the address is
    empty where the provider has not verified it."""

    subject: str
    email: str


class Provider(Protocol):
    @property
    def name(self) -> str:
        """What people call it."""

    async def address(self, state: str, nonce: str, verifier: str, back: str) -> str:
        """Where to send a browser, which comes `back` with a code (RFC 6749, 4.1; PKCE, RFC
        7636). Raises ProviderAway."""

    async def identity(
        self, code: str, nonce: str, verifier: str, back: str, now: datetime
    ) -> Identity:
        """Who came back with `code`. Raises IdentityRefused, ProviderAway."""
