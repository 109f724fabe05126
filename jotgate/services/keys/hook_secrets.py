"""The secrets that calls to other systems are signed with: they lie sealed, each for its own."""

from uuid import UUID

from jotgate.services.context import Context


def _purpose(hook_id: UUID) -> str:
    return f"hook {hook_id}"


def seal_secret(context: Context, hook_id: UUID, secret: bytes) -> bytes:
    return context.cipher.seal(secret, _purpose(hook_id))


def open_secret(context: Context, hook_id: UUID, sealed: bytes) -> bytes:
    return context.cipher.open(sealed, _purpose(hook_id))
