"""How a round goes, and who is behind each number."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Query
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.rounds.dispositions import DISPOSITIONS
from jotgate.core.rounds.rates import FORMULAS, Rate, rate_name
from jotgate.core.rounds.round import Way
from jotgate.core.rounds.standing import Standing
from jotgate.services.staff.rounds import coding, names, progress
from jotgate.services.staff.rounds.names import Named, Which

router = routes("/api/questionnaires/{id}/rounds/{round_id}", "rounds")


class StepCountOut(BaseModel):
    """How those stood whom a step could go to, before the next one went, or stand now."""

    step: str
    asked: int
    stands: dict[Standing, int]
    letters: dict[str, int]


class AheadOut(BaseModel):
    """A step that is still to go, to so many as they stand now."""

    portion: int
    step: str
    moment: datetime | None
    people: int


class RateOut(BaseModel):
    """An outcome rate by AAPOR's Standard Definitions; `value` is from 0 to 1, none where nothing
    stands below the line of its formula."""

    rate: Rate
    name: str
    above: str
    below: str
    value: float | None


class CodeOut(BaseModel):
    code: str
    name: str
    people: int


class RangeOut(BaseModel):
    low: int
    high: int


class RoundProgressOut(BaseModel):
    """`lately` is how many answered within seven days; `share_eligible` is the e of the rates;
    `expected` how many will likely have answered by the end."""

    drawn: int
    released: int
    reached: int
    lately: int
    strata: dict[str, dict[Standing, int]]
    codes: list[CodeOut]
    steps: list[StepCountOut]
    ahead: list[AheadOut]
    rates: list[RateOut]
    share_eligible: float
    expected: RangeOut | None


class TriedOut(BaseModel):
    """Something that was tried: a letter with what became of it, a call or a visit with its
    outcome."""

    step: str
    way: Way
    at: datetime
    outcome: str
    note: str


class PersonAskedOut(BaseModel):
    """Somebody in a round; `by_hand` is why somebody set the code. `next_step` goes to them at
    `next_at`."""

    contact_id: UUID
    number: int
    name: str
    stratum: str
    portion: int
    stands: Standing
    code: str
    code_name: str
    by_hand: str
    tried: list[TriedOut]
    next_step: str
    next_at: datetime | None


class PeopleAskedOut(BaseModel):
    people: list[PersonAskedOut]
    more: bool


class DispositionIn(BaseModel):
    """An empty code has it follow from what happened again."""

    code: str = Field("", max_length=10)
    why: str = Field("", max_length=500)


def person_out(one: Named) -> PersonAskedOut:
    letters = [
        TriedOut(
            step=step,
            way=way,
            at=letter.changed,
            outcome=letter.state,
            note=letter.error,
        )
        for step, way, letter in one.letters
    ]
    others = [
        TriedOut(
            step=attempt.step,
            way="visit" if attempt.way == "visit" else "call",
            at=attempt.at,
            outcome=attempt.outcome,
            note=attempt.note,
        )
        for attempt in one.attempts
    ]
    asked = one.asked
    return PersonAskedOut(
        contact_id=asked.contact_id,
        number=one.number,
        name=asked.name,
        stratum=asked.stratum,
        portion=asked.portion,
        stands=one.stands,
        code=one.code,
        code_name=DISPOSITIONS[one.code].name,
        by_hand=asked.code_why,
        tried=sorted([*letters, *others], key=lambda each: each.at),
        next_step=one.next_step,
        next_at=one.next_at,
    )


@router.get("/progress")
async def progress_of_round(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> RoundProgressOut:
    found = await progress.progress(context, account, id, round_id)
    return RoundProgressOut(
        drawn=found.drawn,
        released=found.released,
        reached=found.reached,
        lately=found.lately,
        strata={name: dict(one) for name, one in found.strata.items()},
        codes=[
            CodeOut(code=code, name=DISPOSITIONS[code].name, people=people)
            for code, people in found.codes.items()
        ],
        steps=[
            StepCountOut(
                step=one.step, asked=one.asked, stands=dict(one.stands), letters=dict(one.letters)
            )
            for one in found.steps
        ],
        ahead=[
            AheadOut(
                portion=one.planned.portion,
                step=one.planned.step.key,
                moment=one.planned.moment,
                people=one.people,
            )
            for one in found.ahead
        ],
        rates=[
            RateOut(
                rate=rate,
                name=rate_name(rate),
                above=FORMULAS[rate][0],
                below=FORMULAS[rate][1],
                value=None if value is None else float(value),
            )
            for rate, value in found.rates.items()
        ],
        share_eligible=float(found.share_eligible),
        expected=found.expected and RangeOut(low=found.expected.low, high=found.expected.high),
    )


@router.get("/people")
async def people_of_round(
    id: UUID,
    round_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    stands: Standing | None = None,
    code: Annotated[str, Query(max_length=10)] = "",
    stratum: Annotated[str | None, Query(max_length=500)] = None,
    after_step: Annotated[str, Query(max_length=40)] = "",
    ahead: Annotated[str, Query(max_length=40)] = "",
    portion: Annotated[int, Query(ge=1, le=1000)] = 1,
    behind: Annotated[int, Query(ge=0, le=2_000_000)] = 0,
) -> PeopleAskedOut:
    """Those who stand so, as they stand now or stood before the step after `after_step` went; or to
    whom the step `ahead` will go. At most fifty, behind the number `behind`."""
    which = Which(stands, code, stratum, after_step, ahead, portion, behind)
    found, more = await names.names(context, account, id, round_id, which)
    return PeopleAskedOut(people=[person_out(one) for one in found], more=more)


@router.get("/people/{contact_id}")
async def person_of_round(
    id: UUID, round_id: UUID, contact_id: UUID, context: CurrentContext, account: CurrentAccount
) -> PersonAskedOut:
    return person_out(await names.person(context, account, id, round_id, contact_id))


@router.put("/people/{contact_id}/code", status_code=204)
async def code_person(
    id: UUID,
    round_id: UUID,
    contact_id: UUID,
    body: DispositionIn,
    context: CurrentContext,
    account: CurrentAccount,
) -> None:
    """Give somebody a disposition by hand."""
    given = (body.code, body.why)
    await coding.code(context, account, id, round_id, contact_id, given)
