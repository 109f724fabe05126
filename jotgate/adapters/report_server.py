"""The server that takes delivery reports over SMTP (RFC 5321), from the office's mail server."""

import asyncio
from collections.abc import Awaitable, Callable
from typing import Any
from uuid import UUID

from aiosmtpd.smtp import SMTP

from jotgate.core.formats.delivery_reports import LONGEST

Find = Callable[[str], UUID | None]
Take = Callable[[UUID, bytes], Awaitable[None]]

LATER = "451 4.3.0 Try again later"


class Reports:
    """Takes letters to addresses that `find` knows, and gives each to `take`. What fails there is
    tried again by whoever sent it."""

    def __init__(self, find: Find, take: Take) -> None:
        self._find, self._take = find, take

    async def handle_RCPT(  # noqa: N802
        self, server: Any, session: Any, envelope: Any, address: str, options: list[str]
    ) -> str:
        if envelope.rcpt_tos:
            return "452 4.5.3 One recipient at a time"
        if self._find(address) is None:
            return "550 5.1.1 Nobody is here"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:  # noqa: N802
        letter_id = self._find(envelope.rcpt_tos[0])
        if letter_id is None:
            return "550 5.1.1 Nobody is here"
        try:
            await self._take(letter_id, envelope.content)
        except Exception:
            return LATER
        return "250 taken"


async def open_reports(reports: Reports, host: str, port: int) -> asyncio.Server:
    """Listen on `host` and `port`, for letters of a limited size."""

    def one() -> SMTP:
        most = 2 * LONGEST
        return SMTP(reports, data_size_limit=most, timeout=60, enable_SMTPUTF8=True)

    loop = asyncio.get_running_loop()
    return await loop.create_server(one, host=host, port=port)
