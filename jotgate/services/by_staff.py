"""People of the office who enter an entry for somebody, or correct one: whether they still may."""

from uuid import UUID

from jotgate.core.common.errors import NotAllowed
from jotgate.core.entries.clearance import shows_restricted
from jotgate.core.rights import IN_THING, Right, reaches, strongest
from jotgate.core.walking.arrival import Came
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.store import questionnaires
from jotgate.store.accounts import accounts, parts
from jotgate.store.base import Connection

ENTERS: Right = "review"
CORRECTS: Right = "write"

OVER = "You may not do this here any more. Close this page."


async def _newest(context: Context, conn: Connection, id: UUID, plan: Plan) -> Plan:
    summary = await questionnaires.summary(conn, id)
    return await context.plan(conn, id, summary.edition) if summary and summary.edition else plan


async def may_still(context: Context, conn: Connection, id: UUID, plan: Plan, came: Came) -> None:
    """Raise NotAllowed where whoever came as somebody of the office has lost the right to, or, to
    correct what has restricted questions, the clearance."""
    if came.staff_id is None:
        return
    now = context.clock.now()
    account = await accounts.by_id(conn, came.staff_id, now)
    if account is None:
        raise NotAllowed(OVER)
    given = await parts.role_in(conn, account.id, "questionnaire", id)
    right = ENTERS if came.own is None else CORRECTS
    if not reaches(strongest((account.role, given)), IN_THING[right]):
        raise NotAllowed(OVER)
    if came.own is not None and shows_restricted(plan, await _newest(context, conn, id, plan)):
        cleared = account.cleared and await parts.clearance(conn, account.id, id, now)
        if not cleared:
            raise NotAllowed(OVER)
