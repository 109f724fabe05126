"""Mail over SMTP."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass
from email import policy
from email.headerregistry import HeaderRegistry
from email.message import EmailMessage
from email.utils import formatdate, parseaddr
from functools import lru_cache
from typing import Literal

import aiosmtplib

from jotgate.core.formats.delivery_reports import is_no_address
from jotgate.ports.mail import Letter, Mail, MailFailed


@lru_cache(256)
def _address_in(sender: str) -> str:
    return parseaddr(sender)[1]


class _Headers(HeaderRegistry):
    """Most headers of a letter are those of the one before it, and making them anew is what takes
    longest about it."""

    __call__ = lru_cache(256)(HeaderRegistry.__call__)
    __getitem__ = lru_cache(64)(HeaderRegistry.__getitem__)


_POLICY = policy.default.clone(header_factory=_Headers())


@dataclass(frozen=True)
class Server:
    """A mail server, and how we sign in to it; without a `user` we do not."""

    host: str
    port: int
    user: str = ""
    password: str = ""
    tls: Literal["starttls", "implicit", "none"] = "starttls"


class SmtpMail(Mail):
    """Sends through `server`, from `sender` where a letter names none. With `starttls` a
    password goes over TLS or not at all."""

    def __init__(self, server: Server, sender: str, timeout: float = 15) -> None:
        self._server = server
        self._sender = sender
        self._timeout = timeout

    async def send(self, letter: Letter) -> None:
        async with self.connected() as mail:
            await mail.send(letter)

    @asynccontextmanager
    async def connected(self) -> AsyncIterator[Mail]:
        connection = _Connection(self)
        try:
            yield connection
        finally:
            await connection.close()

    def client(self) -> aiosmtplib.SMTP:
        """One that is not connected yet."""
        return aiosmtplib.SMTP(
            hostname=self._server.host,
            port=self._server.port,
            timeout=self._timeout,
            username=self._server.user or None,
            password=self._server.password or None,
            use_tls=self._server.tls == "implicit",
            start_tls=self._starts_tls(),
        )

    def written(self, letter: Letter) -> EmailMessage:
        """Raises ValueError for what no letter can have, such as a subject of several lines."""
        message = EmailMessage(policy=_POLICY)
        sender = letter.sender or self._sender
        message["From"] = sender
        if letter.reply_to:
            message["Reply-To"] = letter.reply_to
        message["To"] = letter.to
        message["Subject"] = letter.subject
        message["Date"] = formatdate(usegmt=True)
        message["Message-ID"] = f"<{letter.id}@{_address_in(sender).rpartition('@')[2]}>"
        if letter.opt_out:
            message["List-Unsubscribe"] = f"<{letter.opt_out}>"
            message["List-Unsubscribe-Post"] = "List-Unsubscribe=One-Click"
        message.set_content(letter.body)
        if letter.html:
            message.make_alternative(boundary=f"={letter.id}=")
            message.add_alternative(letter.html, subtype="html")
        for one in letter.attached:
            message.add_attachment(
                one.data, maintype="application", subtype="pdf", filename=one.name
            )
        return message

    def _starts_tls(self) -> bool | None:
        """Whether to begin TLS by STARTTLS (RFC 3207): always before a password, else where it is
        offered."""
        if self._server.tls != "starttls":
            return False
        return True if self._server.user else None


class _Connection(Mail):
    """Connected from the first letter on, and anew after one that was not taken."""

    def __init__(self, mail: SmtpMail) -> None:
        self._mail = mail
        self._client: aiosmtplib.SMTP | None = None

    async def send(self, letter: Letter) -> None:
        try:
            message = self._mail.written(letter)
            if self._client is None:
                client = self._mail.client()
                await client.connect()
                self._client = client
            sender = letter.bounce or _address_in(message["From"])
            await self._client.send_message(message, sender=sender, recipients=letter.to)
        except (aiosmtplib.SMTPException, OSError, ValueError) as error:
            await self.close()
            told = f"{type(error).__name__}: {error}"
            raise MailFailed(told, _refused_for_good(error, letter), _no_address(error)) from error

    async def close(self) -> None:
        client, self._client = self._client, None
        if client is not None:
            with suppress(aiosmtplib.SMTPException, OSError):
                await client.quit()


def _refused_for_good(error: Exception, letter: Letter) -> bool:
    """Whether trying again is of no use. Of a server that lacks something, only an address that is
    not ASCII is to blame (RFC 6531)."""
    if isinstance(error, ValueError):
        return True
    if isinstance(error, aiosmtplib.SMTPNotSupported):
        return not letter.to.isascii()
    if isinstance(error, aiosmtplib.SMTPRecipientsRefused):
        return all(one.code >= 500 for one in error.recipients)
    if isinstance(error, aiosmtplib.SMTPRecipientRefused | aiosmtplib.SMTPDataError):
        return error.code >= 500
    return False


def _no_address(error: Exception) -> bool:
    """Whether the server said that there is nobody at the address, by an enhanced code (RFC 3463,
    2034); a refusal without one may be meant otherwise."""
    if isinstance(error, aiosmtplib.SMTPRecipientsRefused):
        return all(is_no_address(one.message) for one in error.recipients)
    if isinstance(error, aiosmtplib.SMTPResponseException):
        return is_no_address(error.message)
    return False
