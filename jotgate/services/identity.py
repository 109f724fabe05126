"""The identity providers that visitors sign in at, with their secrets."""

from uuid import UUID

from jotgate.core.records.identity_providers import KeptProvider
from jotgate.ports.identity import Known, Provider
from jotgate.services.context import Context

BACK = "/sign-in/back"
"""Where every provider sends visitors back to."""


def back_address(context: Context) -> str:
    return f"{context.public_url}{BACK}"


def _purpose(id: UUID) -> str:
    return f"identity provider {id}"


def seal_secret(context: Context, id: UUID, secret: str) -> bytes:
    return context.cipher.seal(secret.encode(), _purpose(id))


def opened(context: Context, kept: KeptProvider) -> Provider:
    """A provider, ready to be asked. Raises Sealed."""
    secret = context.cipher.open(kept.sealed, _purpose(kept.id)).decode()
    found = kept.settings
    known = Known(found.name, found.issuer, found.client_id, secret, found.scopes)
    return context.providers.provider(known)
