"""Codes that people type from a letter on paper: made with their passes, and looked up again."""

from collections.abc import Awaitable, Callable, Sequence
from typing import TypeVar
from uuid import UUID

from jotgate.core.common.errors import NotFound, TooManyTries
from jotgate.core.common.typed_code import code_of, read
from jotgate.core.records.links import Pass
from jotgate.services import opting_out
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.trail import note
from jotgate.store import questionnaires, rate_limits
from jotgate.store.base import Connection
from jotgate.store.links import passes, typed_codes

PATH = "/c"
"""The short address where codes are typed."""

BY_CODE = "the code of a letter on paper"
"""Where it came from that somebody wants no more letters."""

EACH, MOST = 360.0, 10
"""Whoever typed ten codes that were wrong waits six minutes for each further one: of 20^8 codes, a
hundred thousand of them in use, one address guesses one in some thirty thousand years of it, and
ten thousand addresses in three."""


def _code(context: Context, questionnaire_id: UUID, pass_id: UUID, attempt: int) -> str:
    whose = questionnaire_id.bytes + pass_id.bytes + bytes([attempt])
    return code_of(context.cipher.mark(b"typed code" + whose))


def _looked_up(code: str) -> bytes:
    return b"typed code by itself" + code.encode()


async def codes_of(
    context: Context, conn: Connection, questionnaire_id: UUID, pass_ids: Sequence[UUID]
) -> dict[UUID, str]:
    """The codes of passes, made where they have none; the same ones each time, as long as the key
    of the installation stays. One that another pass has already is not given again."""
    found: dict[UUID, str] = {}
    left, attempt = list(pass_ids), 0
    while left:
        codes = {id: _code(context, questionnaire_id, id, attempt) for id in left}
        marks = {context.cipher.mark(_looked_up(code)): id for id, code in codes.items()}
        whose = await typed_codes.add(conn, questionnaire_id, marks)
        ours = {id for mark, id in marks.items() if whose[mark] == id}
        found |= {id: codes[id] for id in ours}
        left, attempt = [id for id in left if id not in ours], attempt + 1
    return found


async def go_on(context: Context, typed: str, client: str) -> str:
    """The link that a typed code stands for. Raises NotFound where it stands for none, or for one
    that lets nobody in any more, TooManyTries."""
    return await _counted(context, client, lambda conn: _link(context, conn, read(typed)))


async def write_no_more(context: Context, typed: str, client: str, out: bool = True) -> str:
    """Have nobody write to whoever got the letter with a code, or write to them again; how they are
    called. Raises NotFound, also where they are no contact any more, TooManyTries."""
    return await _counted(context, client, lambda conn: _out(context, conn, read(typed), out))


T = TypeVar("T")


async def _counted(
    context: Context, client: str, find: Callable[[Connection], Awaitable[T | None]]
) -> T:
    """What `find` finds; where that is None, it counts as a code that was wrong."""
    now = context.clock.now()
    counted = f"code {client}"
    async with context.engine.begin() as conn:
        until = await rate_limits.take(conn, {counted: EACH}, now.timestamp())
    if until[counted] - now.timestamp() > MOST * EACH:
        message = "Too many codes that were not right. Wait some minutes, then try again."
        raise TooManyTries(message, round(EACH))
    async with context.engine.begin() as conn:
        found = await find(conn)
        if found is None:
            raise NotFound("There is no such code.")
        await rate_limits.take(conn, {counted: -EACH}, now.timestamp())
    return found


async def _pass(
    context: Context, conn: Connection, code: str
) -> tuple[UUID, Pass, bytes | None] | None:
    """The pass of a code, with its questionnaire and its hash."""
    marks = context.cipher.marks(_looked_up(code)) if code else []
    found = await typed_codes.find(conn, marks) if marks else None
    held = await passes.with_hash(conn, *found) if found else None
    return (found[0], *held) if found and held else None


async def _link(context: Context, conn: Connection, code: str) -> str | None:
    found = await _pass(context, conn, code)
    summary = await questionnaires.summary(conn, found[0]) if found else None
    return link_of(context, *found[1:], summary.address) or None if found and summary else None


async def _out(context: Context, conn: Connection, code: str, out: bool) -> str | None:
    found = await _pass(context, conn, code)
    contact_id = found[1].contact_id if found else None
    if contact_id is None:
        return None
    now = context.clock.now()
    one = await opting_out.mark_contact(conn, contact_id, out, now, BY_CODE)
    if one is not None:
        state, contact = "out" if out else "in", str(contact_id)
        await note(context, conn, None, "opted_out", contact=contact, state=state)
    return one.called if one else None
