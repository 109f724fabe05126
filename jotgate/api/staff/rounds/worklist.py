"""The worklist of calls and visits: one contact after the other."""

from datetime import datetime
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.rounds.following import PersonAskedOut, person_out
from jotgate.core.rounds.round import Way
from jotgate.core.rounds.standing import Outcome
from jotgate.services.staff.rounds import worklist
from jotgate.services.staff.rounds.worklist import Told

router = routes("/api/questionnaires/{id}/rounds/{round_id}/worklist", "rounds")


class FactOut(BaseModel):
    """What is known of a contact in one field."""

    field: str
    label: str
    text: str


class UpOut(BaseModel):
    """Who is to be rung or visited, with what is known of the contact; `script` is what to say, in
    their language. Nobody else gets them until `until`."""

    step: str
    step_name: str
    way: Way
    facts: list[FactOut]
    zone: str
    script: str
    person: PersonAskedOut
    until: datetime


class WorklistOut(BaseModel):
    """`waiting` are up by now, `later` is when the next one is after that."""

    up: UpOut | None
    waiting: int
    later: datetime | None


class ToldIn(BaseModel):
    """What came of it; `again` is when they want to be tried again, for that outcome alone."""

    contact_id: UUID
    outcome: Outcome
    again: AwareDatetime | None = None
    note: str = Field("", max_length=2_000)


class AgainOut(BaseModel):
    again: datetime | None


class EnterForIn(BaseModel):
    contact_id: UUID


class EnterForOut(BaseModel):
    path: str


def _out(found: worklist.Worklist) -> WorklistOut:
    up = found.up
    return WorklistOut(
        up=up
        and UpOut(
            step=up.step.key,
            step_name=up.step.name,
            way=up.step.way,
            facts=[
                FactOut(field=name, label=label, text=text)
                for name, (label, text) in up.known.items()
            ],
            zone=up.zone,
            script=up.script,
            person=person_out(up.named),
            until=up.until,
        ),
        waiting=found.waiting,
        later=found.later,
    )


@router.get("")
async def look_at_worklist(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorklistOut:
    """Who one has taken, and how many are up."""
    return _out(await worklist.look(context, account, id, round_id, take=False))


@router.post("/next")
async def take_next(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorklistOut:
    """Take whoever is up next; nobody else gets them meanwhile."""
    return _out(await worklist.look(context, account, id, round_id, take=True))


@router.post("/outcome")
async def tell_outcome(
    id: UUID, round_id: UUID, body: ToldIn, context: CurrentContext, account: CurrentAccount
) -> AgainOut:
    told = Told(body.outcome, body.again, body.note)
    again = await worklist.tell(context, account, id, round_id, body.contact_id, told)
    return AgainOut(again=again)


@router.post("/enter")
async def enter_for(
    id: UUID, round_id: UUID, body: EnterForIn, context: CurrentContext, account: CurrentAccount
) -> EnterForOut:
    """The page on which one enters what they say, with their pass."""
    return EnterForOut(path=await worklist.enter(context, account, id, round_id, body.contact_id))


@router.delete("", status_code=204)
async def put_back(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    """Give back whom one has taken, as if nothing had been."""
    await worklist.put_back(context, account, id, round_id)
