"""New names for new things."""

from typing import Protocol
from uuid import UUID


class Ids(Protocol):
    def id(self) -> UUID:
        """An id that nothing else has."""

    def token(self) -> str:
        """A secret of at least 256 bits, safe in URLs and cookies."""

    def secret(self) -> str:
        """A secret of 128 bits for an address that people pass on, in 22 characters."""

    def address(self) -> str:
        """A short public address in letters and digits that are hard to confuse."""
