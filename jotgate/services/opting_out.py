"""Opting out of letters, by the address at the foot of each (RFC 8058, RFC 2369)."""

from datetime import datetime
from hmac import compare_digest
from uuid import UUID

from jotgate.core.common import base64url
from jotgate.core.common.errors import NotFound
from jotgate.services.context import Context
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs
from jotgate.store.links import mailings

_ID = 16


def _data(letter_id: UUID) -> bytes:
    return b"opt out" + letter_id.bytes


def address_of(context: Context, letter_id: UUID) -> str:
    """The address by which whoever got a letter opts out; nobody else can make it."""
    mark = context.cipher.mark(_data(letter_id))[:_ID]
    return f"{context.public_url}/out/{base64url.written(letter_id.bytes + mark)}"


async def _email(context: Context, conn: Connection, token: str) -> str:
    """The address that a letter went to. Raises NotFound."""
    try:
        found = base64url.read(token)
    except ValueError:
        found = b""
    if len(found) != 2 * _ID:
        raise NotFound("There is no such letter.")
    id = UUID(bytes=found[:_ID])
    ours = [compare_digest(one[:_ID], found[_ID:]) for one in context.cipher.marks(_data(id))]
    letter = await mailings.letter(conn, id) if any(ours) else None
    if letter is None:
        raise NotFound("There is no such letter.")
    return letter.email


async def whose(context: Context, token: str) -> tuple[str, bool]:
    """The address that a letter went to, and whether it opted out. Raises NotFound."""
    async with context.engine.connect() as conn:
        email = await _email(context, conn, token)
        return email, await opt_outs.since(conn, email) is not None


async def mark(conn: Connection, email: str, out: bool, now: datetime) -> bool:
    """Keep that whoever has this address opted out, or did not, with every contact that has it;
    whether that is new."""
    changed = await (opt_outs.add(conn, email, now) if out else opt_outs.remove(conn, email))
    await contacts.mark_out(conn, email, now if out else None)
    return changed


async def choose(context: Context, token: str, out: bool) -> str:
    """Opt out, or back in; the address. Doing it twice changes nothing. Raises NotFound."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        email = await _email(context, conn, token)
        if await mark(conn, email, out, now):
            await note(context, conn, None, "opted_out", state="out" if out else "in")
    return email
