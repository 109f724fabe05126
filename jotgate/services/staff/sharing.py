"""Parts in a questionnaire or a register, and clearance."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account, Clearance, Part, Person, Team
from jotgate.core.rights import Role, Thing
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs, role_in
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, parts
from jotgate.store.base import Connection

NOBODY = "Choose somebody whose account is open, or a team."


@dataclass(frozen=True)
class Shared:
    """Who works on a thing. `people` and `teams` are those that can be given a part; people with a
    role in the whole office have it here too."""

    parts: tuple[Part, ...]
    clearances: tuple[Clearance, ...]
    people: tuple[Person, ...]
    teams: tuple[Team, ...]


async def shared(context: Context, account: Account, thing: Thing, id: UUID) -> Shared:
    """Raises NotFound, NotAllowed."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "share", id, thing)
        given = await parts.of_thing(conn, thing, id)
        cleared = await parts.clearances_in(conn, id) if thing == "questionnaire" else []
        now = context.clock.now()
        people = [one for one in await accounts.people(conn) if one.state(now) != "left"]
        teams = await parts.every_team(conn)
    return Shared(tuple(given), tuple(cleared), tuple(people), tuple(teams))


def _places(thing: Thing, id: UUID) -> dict[str, Any]:
    return {"questionnaire_id" if thing == "questionnaire" else "register_id": id}


async def give(
    context: Context,
    account: Account,
    thing: Thing,
    id: UUID,
    role: Role,
    person: UUID | None = None,
    team: UUID | None = None,
) -> None:
    """Give a person or a team a part, or another role. Raises Invalid, NotFound, NotAllowed."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "share", id, thing)
        name = await _name(context, conn, person, team)
        await parts.give(conn, Part(context.ids.id(), role, person, team), thing, id)
        await note(
            context,
            conn,
            account.id,
            "part_given",
            **_places(thing, id),
            about=person,
            role=role,
            name=name,
        )


async def _name(context: Context, conn: Connection, person: UUID | None, team: UUID | None) -> str:
    if person is not None and team is None:
        found = await accounts.by_id(conn, person, context.clock.now())
        if found is not None:
            return found.name
    elif team is not None and person is None:
        for one in await parts.every_team(conn):
            if one.id == team:
                return one.name
    raise Invalid(NOBODY, [Fault(code="nobody", at="person", message=NOBODY)])


async def take(context: Context, account: Account, thing: Thing, id: UUID, part_id: UUID) -> None:
    """Take a part away. The owners of the office stay owners of everything."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "share", id, thing)
        part = await parts.take(conn, thing, id, part_id)
        if part is None:
            raise NotFound("This part was taken away already.")
        await note(
            context,
            conn,
            account.id,
            "part_taken",
            **_places(thing, id),
            about=part.account_id,
            role=part.role,
        )


async def clear(
    context: Context,
    account: Account,
    id: UUID,
    person: UUID,
    until: datetime | None,
    asks_reason: bool,
) -> None:
    """Give clearance to somebody who can read the entries. Raises Invalid, NotFound, NotAllowed."""
    now = context.clock.now()
    if until is not None and until <= now:
        message = "The end lies in the past."
        raise Invalid(message, [Fault(code="past", at="until", message=message)])
    async with context.engine.begin() as conn:
        await needs(conn, account, "share", id)
        whom = await accounts.by_id(conn, person, now)
        if whom is None or await role_in(conn, whom, "questionnaire", id) is None:
            message = "Give this person a part in the questionnaire first."
            raise Invalid(message, [Fault(code="no_part", at="person", message=message)])
        await parts.clear(conn, Clearance(person, id, now, account.id, until, asks_reason))
        ends: dict[str, Any] = {"until": until.isoformat()} if until else {}
        await note(
            context,
            conn,
            account.id,
            "clearance_given",
            id,
            about=person,
            asks_reason=asks_reason,
            **ends,
        )


async def end_clearance(context: Context, account: Account, id: UUID, person: UUID) -> None:
    """Take clearance away, at once."""
    async with context.engine.begin() as conn:
        if person != account.id:
            await needs(conn, account, "share", id)
        else:
            await needs(conn, account, "read", id)
        if not await parts.end_clearance(conn, person, id):
            raise NotFound("This clearance has ended already.")
        await note(context, conn, account.id, "clearance_ended", id, about=person)
