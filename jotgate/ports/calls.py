"""Calling other systems over HTTP."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True)
class Call:
    """A POST of a JSON `body` to `address`. `id` is the same each time it is tried; it is signed
    with each of `secrets` as the Standard Webhooks specification says."""

    id: str
    address: str
    body: bytes
    secrets: Sequence[bytes]


@dataclass(frozen=True)
class Answered:
    """What was answered: the status of HTTP and the beginning of the words."""

    status: int
    words: str


class CallFailed(Exception):
    """It was not taken: why, and what was answered, if anything. Trying again later may help,
    unless it was refused `for_good`."""

    def __init__(
        self, message: str, answered: Answered | None = None, for_good: bool = False
    ) -> None:
        super().__init__(message)
        self.answered = answered
        self.for_good = for_good


class Calls(Protocol):
    def fault_of(self, address: str) -> str:
        """What is wrong with an address as it is written; nothing where it can be called."""

    async def send(self, call: Call) -> Answered:
        """Raises CallFailed."""
