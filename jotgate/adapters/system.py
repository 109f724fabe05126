"""Time and ids from the operating system."""

import secrets
from datetime import UTC, datetime
from uuid import UUID, uuid4

ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"
"""Letters and digits without 0 and o, 1, i and l."""


class SystemClock:
    def now(self) -> datetime:
        return datetime.now(UTC)


class SystemIds:
    def id(self) -> UUID:
        return uuid4()

    def token(self) -> str:
        return secrets.token_urlsafe(32)

    def secret(self) -> str:
        return secrets.token_urlsafe(16)

    def address(self) -> str:
        return "".join(secrets.choice(ALPHABET) for _ in range(6))
