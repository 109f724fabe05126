"""Codes that people type from a letter on paper: made with their passes, and looked up again."""

from collections.abc import Sequence
from uuid import UUID

from jotgate.core.common.errors import NotFound, TooManyTries
from jotgate.core.common.typed_code import code_of, read
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.store import questionnaires, rate_limits
from jotgate.store.base import Connection
from jotgate.store.links import passes, typed_codes

PATH = "/c"
"""The short address where codes are typed."""

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
    now = context.clock.now()
    counted = f"code {client}"
    async with context.engine.begin() as conn:
        until = await rate_limits.take(conn, {counted: EACH}, now.timestamp())
    if until[counted] - now.timestamp() > MOST * EACH:
        message = "Too many codes that were not right. Wait some minutes, then try again."
        raise TooManyTries(message, round(EACH))
    async with context.engine.begin() as conn:
        link = await _link(context, conn, read(typed))
        if not link:
            raise NotFound("There is no such code.")
        await rate_limits.take(conn, {counted: -EACH}, now.timestamp())
    return link


async def _link(context: Context, conn: Connection, code: str) -> str:
    if not code:
        return ""
    found = await typed_codes.find(conn, context.cipher.marks(_looked_up(code)))
    if found is None:
        return ""
    held = await passes.with_hash(conn, *found)
    summary = await questionnaires.summary(conn, found[0])
    return link_of(context, *held, summary.address) if held and summary else ""
