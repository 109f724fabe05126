"""Mail over SMTP: signed in where the server wants it, and a password never without TLS unless that
was said."""

from collections.abc import Iterator
from typing import Any

import pytest
from aiosmtpd.controller import Controller
from aiosmtpd.smtp import AuthResult, LoginPassword

from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.local.cluster import free_port
from jotgate.ports.mail import Letter, MailFailed

LETTER = Letter("1", "a@example.org", "Hello", "Words\n", "Office <o@example.org>", "r@example.org")


class Handler:
    def __init__(self) -> None:
        self.taken: list[bytes] = []
        self.asked: list[bytes] = []

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        self.taken.append(envelope.content)
        return "250 taken"

    def authenticate(
        self, server: Any, session: Any, envelope: Any, mechanism: str, given: LoginPassword
    ) -> AuthResult:
        self.asked.append(given.password)
        return AuthResult(success=given == LoginPassword(b"us", b"secret"), handled=False)


@pytest.fixture
def wanting() -> Iterator[tuple[Handler, int]]:
    """A server that takes mail only from who signs in, and offers no TLS."""
    handler = Handler()
    room = Controller(
        handler,
        hostname="127.0.0.1",
        port=free_port(),
        authenticator=handler.authenticate,
        auth_required=True,
        auth_require_tls=False,
    )
    room.start()
    yield handler, room.port
    room.stop()


async def test_signed_in_and_from_the_office(wanting: tuple[Handler, int]) -> None:
    handler, port = wanting
    mail = SmtpMail(Server("127.0.0.1", port, "us", "secret", "none"), "We <we@example.org>")
    await mail.send(LETTER)
    (taken,) = handler.taken
    assert b"From: Office <o@example.org>" in taken
    assert b"Reply-To: r@example.org" in taken
    assert b"Message-ID: <1@example.org>" in taken


async def test_a_wrong_password_fails(wanting: tuple[Handler, int]) -> None:
    _, port = wanting
    mail = SmtpMail(Server("127.0.0.1", port, "us", "wrong", "none"), "We <we@example.org>")
    with pytest.raises(MailFailed):
        await mail.send(LETTER)


@pytest.mark.parametrize("tls", ["starttls", "implicit"])
async def test_a_password_is_not_told_to_a_server_without_tls(
    wanting: tuple[Handler, int], tls: Any
) -> None:
    handler, port = wanting
    mail = SmtpMail(Server("127.0.0.1", port, "us", "secret", tls), "We <we@example.org>", 2)
    with pytest.raises(MailFailed):
        await mail.send(LETTER)
    assert handler.asked == []
