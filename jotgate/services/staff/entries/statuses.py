"""How far the work on entries is: how many stand where, and where some stand for too long."""

from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from jotgate.core.handling import Handling, named
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs, roles
from jotgate.store import questionnaires
from jotgate.store.entries import letting_go, statuses


@dataclass(frozen=True)
class Stand:
    """So many entries have the status under `key`, `late` of them for too long."""

    key: str
    entries: int
    late: int


async def standing(context: Context, account: Account, id: UUID) -> list[Stand]:
    """In the order of the statuses; those that no entry has, too. Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        value = there(await questionnaires.handling(conn, id)).value
        now = context.clock.now()
        counts = await statuses.standing(conn, id, value.terms.limits, now)
    found = {named(key): both for key, both in counts.items()}
    return [Stand(key, *found.get(key, (0, 0))) for key in value.every]


@dataclass(frozen=True)
class Going:
    """So many entries are let go at once, and so many within `WEEK`."""

    now: int
    soon: int


WEEK = timedelta(days=7)


async def going(context: Context, account: Account, id: UUID, value: Handling) -> Going:
    """How many entries would be let go by themselves, were `value` saved. Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        kept, now = value.terms.kept, context.clock.now()
        at_once = await letting_go.count(conn, id, kept, now)
        soon = await letting_go.count(conn, id, kept, now + WEEK)
    return Going(at_once, soon)


async def late(context: Context, account: Account) -> dict[UUID, int]:
    """How many entries are late in each questionnaire that `account` may read, where some are."""
    async with context.engine.connect() as conn:
        known = await roles(conn, account, "questionnaire")
        limits = {}
        for id in await statuses.with_limits(conn):
            if known.of(id):
                limits[id] = there(await questionnaires.handling(conn, id)).value.terms.limits
        counts = await statuses.late_counts(conn, limits, context.clock.now())
    found: dict[UUID, int] = {}
    for (id, _), many in counts.items():
        found[id] = found.get(id, 0) + many
    return found
