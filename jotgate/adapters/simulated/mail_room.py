"""The mail room: an SMTP server whose mail goes to a folder and nowhere else.

A letter is one `.eml` file (RFC 5322), named by its Message-ID: a second delivery of the
same letter is the same file, as a receiving mail system would recognise it.
"""

import asyncio
import email
import hashlib
from datetime import UTC, datetime
from email import policy
from email.message import EmailMessage
from pathlib import Path
from typing import Any

from aiosmtpd.controller import Controller

from jotgate.ports.mail import Received


class MessageHandler:
    """Writes what arrives to `folder`, whole or not at all."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:  # noqa: N802
        content: bytes = envelope.content
        message = email.message_from_bytes(content, policy=policy.default)
        name = hashlib.sha256(str(message["Message-ID"] or content).encode()).hexdigest()[:32]
        target = self._folder / f"{name}.eml"
        if not target.exists():
            part = target.with_suffix(".part")
            part.write_bytes(content)
            part.replace(target)
        return "250 taken"


def open_mail_room(folder: Path, host: str, port: int) -> Controller:
    """Start the SMTP server on a thread of its own; `stop()` ends it."""
    folder.mkdir(parents=True, exist_ok=True)
    room = Controller(MessageHandler(folder), hostname=host, port=port)
    room.start()
    return room


class FolderMailRoom:
    """Reads the folder that the mail room's server writes to."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    async def newest(self, limit: int) -> list[Received]:
        return await asyncio.to_thread(self._read, limit)

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
