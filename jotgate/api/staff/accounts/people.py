"""People and teams, for owners of the office."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.accounts.own_account import Leaving, Name
from jotgate.core.office import Address
from jotgate.core.records.accounts import Person, PersonState, Team
from jotgate.core.rights import Role
from jotgate.services.staff.accounts import people
from jotgate.services.staff.accounts.people import PersonSettings

router = routes("/api", "people")


class PersonOut(BaseModel):
    """Somebody of the office. `protected` says that they have a second factor."""

    id: UUID
    name: str
    email: str
    role: Role | None
    note: str
    until: datetime | None
    left: datetime | None
    seen: datetime | None
    state: PersonState
    protected: bool
    teams: list[UUID]


class TeamOut(BaseModel):
    id: UUID
    name: str
    address: str
    members: list[UUID]


class PeopleOut(BaseModel):
    people: list[PersonOut]
    teams: list[TeamOut]


class PersonIn(BaseModel):
    role: Role | None
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    until: AwareDatetime | None = None

    def settings(self) -> PersonSettings:
        return PersonSettings(self.role, self.note, self.until)


class Invitation(PersonIn):
    """`says` goes into the letter."""

    name: Name
    email: Address = Field(min_length=3)
    says: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)] = ""


class Invited(BaseModel):
    id: UUID


def person_out(one: Person, now: datetime) -> PersonOut:
    return PersonOut(
        id=one.id,
        name=one.name,
        email=one.email,
        role=one.role,
        note=one.note,
        until=one.until,
        left=one.left,
        seen=one.seen,
        state=one.state(now),
        protected=one.protected,
        teams=list(one.teams),
    )


def team_out(one: Team) -> TeamOut:
    return TeamOut(id=one.id, name=one.name, address=one.address, members=list(one.members))


@router.get("/people")
async def every_person(context: CurrentContext, account: CurrentAccount) -> PeopleOut:
    found, teams = await people.every(context, account)
    now = context.clock.now()
    return PeopleOut(
        people=[person_out(one, now) for one in found], teams=[team_out(one) for one in teams]
    )


@router.post("/people", status_code=201)
async def invite(body: Invitation, context: CurrentContext, account: CurrentAccount) -> Invited:
    """Make an account, and send a letter to set its password with."""
    settings = body.settings()
    id = await people.invite(context, account, body.name, body.email, settings, body.says)
    return Invited(id=id)


@router.put("/people/{id}", status_code=204)
async def change_person(
    id: UUID, body: PersonIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await people.change(context, account, id, body.settings())


@router.post("/people/{id}/invitation", status_code=204)
async def invite_again(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    await people.invite_again(context, account, id)


class ComingBack(BaseModel):
    role: Role | None


@router.post("/people/{id}/return", status_code=204)
async def come_back(
    id: UUID, body: ComingBack, context: CurrentContext, account: CurrentAccount
) -> None:
    """Open the account of somebody who has left."""
    await people.come_back(context, account, id, body.role)


@router.post("/people/{id}/leave", status_code=204)
async def leave(id: UUID, body: Leaving, context: CurrentContext, account: CurrentAccount) -> None:
    """Close somebody's account, and pass on what they had in hand."""
    await people.leave(context, account, id, body.successor)


@router.delete("/people/{id}/factors", status_code=204)
async def reset_factors(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    """Take away the second factors of somebody who lost them."""
    await people.reset_factors(context, account, id)


@router.delete("/people/{id}/sessions", status_code=204)
async def end_sessions(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    await people.end_sessions(context, account, id)


class TeamIn(BaseModel):
    name: Name
    address: Address = ""
    members: list[UUID] = Field([], max_length=500)


@router.post("/teams", status_code=201)
async def make_team(body: TeamIn, context: CurrentContext, account: CurrentAccount) -> TeamOut:
    made = await people.save_team(context, account, None, body.name, body.address, body.members)
    return team_out(made)


@router.put("/teams/{id}")
async def change_team(
    id: UUID, body: TeamIn, context: CurrentContext, account: CurrentAccount
) -> TeamOut:
    made = await people.save_team(context, account, id, body.name, body.address, body.members)
    return team_out(made)


@router.delete("/teams/{id}", status_code=204)
async def remove_team(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    await people.remove_team(context, account, id)
