"""What comes back about letters to contacts: delivery reports and complaints, each at an address
that only the letter it is about had."""

import asyncio
from base64 import b32decode, b32encode
from binascii import Error
from datetime import timedelta
from uuid import UUID

import structlog

from jotgate.core.formats.delivery_reports import Delivery, Report, read_report
from jotgate.core.records.mailings import MailingLetter
from jotgate.services import opting_out
from jotgate.services.context import Context
from jotgate.services.mailings import letter_marks
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.links import mailings, sending

log = structlog.get_logger("jotgate.bounces")

PURPOSE, MARK = b"bounce", 9
"""Bytes of the mark: with more, the address would be longer than RFC 5321 allows."""

AGAIN = timedelta(days=1)
"""After which a letter is tried again that a server gave up for a reason that passes."""

MOST = 3
"""Tries of such a letter."""


def address_of(context: Context, letter_id: UUID) -> str:
    """Where reports about a letter go (RFC 5233); nobody else can make it. Empty where nothing
    takes them."""
    if not context.bounces:
        return ""
    local, _, domain = context.bounces.rpartition("@")
    told = letter_marks.marked(context, PURPOSE, letter_id, MARK)
    return f"{local}+{b32encode(told).decode().lower().rstrip('=')}@{domain}"


def letter_of(context: Context, address: str) -> UUID | None:
    """Which letter an address is for reports about; None where it is no such address."""
    local, _, domain = context.bounces.casefold().rpartition("@")
    ours, _, theirs = address.casefold().rpartition("@")
    name, _, token = ours.partition("+")
    if not context.bounces or (name, theirs) != (local, domain):
        return None
    try:
        found = b32decode(token.upper() + "=" * (-len(token) % 8))
    except (Error, ValueError):
        return None
    return letter_marks.letter_of(context, PURPOSE, found, MARK)


async def take(context: Context, letter_id: UUID, raw: bytes) -> None:
    """Do what a report about a letter asks for. What is none, such as an answer by a machine that
    somebody is away, changes nothing."""
    report = await asyncio.to_thread(read_report, raw)
    async with context.engine.begin() as conn:
        letter = await mailings.letter(conn, letter_id)
        told = letter and report and _about(report, letter)
        if not letter or not told:
            log.info("no report of a letter of ours", letter=str(letter_id))
            return
        log.info("reported", letter=str(letter_id), verdict=told.verdict, status=told.status)
        await _done(context, conn, letter, told)


def _about(report: Report, letter: MailingLetter) -> Delivery | None:
    """What a report says of the address that a letter went to. A mailbox that hands letters on
    reports another one: where there is one alone, it is meant."""
    same = [one for one in report.deliveries if one.email.casefold() == letter.email.casefold()]
    found = same or list(report.deliveries)
    return found[0] if same or len(found) == 1 else None


async def _done(context: Context, conn: Connection, letter: MailingLetter, told: Delivery) -> None:
    now, said = context.clock.now(), f"{told.status} {told.said}".strip()[:300]
    match told.verdict:
        case "given_up" if letter.state == "sent" and letter.tries < MOST:
            await sending.try_again(conn, letter, now + AGAIN, said)
        case "no_address":
            await contacts.mark_bounced(conn, letter.email, now)
            await sending.came_back(conn, letter, now, said)
        case "given_up" | "refused":
            await sending.came_back(conn, letter, now, said)
        case "complained":
            if await opting_out.mark(conn, letter.email, True, now, "a complaint"):
                await note(context, conn, None, "opted_out", state="complained")
        case _:
            return
