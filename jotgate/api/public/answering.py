"""One page at a time, and the submission. The server decides; see core/path.py."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Header
from pydantic import BaseModel, Field

from jotgate.api.given import GivenHouse
from jotgate.api.problems import PROBLEMS
from jotgate.api.public.questions import QuestionOut, question_out
from jotgate.core.checks import Raw
from jotgate.core.errors import Fault
from jotgate.core.path import FinishAhead, PageAhead
from jotgate.core.questionnaire import Finish
from jotgate.core.wording import say
from jotgate.services import answering, submitting
from jotgate.services.answering import Answers, Move, Visit

router = APIRouter(prefix="/api/public/{address}", tags=["answering"], responses=PROBLEMS)


class PageOut(BaseModel):
    """A page to show. `watched` are the keys whose answers may change it: ask again then.

    `progress` is the share of the pages that lie before this one, 0 to 1. `last` tells that
    answering it leads to a finish.
    """

    kind: Literal["page"]
    title: str
    language: str
    edition: int
    key: str
    heading: str
    items: list[QuestionOut]
    before: str | None
    last: bool
    progress: float
    watched: list[str]
    filled: dict[str, Raw]
    faults: list[Fault]


class ReadyOut(BaseModel):
    """Every page on the path is answered; what is left is to submit."""

    kind: Literal["ready"]


class AnswersIn(BaseModel):
    """The answers so far, of all pages, by key, and the query string of the link."""

    link: str = Field("", max_length=8000)
    edition: int = Field(ge=1)
    answers: dict[str, Any] = Field({}, max_length=5000)

    def core(self) -> Answers:
        return Answers(self.link, self.edition, self.answers)


class PageIn(AnswersIn):
    move: Move
    at: str = Field("", max_length=40)


class FinishOut(BaseModel):
    kind: Literal["finish"]
    heading: str
    message: str


def page_out(visitor: Visit, ahead: PageAhead) -> PageOut:
    document = visitor.plan.questionnaire
    language = document.first_language
    page = ahead.step.page
    return PageOut(
        kind="page",
        title=say(document.title, language, language),
        language=language,
        edition=visitor.edition,
        key=page.key,
        heading=say(page.title, language, language),
        items=[question_out(item, language, visitor.today) for item in ahead.step.shown],
        before=ahead.before,
        last=ahead.last,
        progress=visitor.plan.page_numbers[page.key] / len(document.pages),
        watched=sorted(visitor.plan.watched[page.key]),
        filled={
            item.key: visitor.filled.answers[item.key]
            for item in ahead.step.shown
            if item.key in visitor.filled.answers
        },
        faults=answering.faults_of(visitor.plan, ahead.failed),
    )


def _finish(finish: Finish, language: str) -> FinishOut:
    return FinishOut(
        kind="finish",
        heading=say(finish.title, language, language),
        message=say(finish.message, language, language),
    )


@router.post("/page")
async def page(address: str, body: PageIn, house: GivenHouse) -> PageOut | ReadyOut:
    visitor, ahead = await answering.page(house, address, body.core(), body.move, body.at)
    return ReadyOut(kind="ready") if isinstance(ahead, FinishAhead) else page_out(visitor, ahead)


IdempotencyKey = Annotated[str, Header(min_length=16, max_length=64, pattern=r"^[A-Za-z0-9-]+$")]


@router.post("/entries", status_code=201)
async def submit(
    address: str, body: AnswersIn, idempotency_key: IdempotencyKey, house: GivenHouse
) -> FinishOut:
    taken = await submitting.submit(house, address, body.core(), idempotency_key)
    return _finish(taken.finish, taken.language)
