"""The mail room: an SMTP server whose mail goes to a folder and nowhere else.

A letter is one `.eml` file (RFC 5322), named by its Message-ID: a second delivery of the
same letter is the same file, as a receiving mail system would recognise it.
"""

import asyncio
import email
import hashlib
import json
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import asdict
from datetime import UTC, datetime
from email import policy
from email.message import EmailMessage
from pathlib import Path
from typing import Any

import aiosmtplib
from aiosmtpd.controller import Controller

from jotgate.adapters.simulated.mail_reports import report_about
from jotgate.ports.mail import MailDoes, MailRule, Received

RULES = "rules.json"


def read_rules(folder: Path) -> list[MailRule]:
    """What the mail room in `folder` was told to do."""
    file = folder / RULES
    told = json.loads(file.read_text(encoding="utf-8")) if file.exists() else []
    return [MailRule(one["to"], one["does"]) for one in told]


def rule_for(rules: Sequence[MailRule], address: str) -> MailDoes | None:
    """What happens to a letter to an address: what was told of it, else of its domain."""
    wanted = address.casefold()
    known = {one.to.casefold(): one.does for one in rules}
    return known.get(wanted) or known.get("@" + wanted.rpartition("@")[2])


class MessageHandler:
    """Writes what arrives to `folder`, whole or not at all, and does what it was told. Reports go
    to the SMTP server on `reports`, a port of this machine; to nobody where that is 0."""

    def __init__(self, folder: Path, reports: int = 0) -> None:
        self._folder, self._reports = folder, reports
        self._going: set[asyncio.Task[None]] = set()

    async def handle_RCPT(  # noqa: N802
        self, server: Any, session: Any, envelope: Any, address: str, options: list[str]
    ) -> str:
        if rule_for(read_rules(self._folder), address) == "refuse":
            return "550 5.1.1 No such mailbox here"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:  # noqa: N802
        content: bytes = envelope.content
        message = email.message_from_bytes(content, policy=policy.default)
        assert isinstance(message, EmailMessage)
        rules = read_rules(self._folder)
        does = {to: rule_for(rules, to) for to in envelope.rcpt_tos}
        if not all(one in ("no_address", "full") for one in does.values()):
            self._keep(content, message)
        for to, one in does.items():
            if one and envelope.mail_from and self._reports:
                going = asyncio.ensure_future(self._report(message, to, envelope.mail_from, one))
                self._going.add(going)
                going.add_done_callback(self._going.discard)
        return "250 taken"

    def _keep(self, content: bytes, message: EmailMessage) -> None:
        name = hashlib.sha256(str(message["Message-ID"] or content).encode()).hexdigest()[:32]
        target = self._folder / f"{name}.eml"
        if not target.exists():
            part = target.with_suffix(".part")
            part.write_bytes(content)
            part.replace(target)

    async def _report(self, letter: EmailMessage, to: str, back: str, does: MailDoes) -> None:
        """Send a report; one that nobody takes is lost, as reports are."""
        raw = report_about(letter, to, back, does).as_bytes()
        with suppress(aiosmtplib.SMTPException, OSError):
            server = aiosmtplib.SMTP(hostname="127.0.0.1", port=self._reports, start_tls=False)
            async with server:
                await server.sendmail("", [back], raw)


def open_mail_room(folder: Path, host: str, port: int, reports: int = 0) -> Controller:
    """Start the SMTP server on a thread of its own; `stop()` ends it."""
    folder.mkdir(parents=True, exist_ok=True)
    room = Controller(MessageHandler(folder, reports), hostname=host, port=port)
    room.start()
    return room


class FolderMailRoom:
    """Reads the folder that the mail room's server writes to."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    async def newest(self, limit: int) -> list[Received]:
        return await asyncio.to_thread(self._read, limit)

    async def rules(self) -> list[MailRule]:
        return await asyncio.to_thread(read_rules, self._folder)

    async def put_rules(self, rules: Sequence[MailRule]) -> None:
        await asyncio.to_thread(self._put, json.dumps([asdict(one) for one in rules]))

    def _put(self, told: str) -> None:
        part = self._folder / f"{RULES}.part"
        part.write_text(told, encoding="utf-8")
        part.replace(self._folder / RULES)

    def _read(self, limit: int) -> list[Received]:
        files = [(path.stat().st_mtime_ns, path) for path in self._folder.glob("*.eml")]
        files.sort(reverse=True)
        return [_received(path, stamp) for stamp, path in files[:limit]]


def _received(path: Path, stamp: int) -> Received:
    message = email.message_from_bytes(path.read_bytes(), policy=policy.default)
    assert isinstance(message, EmailMessage)
    body = message.get_body(preferencelist=("plain",))
    return Received(
        id=path.stem,
        at=datetime.fromtimestamp(stamp / 1e9, UTC),
        sender=str(message["From"] or ""),
        to=str(message["To"] or ""),
        subject=str(message["Subject"] or ""),
        body=body.get_content() if body else "",
    )
