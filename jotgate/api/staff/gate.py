"""The gate: what is set for it, how it stands, and what it would say."""

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.changed import ChangedOut, changed_out
from jotgate.core.gate.decision import ORDER
from jotgate.core.gate.forecast import Forecast
from jotgate.core.gate.settings import Gate, Reason, State
from jotgate.core.gate.timeline import Stands
from jotgate.core.gate.words import default_words
from jotgate.core.records.questionnaires import Saved
from jotgate.services.staff.gate import at_the_gate, gate, gate_standing
from jotgate.services.staff.gate.at_the_gate import Supposed

router = routes("/api/questionnaires/{id}/gate", "gate")
many = routes("/api/gates", "gate")


class GateBody(BaseModel):
    revision: int
    gate: Gate


class GateOut(GateBody):
    """`words` are our own for each reason, in English, as they stand where none are written."""

    words: Mapping[Reason, str] = {}


WORDS: Mapping[Reason, str] = {reason: default_words(reason, "en") for reason in ORDER}


def _gate(saved: Saved[Gate]) -> GateOut:
    return GateOut(revision=saved.revision, gate=saved.value, words=WORDS)


@router.get("")
async def find_gate(id: UUID, context: CurrentContext, account: CurrentAccount) -> GateOut:
    return _gate(await gate.find(context, account, id))


@router.put("")
async def save_gate(
    id: UUID, body: GateBody, context: CurrentContext, account: CurrentAccount
) -> GateOut:
    return _gate(await gate.save(context, account, id, body.gate, body.revision))


class CellOut(BaseModel):
    """`labels` are what its values are called; `most` is null for no limit."""

    cell: str
    labels: list[str]
    taken: int
    held: int
    waiting: int
    most: int | None


class ForecastOut(BaseModel):
    """When it is full; between `low` and `high` in nine cases of ten."""

    at: datetime
    low: datetime
    high: datetime


class PlacesOut(BaseModel):
    key: str
    name: str
    cells: list[CellOut]
    forecast: ForecastOut | None


class StretchOut(BaseModel):
    """How it stands from one moment to another; `by` changed it by hand."""

    stands: Stands
    since: datetime
    until: datetime
    by: str
    note: str


class GateStandingOut(BaseModel):
    """How the gate stands `now`. `open` is by its times, `changes` when that changes next;
    `admitted` whether somebody is let in of whom nothing is known, `reason` why not."""

    now: datetime
    zone: str
    open: bool
    changes: datetime | None
    admitted: bool
    reason: Reason | None
    places: list[PlacesOut]
    answering: int
    stretches: list[StretchOut]


def _forecast(found: Forecast | None) -> ForecastOut | None:
    return ForecastOut(at=found.at, low=found.low, high=found.high) if found else None


@router.get("/standing")
async def gate_standing_now(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> GateStandingOut:
    found = await gate_standing.standing(context, account, id)
    why = found.decision.why[0] if found.decision and found.decision.why else None
    return GateStandingOut(
        now=found.now,
        zone=found.zone,
        open=found.opening.open,
        changes=found.opening.until,
        admitted=found.decision is not None and found.decision.admitted,
        reason=why.reason if why else None,
        places=[
            PlacesOut(
                key=one.places.key,
                name=one.places.name,
                cells=[
                    CellOut(
                        cell=cell.cell,
                        labels=list(cell.labels),
                        most=cell.most,
                        taken=cell.count.taken,
                        held=cell.count.held,
                        waiting=cell.count.waiting,
                    )
                    for cell in one.cells
                ],
                forecast=_forecast(one.forecast),
            )
            for one in found.places
        ],
        answering=found.answering,
        stretches=[StretchOut(**vars(one)) for one in found.stretches],
    )


Local = Annotated[str, StringConstraints(max_length=30)]


class SupposedIn(BaseModel):
    """Who comes, and when: local times in the questionnaire's time zone, now where none is given.
    `contact` is a mail address or key, `claims` what an identity provider says of one who signed
    in, `mail` an address that they confirmed, `given` answers by key."""

    moment: Local | None = None
    has_pass: bool = False
    contact: str = Field("", max_length=254)
    claims: dict[str, Annotated[str, StringConstraints(max_length=500)]] | None = None
    mail: str = Field("", max_length=254)
    answered: int | None = Field(None, ge=0, le=1000)
    last: Local | None = None
    begun: Local | None = None
    given: dict[str, Any] = Field({}, max_length=50)
    language: str = Field("", max_length=40)


class WhyOut(BaseModel):
    """A reason against, with what a visitor reads; `until` is when it ends, where that is known."""

    reason: Reason
    until: datetime | None
    heading: str
    detail: str


class AtTheGateOut(BaseModel):
    """`why` has all reasons against, in their order: a visitor reads the first. `full` names places
    that are full, with their values. `until` is until when they can send."""

    moment: datetime
    admitted: bool
    in_grace: bool
    shuts: datetime | None
    until: datetime | None
    left: int | None
    sign_in: bool
    why: list[WhyOut]
    full: list[list[str]]


@router.post("/at")
async def at_this_gate(
    id: UUID, body: SupposedIn, context: CurrentContext, account: CurrentAccount
) -> AtTheGateOut:
    """What somebody would be told. Nothing is stored."""
    found = await at_the_gate.ask(context, account, id, Supposed(**body.model_dump()))
    decision = found.decision
    return AtTheGateOut(
        moment=found.moment,
        admitted=decision.admitted,
        in_grace=decision.in_grace,
        shuts=decision.shuts,
        until=decision.until,
        left=decision.left,
        sign_in=decision.sign_in,
        why=[
            WhyOut(reason=why.reason, until=why.until, heading=told.heading, detail=told.detail)
            for why, told in zip(decision.why, found.words, strict=True)
        ],
        full=[list(names) for names in found.full],
    )


class OnTheListOut(BaseModel):
    """Somebody on the waiting list; `until` is for when a place is kept for one who was written
    to."""

    id: UUID
    email: str
    joined: datetime
    until: datetime | None


@router.get("/waiting")
async def who_waits(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[OnTheListOut]:
    """In their order, those who were written to included."""
    found = await gate.waiting_for(context, account, id)
    return [
        OnTheListOut(id=one.id, email=one.email, joined=one.joined, until=one.until)
        for one in found
    ]


@router.delete("/waiting/{waiting_id}", status_code=204)
async def take_off_the_list(
    id: UUID, waiting_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await gate.take_off(context, account, id, waiting_id)


class ManyIn(BaseModel):
    ids: list[UUID] = Field(min_length=1, max_length=200)
    state: State
    note: Annotated[str, StringConstraints(max_length=500)] = ""


@many.put("")
async def change_gates(
    body: ManyIn, context: CurrentContext, account: CurrentAccount
) -> list[ChangedOut]:
    """Open, hold or shut many, each for itself."""
    found = await gate.change_many(context, account, body.ids, body.state, body.note)
    return changed_out(found)
