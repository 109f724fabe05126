"""Working through entries: their statuses, the archive, and deleting them. No token opens these."""

from typing import Self
from uuid import UUID

from pydantic import BaseModel, Field, model_validator

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.changed import ChangedOut, changed_out
from jotgate.api.staff.entries import CalledOut
from jotgate.core.handling import Care, Handling
from jotgate.services.handling import Change
from jotgate.services.staff import handling, removing

router = routes("/api/questionnaires/{id}", "handling")


class HandlingBody(BaseModel):
    revision: int
    handling: Handling


@router.get("/statuses")
async def find_statuses(id: UUID, context: CurrentContext, account: CurrentAccount) -> HandlingBody:
    saved = await handling.find(context, account, id)
    return HandlingBody(revision=saved.revision, handling=saved.value)


@router.put("/statuses")
async def save_statuses(
    id: UUID, body: HandlingBody, context: CurrentContext, account: CurrentAccount
) -> HandlingBody:
    """One that entries have, or that the gate names, stays."""
    saved = await handling.save(context, account, id, body.handling, body.revision)
    return HandlingBody(revision=saved.revision, handling=saved.value)


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
