"""Working through entries: statuses and the archive, of one or of many."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.dispatch.acts import SetStatus
from jotgate.core.handling import NOBODY, Care, Handling
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Saved
from jotgate.services.context import Context
from jotgate.services.handling import Change, change_entry
from jotgate.services.staff.many import Changed, each
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import care, entries, parts, questionnaires
from jotgate.store.base import Connection


async def find(context: Context, account: Account, id: UUID) -> Saved[Handling]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return there(await questionnaires.handling(conn, id))


async def save(
    context: Context, account: Account, id: UUID, value: Handling, revision: int
) -> Saved[Handling]:
    """Save the statuses over the `revision` that they were read at. One that an entry has, or that
    the gate or a dispatch rule names, stays. Raises Invalid, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.handling(conn, id)).value
        saved = await save_part(conn, id, "handling", value, revision, questionnaires.handling)
        gone = before.keys - value.keys
        named = there(await questionnaires.gate(conn, id)).value.statuses
        acts = there(await questionnaires.dispatch(conn, id)).value.acts()
        named |= {act.status for act in acts if isinstance(act, SetStatus)}
        used = gone & (named | await entries.statuses_in_use(conn, id)) if gone else frozenset()
        if used:
            names = ", ".join(one.name for one in before.statuses if one.key in used)
            message = f"Entries have this status, or the gate or a rule names it: {names}."
            raise Invalid(message, [Fault(code="in_use", at="statuses", message=message)])
        await note(context, conn, account.id, "statuses_changed", id)
    return saved


@dataclass(frozen=True)
class Carers:
    """Who may be set to take care of entries, by id: people who may see them, and teams."""

    people: Mapping[UUID, str]
    teams: Mapping[UUID, str]


async def carers(context: Context, account: Account, id: UUID) -> Carers:
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        return await _carers(context, conn, id)


async def _carers(context: Context, conn: Connection, id: UUID) -> Carers:
    teams = {one.id: one.name for one in await parts.every_team(conn)}
    return Carers(await care.who_may(conn, id, context.clock.now()), teams)


async def may_take_care(context: Context, conn: Connection, id: UUID, care: Care) -> None:
    """Raise Invalid for somebody who may not see the entries."""
    if care == NOBODY:
        return
    known = await _carers(context, conn, id)
    if care.person not in known.people and care.team not in known.teams:
        raise Invalid("Choose somebody who may see the entries, or a team.")


async def handle(
    context: Context, account: Account, id: UUID, ids: Sequence[UUID], change: Change
) -> list[Changed]:
    """Change many entries, each for itself. Raises NotAllowed, NotFound, Invalid."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        if change.care is not None:
            await may_take_care(context, conn, id, change.care)

    async def changed(entry_id: UUID) -> None:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            await change_entry(context, conn, account.id, id, entry_id, change)

    return await each(ids, changed)
