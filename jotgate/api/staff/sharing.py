"""Who works on a questionnaire or a register, and clearance."""

from datetime import datetime
from uuid import UUID

from pydantic import AwareDatetime, BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.accounts.people import PersonOut, TeamOut, person_out, team_out
from jotgate.core.rights import Role
from jotgate.services.context import Context
from jotgate.services.staff import sharing
from jotgate.services.staff.sharing import Shared

router = routes("/api", "sharing")


class PartOut(BaseModel):
    """A role, of a person or of a team."""

    id: UUID
    role: Role
    account_id: UUID | None
    team_id: UUID | None


class ClearanceOut(BaseModel):
    account_id: UUID
    given: datetime
    given_by: UUID
    until: datetime | None
    asks_reason: bool


class SharedOut(BaseModel):
    """`people` and `teams` are those that can be given a part."""

    parts: list[PartOut]
    clearances: list[ClearanceOut]
    people: list[PersonOut]
    teams: list[TeamOut]


class PartIn(BaseModel):
    """For a person, or for a team."""

    role: Role
    account_id: UUID | None = None
    team_id: UUID | None = None


class ClearanceIn(BaseModel):
    until: AwareDatetime | None = None
    asks_reason: bool = False


def _out(context: Context, found: Shared) -> SharedOut:
    now = context.clock.now()
    return SharedOut(
        parts=[PartOut(**vars(one)) for one in found.parts],
        clearances=[
            ClearanceOut(
                account_id=one.account_id,
                given=one.given,
                given_by=one.given_by,
                until=one.until,
                asks_reason=one.asks_reason,
            )
            for one in found.clearances
        ],
        people=[person_out(one, now) for one in found.people],
        teams=[team_out(one) for one in found.teams],
    )


@router.get("/questionnaires/{id}/parts")
async def questionnaire_parts(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> SharedOut:
    return _out(context, await sharing.shared(context, account, "questionnaire", id))


@router.post("/questionnaires/{id}/parts", status_code=204)
async def give_questionnaire_part(
    id: UUID, body: PartIn, context: CurrentContext, account: CurrentAccount
) -> None:
    """Give somebody or a team a part, or another role."""
    given = (body.role, body.account_id, body.team_id)
    await sharing.give(context, account, "questionnaire", id, *given)


@router.delete("/questionnaires/{id}/parts/{part_id}", status_code=204)
async def take_questionnaire_part(
    id: UUID, part_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await sharing.take(context, account, "questionnaire", id, part_id)


@router.put("/questionnaires/{id}/clearances/{person}", status_code=204)
async def give_clearance(
    id: UUID, person: UUID, body: ClearanceIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await sharing.clear(context, account, id, person, body.until, body.asks_reason)


@router.delete("/questionnaires/{id}/clearances/{person}", status_code=204)
async def end_clearance(
    id: UUID, person: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await sharing.end_clearance(context, account, id, person)


@router.get("/registers/{id}/parts")
async def register_parts(id: UUID, context: CurrentContext, account: CurrentAccount) -> SharedOut:
    return _out(context, await sharing.shared(context, account, "register", id))


@router.post("/registers/{id}/parts", status_code=204)
async def give_register_part(
    id: UUID, body: PartIn, context: CurrentContext, account: CurrentAccount
) -> None:
    given = (body.role, body.account_id, body.team_id)
    await sharing.give(context, account, "register", id, *given)


@router.delete("/registers/{id}/parts/{part_id}", status_code=204)
async def take_register_part(
    id: UUID, part_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await sharing.take(context, account, "register", id, part_id)
