"""Sending mail, and reading what the simulated mail room has received."""

from collections.abc import Sequence
from contextlib import AbstractAsyncContextManager, nullcontext
from dataclasses import dataclass
from datetime import datetime
from typing import Literal, Protocol


@dataclass(frozen=True)
class Attached:
    """A PDF that goes along with a letter, under a file name of ASCII."""

    name: str
    data: bytes


@dataclass(frozen=True)
class Letter:
    """A mail in plain text, and in `html` beside it where that is given. `id` makes sending it
    again recognisable as the same letter; without a `sender` (RFC 5322, name and address) the
    installation's own is taken. `opt_out` is the address by which whoever gets it says no to more
    of them (RFC 8058), `bounce` where reports about it go (the reverse-path of RFC 5321), to the
    sender where it is empty."""

    id: str
    to: str
    subject: str
    body: str
    sender: str = ""
    reply_to: str = ""
    opt_out: str = ""
    html: str = ""
    bounce: str = ""
    attached: tuple[Attached, ...] = ()


@dataclass(frozen=True)
class Received:
    """A mail that lies in the mail room. `id` names it there."""

    id: str
    at: datetime
    sender: str
    to: str
    subject: str
    body: str


class MailFailed(Exception):
    """The mail server did not take the letter; trying again later may help, unless it refused it
    `for_good` (RFC 5321, 4.2.1: a reply of 5yz). `no_address` is that there is nobody at the
    address (RFC 3463)."""

    def __init__(self, message: str, for_good: bool = False, no_address: bool = False) -> None:
        super().__init__(message)
        self.for_good = for_good
        self.no_address = no_address


class Mail(Protocol):
    async def send(self, letter: Letter) -> None:
        """Hand over to the mail server. Raises MailFailed."""

    def connected(self) -> "AbstractAsyncContextManager[Mail]":
        """For several letters in a row, over one connection where there are any."""
        return nullcontext(self)


MailDoes = Literal["refuse", "no_address", "full", "delay", "complain"]
"""What a mail system does with a letter: it does not take it at all; or it does, and reports that
there is nobody at the address, that the mailbox is full, or that the letter is delayed; or its
reader complains of it."""


@dataclass(frozen=True)
class MailRule:
    """What happens to letters to an address, or to everybody at a domain, such as
    `@example.net`."""

    to: str
    does: MailDoes


class MailRoom(Protocol):
    async def newest(self, limit: int) -> list[Received]:
        """What has arrived, the newest first."""

    async def rules(self) -> list[MailRule]:
        """What it was told to do."""

    async def put_rules(self, rules: Sequence[MailRule]) -> None:
        """Tell it what to do from now on."""
