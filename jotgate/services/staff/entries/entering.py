"""Entering an entry for somebody, and correcting one: both through the questionnaire itself, with
all its checks, on a page that only whoever began it can open."""

from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotAllowed
from jotgate.core.entries.clearance import needs_clearance, shows_restricted
from jotgate.core.entries.facts import Entered
from jotgate.core.records.accounts import Account
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.services.arrivals import begin_visit, staff_path
from jotgate.services.by_staff import CORRECTS, ENTERS
from jotgate.services.context import Context
from jotgate.services.staff.entries.entries import mark, may_see, own_clearance, there_with_plans
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires
from jotgate.store.base import Connection

LASTS = timedelta(hours=12)
"""For how long a page of entering or correcting can be used."""

CLEARANCE = (
    "This edition has restricted questions, and correcting goes through all of it: that needs "
    "clearance."
)


async def enter(context: Context, account: Account, id: UUID, entered: Entered) -> str:
    """The path of a page on which `account` enters what somebody said, or wrote, as often as they
    like. Raises NotAllowed, Invalid before it is published."""
    async with context.engine.begin() as conn:
        await needs(conn, account, ENTERS, id)
        summary = there(await questionnaires.summary(conn, id))
        if summary.edition is None:
            raise Invalid("Publish the questionnaire first.")
        came = Came(staff_id=account.id, entered=entered)
        return await _begun(context, conn, id, summary.address, Arrival(came=came))


async def _begun(
    context: Context, conn: Connection, id: UUID, address: str, arrival: Arrival
) -> str:
    until = context.clock.now() + LASTS
    return staff_path(address, await begin_visit(context, conn, id, arrival, until))


async def correct(context: Context, account: Account, where: tuple[UUID, UUID], why: str) -> str:
    """The path of a page on which the entry `where` (questionnaire, entry) is corrected, under the
    checks of its edition; `why` stands with the version that is replaced. What is restricted is
    seen by that, which the trail notes. Raises NotAllowed, NotFound, Invalid without a reason."""
    id, entry_id = where
    said = " ".join(why.split())
    async with context.restricted.begin() as conn:
        await needs(conn, account, CORRECTS, id)
        if not said:
            raise Invalid("Say why it is corrected. It stands with what was there before.")
        entry, plan, newest = await there_with_plans(context, conn, id, entry_id)
        if shows_restricted(plan, newest):
            if await own_clearance(context, conn, account, id) is None:
                raise NotAllowed(CLEARANCE)
            await may_see(context, conn, account, id, said)
            keys = [key for key in plan.items if needs_clearance(plan, newest, key)]
            await mark(context, conn, account, entry, sorted(keys), said)
        summary = there(await questionnaires.summary(conn, id))
        came = Came(staff_id=account.id, own=entry.id)
        return await _begun(context, conn, id, summary.address, Arrival(came=came, why=said))
