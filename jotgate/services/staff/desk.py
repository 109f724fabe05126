"""The desk: all questionnaires, in folders; new ones from a file, a template or another one."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

import orjson

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.gate.places import Counts
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Summary
from jotgate.core.rights import Right, Role, rights_of
from jotgate.core.starts import begun, starts
from jotgate.services.context import Context
from jotgate.services.staff.gate.gate_standing import Brief, brief
from jotgate.services.staff.questionnaires import add, there
from jotgate.services.staff.rights import in_office, needs, role_in, roles
from jotgate.store import questionnaires, queue, runs
from jotgate.store.entries import tallies
from jotgate.store.gate import places

DAYS_DRAWN = 14


@dataclass(frozen=True)
class DeskLine:
    """A questionnaire on the desk. `arrivals` counts entries by day, today last; `brief` is how its
    gate stands, `failed` how many runs of dispatch wait for somebody."""

    summary: Summary
    rights: tuple[Right, ...]
    arrivals: tuple[int, ...]
    brief: Brief
    failed: int = 0


async def desk(context: Context, account: Account) -> list[DeskLine]:
    """The questionnaires that `account` has a part in, the newest first."""
    async with context.engine.connect() as conn:
        known = await roles(conn, account, "questionnaire")
        found = await questionnaires.summaries(conn)
        totals = await places.totals(conn)
        failed = await runs.failed_counts(conn)
    return [
        _line(context, line, role, totals.get(line.id, {}), failed.get(line.id, 0))
        for line in found
        if (role := known.of(line.id))
    ]


async def line(context: Context, account: Account, id: UUID) -> DeskLine:
    """One questionnaire as the desk has it."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        found = there(await questionnaires.summary(conn, id))
        role = await role_in(conn, account, "questionnaire", id)
        totals = await places.totals(conn, id)
        failed = await runs.failed_counts(conn, id)
    return _line(context, found, role, totals.get(id, {}), failed.get(id, 0))


def _line(
    context: Context, summary: Summary, role: Role | None, counts: Counts, failed: int
) -> DeskLine:
    today = context.clock.now().replace(hour=0, minute=0, second=0, microsecond=0)
    days = [today - timedelta(days=back) for back in reversed(range(DAYS_DRAWN))]
    arrivals = tuple(summary.days.get(day.date().isoformat(), 0) for day in days)
    standing = brief(context, summary, counts)
    return DeskLine(summary, rights_of(role), arrivals, standing, failed)


OVERDUE = timedelta(minutes=1)


@dataclass(frozen=True)
class Waiting:
    """Work that should have been done a minute ago or longer: how much, and since when."""

    count: int
    since: datetime | None


async def waiting(context: Context) -> Waiting:
    async with context.engine.connect() as conn:
        return Waiting(*await queue.overdue(conn, context.clock.now(), OVERDUE))


async def forget_days(context: Context) -> None:
    """Forget arrivals by day that no screen shows any more."""
    async with context.engine.begin() as conn:
        before = context.clock.now().date() - timedelta(days=4 * DAYS_DRAWN)
        await tallies.forget_days(conn, before)


async def _renamed(context: Context, account: Account, draft: str, title: str | None) -> UUID:
    """Start one from a draft under another title; from none, as a copy."""
    return await add(context, account, "", await context.apart(_with_title, draft, title))


def _with_title(draft: str, title: str | None) -> str:
    found = orjson.loads(draft)
    first = found["languages"][0]
    before = found["title"]
    copied = {**before, first: f"{before.get(first, '')} (copy)".strip()}
    found["title"] = copied if title is None else {first: title}
    return orjson.dumps(found).decode()


async def copy(context: Context, account: Account, id: UUID) -> UUID:
    """Start another one from the draft of this: the id of the new one."""
    in_office(account, "begin")
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        saved = there(await questionnaires.draft(conn, id))
    return await _renamed(context, account, saved.value, None)


async def put(
    context: Context,
    account: Account,
    id: UUID,
    folder: str | None = None,
    template: bool | None = None,
) -> None:
    """Put it into a folder, out of any where that has no name; offer it as a template or not."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        there(await questionnaires.put(conn, id, folder, template) or None)


async def from_template(context: Context, account: Account, id: UUID, title: str) -> UUID:
    """Start another one from a template. Raises Invalid where that is none."""
    in_office(account, "begin")
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        if not there(await questionnaires.summary(conn, id)).template:
            raise Invalid("This questionnaire is not offered as a template.")
        saved = there(await questionnaires.draft(conn, id))
    return await _renamed(context, account, saved.value, title)


async def from_start(context: Context, account: Account, name: str, title: str) -> UUID:
    """Start one from what ships for that. Raises NotFound."""
    start = starts().get(name)
    if start is None:
        raise NotFound("There is no such start.")
    return await add(context, account, "", begun(title, start))
