"""Ids of letters as they stand in addresses, each with a mark that only we can make: whoever did
not get the letter has neither."""

from hmac import compare_digest
from uuid import UUID

from jotgate.core.common import base64url
from jotgate.services.context import Context

_ID = 16

_IN_LINKS = 16
"""Bytes of the mark in links, where there is room."""


def marked(context: Context, purpose: bytes, letter_id: UUID, length: int) -> bytes:
    """The id of a letter with `length` bytes of its mark for a purpose."""
    return letter_id.bytes + context.cipher.mark(purpose + letter_id.bytes)[:length]


def letter_of(context: Context, purpose: bytes, told: bytes, length: int) -> UUID | None:
    """The id that `marked` was given, by any of our keys; None for what we did not make."""
    if len(told) != _ID + length:
        return None
    id, mark = UUID(bytes=told[:_ID]), told[_ID:]
    marks = context.cipher.marks(purpose + id.bytes)
    fits = [compare_digest(one[:length], mark) for one in marks]
    return id if any(fits) else None


def token_of(context: Context, purpose: bytes, letter_id: UUID) -> str:
    """The id of a letter with its mark as it stands in links."""
    return base64url.written(marked(context, purpose, letter_id, _IN_LINKS))


def letter_by(context: Context, purpose: bytes, token: str) -> UUID | None:
    """The id that `token_of` was given; None for what we did not make."""
    try:
        told = base64url.read(token)
    except ValueError:
        return None
    return letter_of(context, purpose, told, _IN_LINKS)
