"""One page at a time, and the submission. The server decides; see core/path.py."""

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Header
from pydantic import BaseModel, Field

from jotgate.api.given import GivenHouse
from jotgate.api.problems import PROBLEMS
from jotgate.core.checks import Raw
from jotgate.core.errors import Fault
from jotgate.core.path import FinishAhead, PageAhead
from jotgate.core.questionnaire import Finish, LongText, Note, Number, Option, ShortText, options_of
from jotgate.core.questionnaire import Question as AnyQuestion
from jotgate.core.wording import say
from jotgate.services import answering, submitting
from jotgate.services.answering import Answers, Move, Visit

router = APIRouter(prefix="/api/public/{address}", tags=["answering"], responses=PROBLEMS)


class OptionOut(BaseModel):
    code: str
    label: str


class QuestionOut(BaseModel):
    """An item as its page shows it. What the kind does not have is None."""

    kind: Literal["short_text", "long_text", "number", "yes_no", "pick_one", "note"]
    key: str
    text: str
    help: str = ""
    placeholder: str = ""
    required: bool = False
    shortest: int | None = None
    longest: int | None = None
    at_least: str | None = None
    at_most: str | None = None
    decimals: int | None = None
    options: list[OptionOut] = []


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


def _options(options: tuple[Option, ...], language: str) -> list[OptionOut]:
    return [OptionOut(code=o.code, label=say(o.label, language, language)) for o in options]


def _item(item: AnyQuestion | Note, language: str) -> QuestionOut:
    out = QuestionOut.model_construct(
        kind=item.kind,
        key=item.key,
        text=say(item.text, language, language),
        options=_options(options_of(item), language),
    )
    if isinstance(item, AnyQuestion):
        out.help = say(item.help, language, language)
        out.required = item.required
    if isinstance(item, ShortText | LongText):
        out.shortest, out.longest = item.shortest, item.longest
        out.placeholder = say(item.placeholder, language, language)
    if isinstance(item, Number):
        out.at_least = None if item.at_least is None else str(item.at_least)
        out.at_most = None if item.at_most is None else str(item.at_most)
        out.decimals = item.decimals
        out.placeholder = say(item.placeholder, language, language)
    return out


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
        items=[_item(item, language) for item in ahead.step.shown],
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
