"""Mail over SMTP: signed in where the server wants it, and a password never without TLS unless that
was said."""

from collections.abc import Iterator
from dataclasses import replace
from email import message_from_bytes, policy
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


class Picky:
    """Takes mail for some, refuses others for good, and others for now."""

    def __init__(self) -> None:
        self.taken: list[bytes] = []
        self.peers: list[Any] = []

    async def handle_RCPT(
        self, server: Any, session: Any, envelope: Any, address: str, options: list[str]
    ) -> str:
        if address.startswith("gone"):
            return "550 no such mailbox"
        if address.startswith("full"):
            return "452 mailbox is full"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        self.taken.append(envelope.content)
        self.peers.append(session.peer)
        return "250 taken"


@pytest.fixture
def picky() -> Iterator[tuple[Picky, SmtpMail]]:
    handler = Picky()
    room = Controller(handler, hostname="127.0.0.1", port=free_port(), enable_SMTPUTF8=False)
    room.start()
    yield handler, SmtpMail(Server("127.0.0.1", room.port, tls="none"), "We <we@example.org>")
    room.stop()


@pytest.mark.parametrize(
    ("letter", "for_good"),
    [
        (replace(LETTER, to="gone@example.org"), True),
        (replace(LETTER, to="full@example.org"), False),
        (replace(LETTER, to="j\u00f6rg@example.org"), True),
        (replace(LETTER, subject="One\nBcc: x@example.org"), True),
    ],
    ids=["gone", "full", "no SMTPUTF8", "lines"],
)
async def test_what_is_of_no_use_to_try_again_is_told(
    picky: tuple[Picky, SmtpMail], letter: Letter, for_good: bool
) -> None:
    """RFC 5321, 4.2.1, for replies; RFC 6531 for addresses that are not ASCII."""
    handler, mail = picky
    with pytest.raises(MailFailed) as failed:
        await mail.send(letter)
    assert failed.value.for_good is for_good
    assert handler.taken == []


async def test_several_letters_go_over_one_connection(picky: tuple[Picky, SmtpMail]) -> None:
    """After one that is not taken it is another one: nobody knows where the first stands."""
    handler, mail = picky
    async with mail.connected() as connection:
        await connection.send(LETTER)
        await connection.send(replace(LETTER, id="2"))
        with pytest.raises(MailFailed):
            await connection.send(replace(LETTER, to="gone@example.org"))
        await connection.send(replace(LETTER, id="3"))
    first, second, third = handler.peers
    assert first == second != third
    ids = [message_from_bytes(one)["Message-ID"] for one in handler.taken]
    assert ids == [f"<{number}@example.org>" for number in (1, 2, 3)]


async def test_headers_of_one_letter_are_not_those_of_the_next(
    picky: tuple[Picky, SmtpMail],
) -> None:
    _, mail = picky
    letters = [
        replace(LETTER, id=str(n), to=f"one{n}@example.org", subject=f"Br\u00fccke {n}")
        for n in range(400)
    ]
    for letter in letters:
        read = message_from_bytes(mail.written(letter).as_bytes(), policy=policy.default)
        assert (read["To"], read["Subject"]) == (letter.to, letter.subject)
        assert read["Message-ID"] == f"<{letter.id}@example.org>"


async def test_a_server_that_is_away_is_tried_again() -> None:
    mail = SmtpMail(Server("127.0.0.1", free_port(), tls="none"), "We <we@example.org>")
    with pytest.raises(MailFailed) as failed:
        await mail.send(LETTER)
    assert failed.value.for_good is False


async def test_the_way_to_opt_out_is_told_to_mail_programs(picky: tuple[Picky, SmtpMail]) -> None:
    """RFC 8058, 3.1: both headers, and an address that is not broken up."""
    handler, mail = picky
    out = f"https://answers.example.org/out/{'x' * 43}"
    await mail.send(replace(LETTER, opt_out=out))
    found = message_from_bytes(handler.taken[0], policy=policy.default)
    assert str(found["List-Unsubscribe"]).strip() == f"<{out}>"
    assert found["List-Unsubscribe-Post"] == "List-Unsubscribe=One-Click"
    await mail.send(LETTER)
    assert b"List-Unsubscribe" not in handler.taken[1]
