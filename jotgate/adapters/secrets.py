"""Fernet with rotating keys, and Argon2."""

import asyncio
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor

from cryptography.fernet import Fernet, InvalidToken, MultiFernet
from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

from jotgate.core.common.errors import Sealed


class FernetCipher:
    """Seals with the first of `keys`, opens with any, so that keys can be rotated."""

    def __init__(self, keys: Sequence[str]) -> None:
        self._fernet = MultiFernet([Fernet(key) for key in keys])

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


AT_ONCE = 2
"""Passwords hashed at the same time; each takes 64 MiB, and a processor, for a while."""


class Argon2Passwords:
    """Hashes in threads of its own: Argon2 lets go of the interpreter's lock meanwhile."""

    def __init__(self) -> None:
        self._hash = PasswordHash((Argon2Hasher(),))
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
