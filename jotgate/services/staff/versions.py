"""Entries as they were before whoever sent them changed them."""

from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.records.accounts import Account
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.sealing import Restricted, unseal_version
from jotgate.services.staff.entries import mark, may_see, there_with_plans
from jotgate.services.staff.rights import needs
from jotgate.store import entry_versions
from jotgate.store.base import Connection


async def read(
    context: Context, account: Account, where: tuple[UUID, UUID], number: int
) -> tuple[Plan, Stored]:
    """The edition and the open answers of a version of the entry `where` (questionnaire, entry).
    Everything of it is kept sealed; nothing restricted leaves here. Raises NotFound."""
    async with context.restricted.connect() as conn:
        await needs(conn, account, "read", where[0])
        _, plan, newest, whole = await _opened(context, conn, where, number)
    said = whole.answers.items()
    return plan, {key: one for key, one in said if not needs_clearance(plan, newest, key)}


async def reveal(
    context: Context, account: Account, where: tuple[UUID, UUID], number: int, reason: str
) -> tuple[Plan, Stored]:
    """What of a version is restricted; the trail has the reading before it is out. Raises
    NotAllowed, Invalid, NotFound."""
    async with context.restricted.begin() as conn:
        await needs(conn, account, "read", where[0])
        await may_see(context, conn, account, where[0], reason)
        entry, plan, newest, whole = await _opened(context, conn, where, number)
        found = {k: one for k, one in whole.answers.items() if needs_clearance(plan, newest, k)}
        await mark(context, conn, account, entry, sorted(found), reason)
    return plan, found


async def _opened(
    context: Context, conn: Connection, where: tuple[UUID, UUID], number: int
) -> tuple[Entry, Plan, Plan, Restricted]:
    """The entry, the edition of the version, the newest one, and all that it said."""
    entry, _, newest = await there_with_plans(context, conn, *where)
    versions = {one.version: one for one in await entry_versions.of_entry(conn, *where)}
    sealed = await entry_versions.sealed(conn, *where, number)
    if number not in versions or sealed is None:
        raise NotFound("There is no such version.")
    plan = await context.plan(conn, where[0], versions[number].edition)
    return entry, plan, newest, await unseal_version(context, entry.id, number, sealed)
