"""The worker's side of the tables of entries: copies of their open answers, and indexes."""

from datetime import timedelta
from uuid import UUID

from jotgate.services.context import Context
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entry_table import indexes, rows

AT_ONCE = 500
"""Entries that are copied in one transaction."""

ROUNDS = 20
"""Transactions for one questionnaire before the next one has its turn."""

INDEXES = 12
"""Of one questionnaire at most; what was used longest ago goes first."""

KEPT = timedelta(days=30)
"""For how long an index is kept that nobody uses."""


async def catch_up(context: Context) -> int:
    """Copy what has arrived; how many entries that were."""
    async with context.engine.connect() as conn:
        behind = await rows.behind(conn)
    return sum([await catch_up_with(context, id) for id in behind])


async def catch_up_with(context: Context, id: UUID) -> int:
    """Copy entries of one questionnaire; how many that were."""
    count = 0
    for _ in range(ROUNDS):
        async with context.engine.begin() as conn:
            await _marked(context, conn, id)
            copied = await rows.copy(conn, id, AT_ONCE)
        count += copied
        if copied < AT_ONCE:
            break
    return count


async def _marked(context: Context, conn: Connection, id: UUID) -> None:
    """What is restricted is known before anything is copied."""
    if await rows.is_marked(conn, id):
        return
    summary = await questionnaires.summary(conn, id)
    if summary is not None and summary.edition is not None:
        plan = await context.plan(conn, id, summary.edition)
        await rows.hide(conn, id, plan.restrictions.items)


async def make_index(context: Context, name: str) -> None:
    """Make an index that somebody's order asks for."""
    async with context.engine.begin() as conn:
        await indexes.make(conn, name, context.clock.now())
        id = await indexes.questionnaire_of(conn, name)
    if id is None:
        return
    async with context.engine.begin() as conn:
        for one in await indexes.too_many(conn, id, INDEXES):
            await indexes.drop(conn, one)


async def drop_unused(context: Context) -> None:
    async with context.engine.begin() as conn:
        for name in await indexes.unused(conn, context.clock.now() - KEPT):
            await indexes.drop(conn, name)
