"""The identity providers that visitors sign in at, with their secrets."""

from datetime import timedelta
from uuid import UUID

from jotgate.core.records.identity_providers import KeptProvider
from jotgate.ports.identity import Known, Provider
from jotgate.services.code_flow import CodeFlow
from jotgate.services.context import Context

FLOW = CodeFlow("visitor's sign-in", "/sign-in/back", timedelta(minutes=15))
"""Every provider sends visitors back to the same address."""


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
