"""The answering page, with its first page of questions inside, and the trial of a draft."""

from collections.abc import Sequence
from typing import Annotated
from urllib.parse import parse_qsl, quote
from uuid import UUID

from fastapi import APIRouter, Depends, Path, Request
from fastapi.responses import HTMLResponse, RedirectResponse

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext, CurrentSession, same_site
from jotgate.api.first_page import (
    ARRIVAL,
    KNOWN,
    LINK,
    PATH,
    WHO,
    TrialOut,
    data_of,
    first_of,
    preferred,
    refused,
    sent,
)
from jotgate.api.problems import problem_of
from jotgate.api.public.answering import PageOut
from jotgate.api.visits import set_visit, visit_cookie, waiting_cookie
from jotgate.core.common.errors import JotGateError, NotAllowed, SignInNeeded, Unavailable
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.wording import closest
from jotgate.core.records.links import Way
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.words import LANGUAGES
from jotgate.ports.rendering import NOTHING
from jotgate.services import office
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public import entering, handing, signing_in
from jotgate.services.public.rendering import rendered
from jotgate.services.staff import trial

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

BY_DESK = "'self'"
"""A draft that is tried may be shown inside of the desk."""


@router.get("/q/{address}")
@router.get("/q/{address}/{language}")
async def answer(
    address: str, request: Request, context: CurrentContext, language: str = ""
) -> HTMLResponse:
    visit = request.cookies.get(visit_cookie(request, address), "")
    entrance = Entrance(visit=visit[:100], page=_from_page(request))
    return await _answer(request, context, address, language, entrance)


@router.post("/q/{address}", dependencies=[Depends(same_site)])
async def come_from_another(
    address: str, request: Request, context: CurrentContext
) -> RedirectResponse:
    """Somebody is handed on here: the token in the form is good for once. The visit that follows
    has a cookie of its own, for this questionnaire alone, so that it can be loaded again."""
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")))
    visit = await handing.redeem(context, address, form.get("token", ""))
    reply = RedirectResponse(f"/q/{quote(address)}", 303)
    set_visit(reply, request, address, visit)
    return reply


Secret = Annotated[str, Path(max_length=6000)]


def _answer_by(way: Way) -> None:
    @router.get(f"/{way}/{{address}}/{{secret}}")
    @router.get(f"/{way}/{{address}}/{{secret}}/{{language}}")
    async def answer_by(
        address: str, secret: Secret, request: Request, context: CurrentContext, language: str = ""
    ) -> HTMLResponse:
        entrance = Entrance(way=way, secret=secret, page=_from_page(request))
        return await _answer(request, context, address, language, entrance)


_answer_by("l")
_answer_by("p")
_answer_by("s")


@router.get("/e/{address}/{secret}")
@router.get("/e/{address}/{secret}/{language}")
async def answer_as_staff(
    address: str,
    secret: Secret,
    request: Request,
    context: CurrentContext,
    session: CurrentSession,
    language: str = "",
) -> HTMLResponse:
    """Somebody of the office enters or corrects an entry: whoever began that, and nobody else."""
    entrance = Entrance(way="e", secret=secret)
    return await _answer(request, context, address, language, entrance, session.account.id)


def _from_page(request: Request) -> str:
    """The page that the link stood on (RFC 9110, 10.1.3), unless it is one of ours."""
    told = request.headers.get("referer", "")
    ours: str = request.app.state.settings.public_url.rstrip("/")
    return "" if told.startswith(f"{ours}/") or told == ours else told


async def _answer(
    request: Request,
    context: Context,
    address: str,
    language: str,
    entrance: Entrance,
    staff_id: UUID | None = None,
) -> HTMLResponse:
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    path = path_of(entrance, address)
    try:
        query = request.url.query
        seen = Seen(waits=request.cookies.get(waiting_cookie(request, address), "")[:100])
        visitor = await entering.visit(
            context, address, query, wanted, entrance=entrance, seen=seen
        )
        if visitor.came.staff_id != staff_id:
            raise NotAllowed("Somebody else began this. Begin it yourself, on the desk.")
    except JotGateError as error:
        problem = problem_of(error)
        state = await _standing_at(context, address)
        offered = []
        helps = isinstance(error, SignInNeeded) or error.params.get("sign_in")
        if state is not None and helps:
            offered = await signing_in.offered(context, state.sign_in.providers)
        framed = _ancestors(state.frames) if state else "'none'"
        words = closest(LANGUAGES, wanted)
        slots = {LINK: link_of(request), PATH: path}
        return await refused(request, context, problem, words, framed, offered, slots)
    offered = await signing_in.offered(context, visitor.sign_in)
    first = first_of(visitor, await office.current(context), offered)
    shown = first.shown
    alike = isinstance(shown, PageOut) and not shown.is_personal and first.own is None
    shared = alike and not first.submission
    data = data_of(first)
    slots = {LINK: link_of(request), PATH: path, ARRIVAL: visitor.arrival}
    slots[WHO] = visitor.called
    slots[KNOWN] = hash_of(entrance.visit).hex()[:16] if entrance.visit else ""
    framed = _ancestors(visitor.frames)
    return sent(request, first, data, await rendered(context, data, shared), slots, framed)


def _ancestors(frames: Sequence[str]) -> str:
    return " ".join(frames) if frames else "'none'"


async def _standing_at(context: Context, address: str) -> PublicState | None:
    """What is at an address that lets nobody in: who may frame it, where one signs in."""
    try:
        return await entering.state_of(context, address)
    except Unavailable:
        return None


def path_of(entrance: Entrance, address: str) -> str:
    """The path of the page that somebody comes to."""
    parts = (entrance.way or "q", address, entrance.secret)
    return f"/{'/'.join(quote(part, safe='') for part in parts if part)}"


@router.get("/try/{id}")
@router.get("/try/{id}/{language}")
async def try_draft(
    id: UUID, request: Request, context: CurrentContext, session: CurrentSession, language: str = ""
) -> HTMLResponse:
    """The draft as its visitors would see it; nothing that is answered here is stored."""
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    try:
        visitor = await trial.visit(context, session.account, id, request.url.query, wanted)
    except JotGateError as error:
        return await refused(
            request, context, problem_of(error), closest(LANGUAGES, wanted), BY_DESK
        )
    first = first_of(visitor, await office.current(context), [])
    first.trial = TrialOut(id=id, csrf=session.csrf)
    slots = {LINK: link_of(request), PATH: f"/try/{id}"}
    return sent(request, first, data_of(first), NOTHING, slots, BY_DESK)


def link_of(request: Request) -> str:
    """The query string of this request with its question mark, where it has one."""
    return f"?{request.url.query}" if request.url.query else ""
