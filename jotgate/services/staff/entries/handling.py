"""Working through entries: statuses and the archive, of one or of many."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotAllowed
from jotgate.core.handling import NOBODY, Care, Handling, named, stored
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Saved
from jotgate.services.context import Context
from jotgate.services.handling import Change, change_entry
from jotgate.services.staff.many import Changed, each
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs, role_in
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.accounts import care, parts
from jotgate.store.base import Connection
from jotgate.store.entries import entries


@dataclass(frozen=True)
class Statuses:
    """`may_set` are the keys of those that the reader may set; `teams` the names of all teams."""

    saved: Saved[Handling]
    may_set: frozenset[str]
    teams: Mapping[UUID, str]


async def find(context: Context, account: Account, id: UUID) -> Statuses:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return await _statuses(conn, account, id, there(await questionnaires.handling(conn, id)))


async def _statuses(
    conn: Connection, account: Account, id: UUID, saved: Saved[Handling]
) -> Statuses:
    teams = await parts.every_team(conn)
    role = await role_in(conn, account, "questionnaire", id)
    own = {team.id for team in teams if account.id in team.members}
    value = saved.value
    may = frozenset(key for key in value.every if value.may_set(stored(key), role, own))
    return Statuses(saved, may, {team.id: team.name for team in teams})


async def may_change(
    context: Context, conn: Connection, account: Account, id: UUID, change: Change
) -> None:
    """Raise NotAllowed, or NotFound, for somebody who may not change entries so, and Invalid where
    somebody is to take care who may not see them."""
    if change.archived is not None or change.care is not None:
        await needs(conn, account, "write", id)
        await _may_take_care(context, conn, id, change.care or NOBODY)
    await needs(conn, account, "read", id)
    if change.status is None:
        return
    saved = there(await questionnaires.handling(conn, id))
    if named(change.status) not in saved.value.every:
        raise Invalid("There is no such status.")
    if named(change.status) not in (await _statuses(conn, account, id, saved)).may_set:
        raise NotAllowed("This status is for others to set.")


async def save(
    context: Context, account: Account, id: UUID, value: Handling, revision: int
) -> Statuses:
    """Save the statuses over the `revision` that they were read at. One that an entry has, or that
    the gate or a dispatch rule names, stays. Raises Invalid, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.handling(conn, id)).value
        saved = await save_part(conn, id, "handling", value, revision, questionnaires.handling)
        _names_differ(value)
        gone = before.keys - value.keys
        spoken_of = there(await questionnaires.gate(conn, id)).value.statuses
        spoken_of |= there(await questionnaires.dispatch(conn, id)).value.statuses
        used = gone & (spoken_of | await entries.statuses_in_use(conn, id)) if gone else frozenset()
        if used:
            names = ", ".join(one.name for one in before.statuses if one.key in used)
            message = f"Entries have this status, or the gate or a rule names it: {names}."
            raise Invalid(message, [Fault(code="in_use", at="statuses", message=message)])
        await note(context, conn, account.id, "statuses_changed", id)
        found = await _statuses(conn, account, id, saved)
        if {*value.team_ids()} - {*found.teams, *before.team_ids()}:
            message = "A team that sets a status is gone. Choose another."
            raise Invalid(message, [Fault(code="no_team", at="statuses", message=message)])
    return found


def _names_differ(value: Handling) -> None:
    names = [one.name.casefold() for one in value.every.values()]
    twice = next(
        (one for one in value.every.values() if names.count(one.name.casefold()) > 1), None
    )
    if twice is not None:
        message = f"Two statuses are called {twice.name}. Give one of them another name."
        raise Invalid(message, [Fault(code="same_name", at="statuses", message=message)])


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


async def _may_take_care(context: Context, conn: Connection, id: UUID, care: Care) -> None:
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
        await may_change(context, conn, account, id, change)

    async def changed(entry_id: UUID) -> None:
        async with context.engine.begin() as conn:
            await may_change(context, conn, account, id, change)
            await change_entry(context, conn, account.id, id, entry_id, change)

    return await each(ids, changed)
