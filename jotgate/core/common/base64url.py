"""Bytes as they stand in addresses (RFC 4648, section 5, without padding)."""

from base64 import urlsafe_b64decode, urlsafe_b64encode


def written(found: bytes) -> str:
    return urlsafe_b64encode(found).decode("ascii").rstrip("=")


def read(text: str) -> bytes:
    """What `written` wrote as `text`; no other text is read as the same bytes (RFC 4648, section
    3.5: bits left over at the end are zero). Raises ValueError."""
    found = urlsafe_b64decode(f"{text}{'=' * (-len(text) % 4)}")
    if written(found) != text:
        raise ValueError("This is not base64url.")
    return found
