"""People and teams: invited, changed, leaving. Nobody can take away the last owner."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account, Person, Team
from jotgate.core.records.trail import Action
from jotgate.core.rights import Role
from jotgate.services import letters, office
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.services.staff.accounts import one_time_links
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, care, factors, parts, sessions, tokens
from jotgate.store.base import Connection

LAST_OWNER = "The office needs an owner without an end. Make somebody else an owner first."
NO_PERSON = "There is no such person."
NO_TEAM = "There is no such team."


@dataclass(frozen=True)
class PersonSettings:
    """What an owner sets for somebody. `role` is for the whole office, None for none; the account
    is closed from `until` on."""

    role: Role | None
    note: str
    until: datetime | None


async def add(context: Context, email: str, name: str, role: Role | None, password: str) -> Account:
    """Make an account with a password, for who runs the installation."""
    account = Account(context.ids.id(), email.strip().lower(), name, role)
    hashed = await context.passwords.hash(password)
    async with context.engine.begin() as conn:
        await accounts.add(conn, account, hashed)
    return account


async def every(context: Context, account: Account) -> tuple[list[Person], list[Team]]:
    in_office(account, "run")
    async with context.engine.connect() as conn:
        return await accounts.people(conn), await parts.every_team(conn)


async def invite(
    context: Context, account: Account, name: str, email: str, wanted: PersonSettings, says: str
) -> UUID:
    """Make an account that its person sets a password for by a letter; its id. Raises Invalid."""
    in_office(account, "run")
    made = Account(context.ids.id(), email.strip().lower(), " ".join(name.split()), wanted.role)
    _not_over(context, wanted)
    try:
        async with context.engine.begin() as conn:
            await accounts.add(conn, made, None, wanted.note, wanted.until)
            await one_time_links.invite(context, conn, made, account, says)
            await note(context, conn, account.id, "invited", about=made.id, role=wanted.role)
    except AlreadyThere:
        message = "Somebody with this address is here already, or was. Look in the list."
        raise Invalid(message, [Fault(code="taken", at="email", message=message)]) from None
    return made.id


def _not_over(context: Context, wanted: PersonSettings) -> None:
    if wanted.until is not None and wanted.until <= context.clock.now():
        message = "The end lies in the past."
        raise Invalid(message, [Fault(code="past", at="until", message=message)])


async def invite_again(context: Context, account: Account, id: UUID) -> None:
    """Send another letter to somebody who has not set a password yet; the earlier one ends."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        person = await _there(conn, id)
        if person.state(context.clock.now()) != "invited":
            raise Invalid("This person has come in already, or their account is closed.")
        invited = Account(person.id, person.email, person.name, person.role)
        await one_time_links.invite(context, conn, invited, account, "")
        await note(context, conn, account.id, "invited", about=id, again=True)


async def _there(conn: Connection, id: UUID) -> Person:
    found = await accounts.person(conn, id)
    if found is None:
        raise NotFound(NO_PERSON)
    return found


async def change(context: Context, account: Account, id: UUID, wanted: PersonSettings) -> None:
    """Give another role, note or end. Raises Invalid."""
    in_office(account, "run")
    now = context.clock.now()
    async with context.engine.begin() as conn:
        before = await _there(conn, id)
        if before.left is not None:
            raise Invalid("This account is closed. Open it again first.")
        if wanted.until != before.until:
            _not_over(context, wanted)
        await _keep_an_owner(conn, now, id, lasting=wanted.role == "owner" and not wanted.until)
        await accounts.change(conn, id, role=wanted.role, note=wanted.note, until=wanted.until)
        await note(
            context,
            conn,
            account.id,
            "person_changed",
            about=id,
            role=wanted.role,
            until=wanted.until.isoformat() if wanted.until else None,
        )


async def _keep_an_owner(conn: Connection, now: datetime, id: UUID, lasting: bool) -> None:
    """Raise Invalid where no owner without an end would be left, if `id` is one or not."""
    owners = await accounts.lasting_owners(conn, now)
    if not lasting and owners <= {id}:
        raise Invalid(LAST_OWNER, [Fault(code="last_owner", at="role", message=LAST_OWNER)])


async def leave(context: Context, account: Account, id: UUID, successor: UUID | None) -> None:
    """Close somebody's account, pass their parts on to `successor`, and end all that lets them in.
    Their name stays on what they did. People may leave by themselves. Raises Invalid."""
    if id != account.id:
        in_office(account, "run")
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await _there(conn, id)
        await _keep_an_owner(conn, now, id, lasting=False)
        heir = None
        if successor is not None:
            heir = await accounts.by_id(conn, successor, now)
            if heir is None or successor == id:
                message = "Choose somebody else whose account is open."
                raise Invalid(message, [Fault(code="no_person", at="successor", message=message)])
            await parts.pass_on(conn, id, successor)
        await care.pass_on(conn, id, successor)
        await _close(conn, id, now)
        passed: dict[str, Any] = {"to": heir.name} if heir else {}
        await note(context, conn, account.id, "person_left", about=id, **passed)


async def _close(conn: Connection, id: UUID, now: datetime) -> None:
    await accounts.change(conn, id, left=now, role=None, password_hash=None, subject=None)
    await parts.forget_of(conn, id)
    await factors.forget(conn, id)
    await accounts.forget_links(conn, id)
    await sessions.end_all(conn, id)
    await sessions.forget_devices(conn, id)
    await tokens.end_all(conn, id)


async def come_back(context: Context, account: Account, id: UUID, role: Role | None) -> None:
    """Open the account of somebody who has left, who sets a new password by a letter."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        person = await _there(conn, id)
        if person.left is None:
            raise Invalid("This person has not left.")
        await accounts.change(conn, id, left=None, until=None, role=role)
        invited = Account(id, person.email, person.name, role)
        await one_time_links.invite(context, conn, invited, account, "")
        await note(context, conn, account.id, "invited", about=id, role=role)


async def reset_factors(context: Context, account: Account, id: UUID) -> None:
    """Take away the second factors of somebody who lost them; their sessions end, and they are
    told."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        person = await _there(conn, id)
        await factors.forget(conn, id)
        await sessions.end_all(conn, id)
        await note(context, conn, account.id, "factors_reset", about=id)
        await letters.ask(context, conn, await _reset_letter(context, person, account))


async def _reset_letter(context: Context, person: Person, by: Account) -> Written:
    name = (await office.current(context)).name
    return Written(
        person.email,
        f"Your second factor was taken away: {name}",
        f"Hello {person.name},\n\n{by.name} has taken away your second factor at {name}, so that "
        "you can sign in with your password and set up another one. You were signed out "
        "everywhere.\n\nIf you did not ask for that, say so at once.\n",
    )


async def end_sessions(context: Context, account: Account, id: UUID) -> None:
    """Sign somebody out everywhere."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        await _there(conn, id)
        await sessions.end_all(conn, id)
        await note(context, conn, account.id, "sessions_ended", about=id, count="all")


async def save_team(
    context: Context,
    account: Account,
    id: UUID | None,
    name: str,
    address: str,
    members: Sequence[UUID],
) -> Team:
    """Make a team, or change the one with `id`. Raises Invalid, NotFound."""
    in_office(account, "run")
    now = context.clock.now()
    team = Team(id or context.ids.id(), " ".join(name.split()), address, tuple(members))
    try:
        async with context.engine.begin() as conn:
            for one in team.members:
                if await accounts.by_id(conn, one, now) is None:
                    raise NotFound(NO_PERSON)
            if id is None:
                await parts.add_team(conn, team)
            elif not await parts.change_team(conn, team):
                raise NotFound(NO_TEAM)
            action: Action = "team_changed" if id else "team_made"
            await note(context, conn, account.id, action, name=team.name, size=len(members))
    except AlreadyThere:
        message = f"There is a team named {team.name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None
    return team


async def remove_team(context: Context, account: Account, id: UUID) -> None:
    in_office(account, "run")
    async with context.engine.begin() as conn:
        name = await parts.remove_team(conn, id)
        if name is None:
            raise NotFound(NO_TEAM)
        await note(context, conn, account.id, "team_removed", name=name)
