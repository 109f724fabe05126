"""Dispositions by hand."""

from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.rounds.dispositions import DISPOSITIONS
from jotgate.services.context import Context
from jotgate.services.rounds.state import kept_round
from jotgate.services.staff.rounds.rounds import may_change
from jotgate.services.trail import note
from jotgate.store.rounds import people

LONGEST_REASON = 500


async def code(
    context: Context,
    account: Account,
    id: UUID,
    round_id: UUID,
    contact_id: UUID,
    given: tuple[str, str],
) -> None:
    """Give somebody the disposition `given` with a reason, or with an empty one have it follow from
    what happened again. Raises Invalid, NotFound."""
    code, why = given[0], " ".join(given[1].split())[:LONGEST_REASON]
    if code and code not in DISPOSITIONS:
        message = "There is no such disposition."
        raise Invalid(message, [Fault(code="code", at="code", message=message)])
    if code and not why:
        message = "Say why. The reason stands beside the code."
        raise Invalid(message, [Fault(code="no_reason", at="why", message=message)])
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        now = context.clock.now()
        if not await people.put_code(conn, one, contact_id, code, why, account.id, now):
            raise NotFound("They are not asked in this round.")
        state, who = code or "by what happened", str(contact_id)
        await note(
            context, conn, account.id, "round_coded", id, contact=who, state=state, reason=why
        )
