"""Fernet with rotating keys, and Argon2."""

from collections.abc import Sequence

from cryptography.fernet import Fernet, InvalidToken, MultiFernet
from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

from jotgate.ports.secrets import Unreadable


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
            raise Unreadable("none of the keys opens this") from None
        if found != purpose.encode():
            raise Unreadable("this was sealed for another place")
        return plain


class Argon2Passwords:
    def __init__(self) -> None:
        self._hash = PasswordHash((Argon2Hasher(),))
        self._nobody = self._hash.hash("nobody has this password")

    def hash(self, password: str) -> str:
        return self._hash.hash(password)

    def matches(self, password: str, hashed: str | None) -> bool:
        known = self._hash.verify(password, hashed or self._nobody)
        return known and hashed is not None
