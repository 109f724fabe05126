"""Asking what somebody may do, before anything else is done."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotAllowed, NotFound
from jotgate.core.records.accounts import Account, Clearance
from jotgate.core.rights import (
    IN_OFFICE,
    IN_THING,
    SAYS,
    OfficeRight,
    Right,
    Role,
    Thing,
    reaches,
    strongest,
)
from jotgate.store.accounts import parts
from jotgate.store.base import Connection

NO_CLEARANCE = "You have no clearance for the restricted answers of this one."


def in_office(account: Account, right: OfficeRight) -> None:
    """Raise NotAllowed where `account` does not have `right` in the whole office."""
    if not account.may(right):
        raise NotAllowed(
            f"Only the {'owners' if IN_OFFICE[right] == 'owner' else 'coordinators'} "
            "of the office can do this."
        )


async def role_in(conn: Connection, account: Account, thing: Thing, id: UUID) -> Role | None:
    """The role of `account` in a questionnaire or a register, through the office too."""
    if account.role == "owner":
        return account.role
    return strongest((account.role, await parts.role_in(conn, account.id, thing, id)))


async def needs(
    conn: Connection, account: Account, right: Right, id: UUID, thing: Thing = "questionnaire"
) -> None:
    """Raise NotFound for a thing that `account` has no part in, as if there were none, and
    NotAllowed where the part is not enough for `right`."""
    if reaches(account.role, IN_THING[right]):
        return
    role = await role_in(conn, account, thing, id)
    if role is None:
        raise NotFound(f"There is no such {thing}.")
    if not reaches(role, IN_THING[right]):
        raise NotAllowed(SAYS[right])


async def writes_somewhere(conn: Connection, account: Account) -> None:
    """Raise NotAllowed for somebody who has an office-wide role in nothing and writes nothing."""
    given = await parts.roles_in(conn, account.id, "questionnaire")
    if account.role is None and not any(reaches(one, "coordinator") for one in given.values()):
        raise NotAllowed("The question bank is for those who write questionnaires.")


class Roles:
    """The role of somebody in every questionnaire, or every register."""

    def __init__(self, account: Account, given: Mapping[UUID, Role]) -> None:
        self._office = account.role
        self._given = given

    def of(self, id: UUID) -> Role | None:
        return strongest((self._office, self._given.get(id)))


async def roles(conn: Connection, account: Account, thing: Thing) -> Roles:
    return Roles(account, await parts.roles_in(conn, account.id, thing))


async def clearance(
    conn: Connection, account: Account, questionnaire_id: UUID, now: datetime
) -> Clearance | None:
    """The clearance that `account` has now for a questionnaire that it may read."""
    if not account.cleared:
        return None
    return await parts.clearance(conn, account.id, questionnaire_id, now)


def needs_reason(asks: bool, reason: str) -> None:
    """Raise Invalid where a clearance asks for a reason and none is given."""
    if asks and not reason.strip():
        message = "Say why you have to see this. The reason stands on the trail."
        raise Invalid(message, [Fault(code="no_reason", at="reason", message=message)])


def told_why(account: Account, reason: str) -> dict[str, Any]:
    """What the trail keeps of why somebody saw what is restricted, and by which token."""
    why: dict[str, Any] = {"reason": " ".join(reason.split())} if reason.strip() else {}
    return why | ({"token": account.token} if account.token else {})
