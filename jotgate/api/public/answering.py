"""One page at a time, and the submission. The server decides; see core/walking/path.py."""

from typing import Annotated, Any, Literal
from urllib.parse import quote

from fastapi import Header, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field, PrivateAttr

from jotgate.api.dependencies import CurrentContext, context_in
from jotgate.api.public.at_the_gate import GateNoticeOut, dividing, notices_of, with_places
from jotgate.api.public.questions import QuestionOut, QuestionPresenter
from jotgate.api.routes import routes
from jotgate.api.visits import drop_visit
from jotgate.core.answers.offered import as_offered
from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import say
from jotgate.core.entries.about import about_for_visitor
from jotgate.core.entries.display import Reader
from jotgate.core.entries.finishing import Ending
from jotgate.core.items import Carried
from jotgate.core.walking.next_page import NextFinish, NextPage
from jotgate.services.gate import Seen
from jotgate.services.public import answering, handing, submitting
from jotgate.services.public.answering import Answers, Move, Turn
from jotgate.services.public.entering import Visit

router = routes("/api/public/{address}", "answering")

LONGEST_ARRIVAL = 40_000
"""Characters of an arrival, sealed, at most."""


class PageOut(BaseModel):
    """A page to show. `watched` are the keys whose answers may change it: ask again then;
    `checked` those that are held against others.

    `progress` is the share of the pages that lie before this one, 0 to 1, and `share` that of this
    one. `last` tells that
    answering it leads to a finish. `replaced` tells that this is of a newer edition than the
    one that was asked for: answers that still fit are kept.
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
    share: float
    watched: list[str]
    checked: list[str]
    filled: dict[str, Any]
    faults: list[Fault]
    replaced: bool = False
    about: str = ""
    notices: list[GateNoticeOut] = []
    _personal: bool = PrivateAttr(False)

    @property
    def is_personal(self) -> bool:
        """Whether it shows something that is known of this visitor alone."""
        return self._personal or bool(self.filled)


class ReadyOut(BaseModel):
    """Every page on the path is answered; what is left is to submit."""

    kind: Literal["ready"]


class AnswersIn(BaseModel):
    """The answers so far, of all pages, by key, and the query string of the link.

    `language` is that in which the page is shown, `arrival` what the page was given to be sent
    along: what is known of the visitor, sealed. `device` is a name that the browser drew for
    itself, `proof` what it worked out for this submission, `trap` what stands in a field that
    nobody sees.
    """

    link: str = Field("", max_length=8000)
    edition: int = Field(ge=1)
    answers: dict[str, Any] = Field({}, max_length=5000)
    language: str = Field("", max_length=40)
    arrival: str = Field("", max_length=LONGEST_ARRIVAL)

    device: str = Field("", max_length=64)
    proof: str = Field("", max_length=20)
    trap: str = Field("", max_length=200)

    def core(self, client: str = "", submission: str = "") -> Answers:
        seen = Seen(submission, self.device, client, self.proof, self.trap)
        return Answers(self.link, self.edition, self.answers, self.language, self.arrival, seen)


class PageIn(AnswersIn):
    """`item` is the question of the page `at` that was answered last, where they are asked one by
    one; `touched` are the places whose failures are asked for on staying. `submission` names what
    will be sent."""

    move: Move
    at: str = Field("", max_length=40)
    item: str = Field("", max_length=40)
    touched: list[str] = Field([], max_length=5000)
    submission: str = Field("", max_length=64)

    def turn(self) -> Turn:
        return Turn(self.move, self.at, self.item, self.touched)


class LinkOut(BaseModel):
    label: str
    address: str


class FinishOut(BaseModel):
    """`continues` are the words of the button that leads on into another questionnaire; `changes`
    tells that a letter can be asked for with a link by which the answers can be changed."""

    kind: Literal["finish"]
    heading: str
    message: str
    onward: LinkOut | None = None
    continues: str = ""
    changes: bool = False


def page_out(visitor: Visit, following: NextPage) -> PageOut:
    document, language = visitor.plan.questionnaire, visitor.language
    first = document.first_language
    page = following.step.page
    presenter = QuestionPresenter(Reader(visitor.plan, language), visitor.today, following.kept)
    heading = presenter.saying.tell(page.title)
    locked = _locked(visitor, following)
    out = PageOut(
        kind="page",
        title=say(document.title, language, first),
        language=language,
        edition=visitor.edition,
        key=page.key,
        heading=heading,
        items=[
            with_places(
                visitor,
                following.kept,
                item.key,
                presenter.out(
                    as_offered(item, following.kept, visitor.today),
                    following.kept.get(item.key),
                    following.inside.get(item.key, ()),
                    item.key in locked,
                ),
            )
            for item in following.step.shown
        ],
        before=following.before,
        last=following.last,
        progress=visitor.plan.page_numbers[page.key] / len(document.pages),
        share=1 / len(document.pages),
        watched=sorted(visitor.plan.watched[page.key] | dividing(visitor, following.step.shown)),
        checked=sorted(visitor.plan.checked[page.key]),
        filled={
            item.key: visitor.filled.answers[item.key]
            for item in following.step.shown
            if item.key in visitor.filled.answers and item.key not in locked
        },
        faults=answering.faults_of(visitor.plan, following.failed, language, following.kept),
        replaced=visitor.replaced,
    )
    out.about = about_for_visitor(visitor.plan, following.kept, language)
    out.notices = notices_of(visitor)
    out._personal = bool(locked) or presenter.saying.spoke or bool(out.about)
    return out


def _locked(visitor: Visit, following: NextPage) -> frozenset[str]:
    """The keys of what the visitor reads on this page and cannot change."""
    filled = visitor.filled
    return frozenset(
        item.key
        for item in following.step.shown
        if (
            item.shown != "changeable" and item.key in filled.carried
            if isinstance(item, Carried)
            else item.key in filled.locked
        )
        and item.key in following.kept
    )


def finish_out(end: Ending, continues: str = "") -> FinishOut:
    onward = end.onward and LinkOut(label=end.onward.label, address=end.onward.address)
    return FinishOut(
        kind="finish",
        heading=end.heading,
        message=end.message,
        onward=onward,
        continues=continues,
    )


@router.post("/page", response_model=PageOut | ReadyOut)
async def page(address: str, body: PageIn, request: Request) -> Response:
    visitor, following = await answering.page(
        context_in(request),
        address,
        body.core(request.scope["client_address"], body.submission),
        body.turn(),
    )
    if isinstance(following, NextFinish):
        return as_json(ReadyOut(kind="ready"))
    return as_json(page_out(visitor, following))


def as_json(out: BaseModel) -> Response:
    """`out` as it is sent: it was checked when it was made, and what it has by default is left
    out."""
    return Response(out.model_dump_json(exclude_defaults=True), media_type="application/json")


IdempotencyKey = Annotated[str, Header(min_length=16, max_length=64, pattern=r"^[A-Za-z0-9-]+$")]


@router.post("/entries", status_code=201, response_model=FinishOut)
async def submit(
    address: str, body: AnswersIn, idempotency_key: IdempotencyKey, request: Request
) -> Response:
    answers = body.core(request.scope["client_address"])
    taken = await submitting.submit(context_in(request), address, answers, idempotency_key)
    label = taken.onward.label if taken.onward else {}
    out = finish_out(taken.ending, say(label, body.language, next(iter(label), "")))
    out.changes = taken.changes
    reply = Response(out.model_dump_json(), 201, media_type="application/json")
    if taken.known:
        drop_visit(reply, request, address)
    return reply


class HandOffIn(BaseModel):
    arrival: str = Field("", max_length=LONGEST_ARRIVAL)


class HandOffOut(BaseModel):
    """Where to send the token, in the body of a form: good for once, for a few minutes."""

    action: str
    token: str


@router.post("/hand-offs", status_code=201)
async def hand_on(
    address: str, body: HandOffIn, idempotency_key: IdempotencyKey, context: CurrentContext
) -> HandOffOut:
    """Whoever sent an entry, whose key only they have, goes on in another questionnaire."""
    found = await handing.begin(context, address, idempotency_key, body.arrival)
    return HandOffOut(action=f"/q/{quote(found.address)}", token=found.token)
