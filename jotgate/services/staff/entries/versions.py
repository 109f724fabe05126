"""Entries as they were before they were changed or corrected."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.records.accounts import Account
from jotgate.core.records.entries import Version
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of, unseal_version
from jotgate.services.staff.entries.entries import mark, may_see, there_with_plans
from jotgate.services.staff.rights import needs
from jotgate.store.base import Connection
from jotgate.store.entries import entries, entry_versions


@dataclass(frozen=True)
class Compared:
    """What a version said in its edition, `after` it in that of the version that followed, and the
    keys of what is not the same."""

    plan: Plan
    answers: Stored
    plan_after: Plan
    after: Stored

    @property
    def changed(self) -> tuple[str, ...]:
        keys = dict.fromkeys([*self.answers, *self.after])
        return tuple(key for key in keys if self.answers.get(key) != self.after.get(key))


async def read(
    context: Context, account: Account, where: tuple[UUID, UUID], number: int
) -> Compared:
    """The open answers of a version of the entry `where` (questionnaire, entry). Everything of it
    is kept sealed; nothing restricted leaves here. Raises NotFound."""
    async with context.restricted.connect() as conn:
        await needs(conn, account, "read", where[0])
        _, found, newest = await _compared(context, conn, where, number)

    def is_open(plan: Plan, key: str) -> bool:
        return not needs_clearance(plan, newest, key)

    return _only(found, is_open)


async def reveal(
    context: Context, account: Account, where: tuple[UUID, UUID], number: int, reason: str
) -> Compared:
    """What of a version is restricted; the trail has the reading before it is out. Raises
    NotAllowed, Invalid, NotFound."""
    async with context.restricted.begin() as conn:
        await needs(conn, account, "read", where[0])
        await may_see(context, conn, account, where[0], reason)
        entry, whole, newest = await _compared(context, conn, where, number)

        def is_restricted(plan: Plan, key: str) -> bool:
            return needs_clearance(plan, newest, key)

        found = _only(whole, is_restricted)
        seen = sorted({*found.answers, *found.after})
        await mark(context, conn, account, entry, seen, reason)
    return found


def _only(found: Compared, wanted: Callable[[Plan, str], bool]) -> Compared:
    return replace(
        found,
        answers={key: one for key, one in found.answers.items() if wanted(found.plan, key)},
        after={key: one for key, one in found.after.items() if wanted(found.plan_after, key)},
    )


async def _compared(
    context: Context, conn: Connection, where: tuple[UUID, UUID], number: int
) -> tuple[Entry, Compared, Plan]:
    """The entry, all that a version of it said and what was said after it, and the newest
    edition."""
    entry, plan, newest = await there_with_plans(context, conn, *where)
    versions = {one.version: one for one in await entry_versions.of_entry(conn, *where)}
    before = await _said(context, conn, entry, versions, number)
    if before is None:
        raise NotFound("There is no such version.")
    after = await _said(context, conn, entry, versions, number + 1)
    if after is None:
        sealed = await entries.sealed(conn, where[0], [entry.id])
        kept = await restricted_of(context, entry.id, sealed)
        after = plan, {**entry.answers, **kept.answers}
    return entry, Compared(*before, *after), newest


async def _said(
    context: Context,
    conn: Connection,
    entry: Entry,
    versions: Mapping[int, Version],
    number: int,
) -> tuple[Plan, Stored] | None:
    sealed = await entry_versions.sealed(conn, entry.questionnaire_id, entry.id, number)
    if number not in versions or sealed is None:
        return None
    plan = await context.plan(conn, entry.questionnaire_id, versions[number].edition)
    return plan, (await unseal_version(context, entry.id, number, sealed)).answers
