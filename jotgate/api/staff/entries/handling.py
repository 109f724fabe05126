"""Working through entries: their statuses, the archive, and deleting them. No token opens these."""

from typing import Self
from uuid import UUID

from pydantic import BaseModel, Field, model_validator

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.changed import ChangedOut, changed_out
from jotgate.api.staff.entries.entry_words import CalledOut
from jotgate.core.handling import Care, Handling
from jotgate.services.handling import Change
from jotgate.services.staff.entries import handling, removing, statuses

router = routes("/api/questionnaires/{id}", "handling")


class HandlingBody(BaseModel):
    revision: int
    handling: Handling


class HandlingOut(HandlingBody):
    """`may_set` are the keys of the statuses that the reader may set; `teams` are all there are."""

    may_set: list[str]
    teams: list[CalledOut]


def _out(found: handling.Statuses) -> HandlingOut:
    return HandlingOut(
        revision=found.saved.revision,
        handling=found.saved.value,
        may_set=sorted(found.may_set),
        teams=[CalledOut(id=one, name=name) for one, name in found.teams.items()],
    )


@router.get("/statuses")
async def find_statuses(id: UUID, context: CurrentContext, account: CurrentAccount) -> HandlingOut:
    return _out(await handling.find(context, account, id))


@router.put("/statuses")
async def save_statuses(
    id: UUID, body: HandlingBody, context: CurrentContext, account: CurrentAccount
) -> HandlingOut:
    """One that entries have, or that the gate or a rule names, stays."""
    return _out(await handling.save(context, account, id, body.handling, body.revision))


class GoingOut(BaseModel):
    """So many entries are let go at once, and so many within a week."""

    now: int
    soon: int


@router.post("/statuses/keeping")
async def what_keeping_means(
    id: UUID, body: HandlingBody, context: CurrentContext, account: CurrentAccount
) -> GoingOut:
    """What would be let go by itself, were these saved."""
    return GoingOut(**vars(await statuses.going(context, account, id, body.handling)))


class StandOut(BaseModel):
    """So many entries have the status under `key`, `late` of them for too long."""

    key: str
    entries: int
    late: int


@router.get("/standing")
async def entries_standing(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[StandOut]:
    """Each status in its order, without the archive; late ones are counted up to a thousand."""
    return [StandOut(**vars(one)) for one in await statuses.standing(context, account, id)]


class CarersOut(BaseModel):
    """Who may be set to take care of entries."""

    people: list[CalledOut]
    teams: list[CalledOut]


@router.get("/carers")
async def find_carers(id: UUID, context: CurrentContext, account: CurrentAccount) -> CarersOut:
    found = await handling.carers(context, account, id)
    return CarersOut(
        people=[CalledOut(id=one, name=name) for one, name in found.people.items()],
        teams=[CalledOut(id=one, name=name) for one, name in found.teams.items()],
    )


class CareIn(BaseModel):
    """A person or a team that takes care; nobody where neither is there."""

    person_id: UUID | None = None
    team_id: UUID | None = None

    @model_validator(mode="after")
    def _one(self) -> Self:
        if self.person_id and self.team_id:
            raise ValueError("either a person or a team takes care")
        return self


class HandleIn(BaseModel):
    """`status` is the key of one, empty for none; what is null stays as it is."""

    ids: list[UUID] = Field(min_length=1, max_length=200)
    status: str | None = Field(None, max_length=40)
    archived: bool | None = None
    care: CareIn | None = None


@router.post("/entries/handling")
async def handle_entries(
    id: UUID, body: HandleIn, context: CurrentContext, account: CurrentAccount
) -> list[ChangedOut]:
    """Change many, each for itself."""
    care = Care(body.care.person_id, body.care.team_id) if body.care else None
    change = Change(body.status, body.archived, care)
    return changed_out(await handling.handle(context, account, id, body.ids, change))


@router.delete("/entries/{entry_id}", status_code=204)
async def delete_entry(
    id: UUID, entry_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    """For good; its place is given back."""
    await removing.remove(context, account, id, entry_id)
