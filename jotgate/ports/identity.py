"""Identity providers (OpenID Connect Core 1.0)."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal, Protocol


class IdentityRefused(Exception):
    """What the provider said does not hold; the message is for the log, not for people."""


class ProviderAway(Exception):
    """The provider does not answer."""


@dataclass(frozen=True)
class Identity:
    """Who the provider says somebody is. `subject` is unique over all providers; the address is
    empty where the provider has not verified it. `claims` is all that it says."""

    subject: str
    email: str
    claims: Mapping[str, Any]


Step = Literal["reached", "issuer", "flow", "keys", "client", "clock"]
"""What is looked at of a provider, in this order: that it is reached, that it is who it says, what
it offers, its keys, that it knows us, its clock."""


@dataclass(frozen=True)
class Looked:
    """What was found at one step; what fails says what to do."""

    step: Step
    good: bool
    message: str


@dataclass(frozen=True)
class Known:
    """A provider as it is set up: by which name, where, and as whom it knows us. `scopes` are asked
    for beside `openid`."""

    name: str
    issuer: str
    client_id: str
    client_secret: str
    scopes: tuple[str, ...] = ("email", "profile")


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

    async def looked_at(self, back: str, now: datetime) -> tuple[list[Looked], list[str]]:
        """What is good and what is not about how it is set up, up to the first step that fails; and
        the claims that it says it has."""


class Providers(Protocol):
    def provider(self, known: Known) -> Provider:
        """The provider that is set up so."""
