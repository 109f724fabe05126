"""Mail over SMTP."""

from email.message import EmailMessage
from email.utils import formatdate, parseaddr

import aiosmtplib

from jotgate.ports.mail import Letter, MailFailed


class SmtpMail:
    """Sends through the server at `host`:`port`, from `sender`."""

    def __init__(self, host: str, port: int, sender: str, timeout: float = 15) -> None:
        self._host = host
        self._port = port
        self._sender = sender
        self._timeout = timeout

    async def send(self, letter: Letter) -> None:
        message = EmailMessage()
        sender = letter.sender or self._sender
        message["From"] = sender
        if letter.reply_to:
            message["Reply-To"] = letter.reply_to
        message["To"] = letter.to
        message["Subject"] = letter.subject
        message["Date"] = formatdate(usegmt=True)
        message["Message-ID"] = f"<{letter.id}@{parseaddr(sender)[1].rpartition('@')[2]}>"
        message.set_content(letter.body)
        try:
            await aiosmtplib.send(
                message, hostname=self._host, port=self._port, timeout=self._timeout
            )
        except (aiosmtplib.SMTPException, OSError) as error:
            raise MailFailed(f"{type(error).__name__}: {error}") from error
