"""Rounds of outreach: written, drawn, released, stopped."""

from datetime import datetime
from uuid import UUID

from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.mailings import SeenLetterOut, seen_letter
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.core.common.errors import Fault
from jotgate.core.records.rounds import KeptRound, RoundState
from jotgate.core.rounds.round import Round
from jotgate.services.rounds import state
from jotgate.services.staff.rounds import drawing, paper, rounds

router = routes("/api/questionnaires/{id}/rounds", "rounds")


class RoundLine(BaseModel):
    """A round as it is listed."""

    id: UUID
    name: str
    state: RoundState
    made: datetime
    drawn: datetime | None


class PlannedOut(BaseModel):
    """A step that has not gone to a portion yet; without a moment it waits, or one before it."""

    portion: int
    step: str
    moment: datetime | None


class GoneOut(BaseModel):
    """That a step went to `asked` people of a portion."""

    portion: int
    step: str
    began: datetime
    asked: int


class PortionOut(BaseModel):
    number: int
    people: int
    released: datetime | None


class RoundOut(BaseModel):
    """A round with what is wrong with it, which keeps only that from going. Moments of steps are in
    the time zone `zone`, `languages` are those of the questionnaire. `drawn_from` is how many could
    have been drawn."""

    id: UUID
    round: Round
    revision: int
    state: RoundState
    zone: str
    languages: list[str]
    drawn: datetime | None
    drawn_from: int
    portions: list[PortionOut]
    gone: list[GoneOut]
    ahead: list[PlannedOut]
    faults: list[Fault]


class RoundSave(BaseModel):
    revision: int
    round: Round


class SampleOut(BaseModel):
    """By stratum, how many there are to draw from, and how many would be drawn."""

    of: dict[str, int]
    drawn: dict[str, int]


class DrawIn(BaseModel):
    """Without a seed one is made."""

    seed: str = Field("", max_length=80)


class StoppedIn(BaseModel):
    stopped: bool


class StepLetterIn(BaseModel):
    """The letter of the step with this key, as a contact reads it, or an example would."""

    round: Round
    step: str = Field(max_length=40)
    contact_id: UUID | None = None


def round_out(one: state.RoundState, sizes: dict[int, int]) -> RoundOut:
    kept = one.kept
    return RoundOut(
        id=kept.id,
        round=kept.round,
        revision=kept.revision,
        state=kept.state,
        zone=one.zone,
        languages=list(one.around.languages),
        drawn=kept.drawn,
        drawn_from=kept.drawn_from,
        portions=[
            PortionOut(number=number, people=count, released=one.released.get(number))
            for number, count in sizes.items()
        ],
        gone=[
            GoneOut(portion=run.portion, step=run.step, began=run.began, asked=run.asked)
            for run in one.gone
        ],
        ahead=[
            PlannedOut(portion=plan.portion, step=plan.step.key, moment=plan.moment)
            for plan in one.ahead
        ],
        faults=list(one.faults),
    )


def line_of(one: KeptRound) -> RoundLine:
    return RoundLine(
        id=one.id, name=one.round.name, state=one.state, made=one.made, drawn=one.drawn
    )


@router.get("")
async def rounds_of(id: UUID, context: CurrentContext, account: CurrentAccount) -> list[RoundLine]:
    """The newest first."""
    return [line_of(one) for one in await rounds.every(context, account, id)]


@router.post("", status_code=201)
async def make_round(
    id: UUID, body: Round, context: CurrentContext, account: CurrentAccount
) -> RoundOut:
    made = await rounds.make(context, account, id, body)
    return round_out(await rounds.read(context, account, id, made), {})


async def _whole(
    context: CurrentContext, account: CurrentAccount, id: UUID, one: state.RoundState
) -> RoundOut:
    return round_out(one, await drawing.sizes(context, account, id, one.kept))


@router.get("/{round_id}")
async def read_round(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> RoundOut:
    one = await rounds.read(context, account, id, round_id)
    return await _whole(context, account, id, one)


@router.put("/{round_id}")
async def save_round(
    id: UUID, round_id: UUID, body: RoundSave, context: CurrentContext, account: CurrentAccount
) -> RoundOut:
    one = await rounds.save(context, account, id, round_id, body.revision, body.round)
    return await _whole(context, account, id, one)


@router.delete("/{round_id}", status_code=204)
async def remove_round(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await rounds.remove(context, account, id, round_id)


@router.post("/sample")
async def see_sample(
    id: UUID, body: Round, context: CurrentContext, account: CurrentAccount
) -> SampleOut:
    """How many would be drawn of how many, as things are."""
    found = await drawing.seen(context, account, id, body)
    return SampleOut(of=dict(found.of), drawn=dict(found.drawn))


@router.post("/letter")
async def see_letter(
    id: UUID, body: StepLetterIn, context: CurrentContext, account: CurrentAccount
) -> SeenLetterOut:
    return seen_letter(
        *await rounds.preview(context, account, id, body.round, body.step, body.contact_id)
    )


@router.post("/sheet", response_class=Response)
async def see_sheet(
    id: UUID, body: StepLetterIn, context: CurrentContext, account: CurrentAccount
) -> Response:
    """A picture of the letter of a step on paper, as it would be printed."""
    data = await paper.preview(context, account, id, body.round, body.step, body.contact_id)
    return Response(data, media_type="image/webp")


@router.post("/{round_id}/draw")
async def draw_people(
    id: UUID, round_id: UUID, body: DrawIn, context: CurrentContext, account: CurrentAccount
) -> RoundOut:
    """Draw who is asked; that stays as it is from then on."""
    one = await drawing.draw(context, account, id, round_id, body.seed)
    return await _whole(context, account, id, one)


@router.post("/{round_id}/release", status_code=202)
async def release_portion(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    """Release the next portion: its people get their passes, and the first step can go to them."""
    return work_out(await drawing.ask_release(context, account, id, round_id))


@router.put("/{round_id}/stopped")
async def stop_round(
    id: UUID, round_id: UUID, body: StoppedIn, context: CurrentContext, account: CurrentAccount
) -> RoundOut:
    """Stop everything at once, letters that wait too, or let all of it go on."""
    one = await rounds.stop(context, account, id, round_id, body.stopped)
    return await _whole(context, account, id, one)
