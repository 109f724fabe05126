"""Mail over SMTP."""

from dataclasses import dataclass
from email.message import EmailMessage
from email.utils import formatdate, parseaddr
from typing import Literal

import aiosmtplib

from jotgate.core.formats.delivery_reports import is_no_address
from jotgate.ports.mail import Letter, MailFailed


@dataclass(frozen=True)
class Server:
    """A mail server, and how we sign in to it; without a `user` we do not."""

    host: str
    port: int
    user: str = ""
    password: str = ""
    tls: Literal["starttls", "implicit", "none"] = "starttls"


class SmtpMail:
    """Sends through `server`, from `sender` where a letter names none. With `starttls` a
    password goes over TLS or not at all."""

    def __init__(self, server: Server, sender: str, timeout: float = 15) -> None:
        self._server = server
        self._sender = sender
        self._timeout = timeout

    async def send(self, letter: Letter) -> None:
        try:
            await aiosmtplib.send(
                self.written(letter),
                sender=letter.bounce or None,
                hostname=self._server.host,
                port=self._server.port,
                timeout=self._timeout,
                username=self._server.user or None,
                password=self._server.password or None,
                use_tls=self._server.tls == "implicit",
                start_tls=self._starts_tls(),
            )
        except (aiosmtplib.SMTPException, OSError, ValueError) as error:
            told = f"{type(error).__name__}: {error}"
            raise MailFailed(told, _refused_for_good(error, letter), _no_address(error)) from error

    def written(self, letter: Letter) -> EmailMessage:
        """Raises ValueError for what no letter can have, such as a subject of several lines."""
        message = EmailMessage()
        sender = letter.sender or self._sender
        message["From"] = sender
        if letter.reply_to:
            message["Reply-To"] = letter.reply_to
        message["To"] = letter.to
        message["Subject"] = letter.subject
        message["Date"] = formatdate(usegmt=True)
        message["Message-ID"] = f"<{letter.id}@{parseaddr(sender)[1].rpartition('@')[2]}>"
        if letter.opt_out:
            message["List-Unsubscribe"] = f"<{letter.opt_out}>"
            message["List-Unsubscribe-Post"] = "List-Unsubscribe=One-Click"
        message.set_content(letter.body)
        if letter.html:
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
