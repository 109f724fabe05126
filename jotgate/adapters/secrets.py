"""Fernet with rotating keys, one-time codes, and Argon2."""

import asyncio
import base64
import hmac
import secrets
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime

from cryptography.fernet import Fernet, InvalidToken, MultiFernet
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from cryptography.hazmat.primitives.twofactor.totp import TOTP
from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

from jotgate.core.common.errors import Sealed


class FernetCipher:
    """Seals with the first of `keys`, opens with any, so that keys can be rotated."""

    def __init__(self, keys: Sequence[str]) -> None:
        self._fernet = MultiFernet([Fernet(key) for key in keys])
        self._marking = [_derived(key) for key in keys]

    def seal(self, plain: bytes, purpose: str) -> bytes:
        return self._fernet.encrypt(purpose.encode() + b"\0" + plain)

    def open(self, sealed: bytes, purpose: str) -> bytes:
        try:
            found, _, plain = self._fernet.decrypt(sealed).partition(b"\0")
        except InvalidToken:
            raise Sealed("None of our keys opens what is stored here.") from None
        if found != purpose.encode():
            raise Sealed("What is stored here was sealed for another place.")
        return plain

    def mark(self, data: bytes) -> bytes:
        return hmac.digest(self._marking[0], data, "sha256")

    def marks(self, data: bytes) -> list[bytes]:
        return [hmac.digest(key, data, "sha256") for key in self._marking]

    def is_mark(self, data: bytes, mark: bytes) -> bool:
        return any(hmac.compare_digest(one, mark) for one in self.marks(data))


def _derived(key: str) -> bytes:
    """A key for marks, from one for sealing, which tells nothing of it (HKDF, RFC 5869)."""
    derived = HKDF(hashes.SHA256(), 32, None, b"jotgate marks")
    return derived.derive(base64.urlsafe_b64decode(key))


STEP = 30
"""Seconds that a one-time code is shown for (RFC 6238, 5.2)."""


class TotpCodes:
    """Six digits every thirty seconds, by SHA-1, as every app for them knows (RFC 6238)."""

    def secret(self) -> bytes:
        return secrets.token_bytes(20)

    def code(self, secret: bytes, step: int) -> str:
        return _totp(secret).generate(step * STEP).decode()

    def step(self, secret: bytes, code: str, now: datetime) -> int | None:
        current = int(now.timestamp()) // STEP
        for step in (current, current - 1, current + 1):
            if hmac.compare_digest(self.code(secret, step).encode(), code.encode()):
                return step
        return None

    def address(self, secret: bytes, account: str, issuer: str) -> str:
        return _totp(secret).get_provisioning_uri(account, issuer)


def _totp(secret: bytes) -> TOTP:
    return TOTP(secret, 6, hashes.SHA1(), STEP)  # noqa: S303 - what the apps know


AT_ONCE = 2
"""Passwords hashed at the same time; each takes 64 MiB, and a processor, for a while."""


class Argon2Passwords:
    """Hashes in threads of its own: Argon2 lets go of the interpreter's lock meanwhile. Another
    `hasher` than that of its library may cost less, for tests."""

    def __init__(self, hasher: Argon2Hasher | None = None) -> None:
        self._hash = PasswordHash((hasher or Argon2Hasher(),))
        self._nobody = self._hash.hash("nobody has this password")
        self._threads = ThreadPoolExecutor(AT_ONCE, "passwords")

    async def hash(self, password: str) -> str:
        loop = asyncio.get_running_loop()
        return await loop.run_in_executor(self._threads, self._hash.hash, password)

    async def matches(self, password: str, hashed: str | None) -> bool:
        loop = asyncio.get_running_loop()
        known = await loop.run_in_executor(
            self._threads, self._hash.verify, password, hashed or self._nobody
        )
        return known and hashed is not None
