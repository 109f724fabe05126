"""How many entries went which way through an edition, for the Map."""

import asyncio
from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.common.today import today_in
from jotgate.core.entries.clearance import closed_keys
from jotgate.core.figures.traffic import Traffic, finishes_of, pages_of, ways
from jotgate.core.records.accounts import Account
from jotgate.core.walking.retracing import traceable
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked, look_at
from jotgate.store.entries import started
from jotgate.store.entry_table import answered

MOST_DIFFERENT = 50_000
"""Different answers to what decides the way, from which on they are not walked."""

STOPPED = timedelta(hours=1)
"""Somebody who saved nothing for so long is counted as stopped, until the entry is sent."""


async def traffic(
    context: Context, account: Account, id: UUID, asked: Asked, number: int | None
) -> Traffic:
    """Of the entries of an edition, the newest where there is no `number`, that a view shows.
    Raises NotFound, NotAllowed, Invalid, and Unavailable where it takes too long."""
    async with context.engine.begin() as conn:
        opened, look = await look_at(context, conn, account, id, asked)
        edition = number or max(opened.plans, default=0)
        plan = opened.plans.get(edition)
        if look is None or plan is None:
            raise NotFound("There is no such edition.")
        told = traceable(plan, closed_keys(plan, opened.newest))
        most = MOST_DIFFERENT + 1
        found = await answered.alike(conn, look, edition, told.reads, told.by_day, most)
        ended, anonymised = await answered.ended(conn, look, edition)
        now = context.clock.now()
        stopped = await started.stopped(conn, id, edition, now - STOPPED)
    if len(found) > MOST_DIFFERENT:
        raise Invalid("There are too many different ways to count. Filter the entries.")
    hidden = any(one.restrictions.finish for one in (plan, opened.newest) if one)
    today = today_in(plan.questionnaire.time_zone, now)
    left = await asyncio.to_thread(ways, plan, found, today.now)
    return Traffic(
        edition=edition,
        entries=sum(ended.values()),
        anonymised=anonymised,
        pages=pages_of(plan, told, left, stopped),
        finishes=finishes_of(plan, ended, hidden),
    )
