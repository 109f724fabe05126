"""The answering page, with its first page of questions inside, and the trial of a draft."""

import json
import secrets
from collections.abc import Mapping, Sequence
from functools import cache
from html import escape
from typing import Annotated, Any
from urllib.parse import parse_qsl, quote
from uuid import UUID

from babel import Locale, UnknownLocaleError
from fastapi import APIRouter, Depends, Path, Request
from fastapi.responses import HTMLResponse, RedirectResponse
from pydantic import BaseModel

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext, CurrentSession, cookie_name, same_site
from jotgate.api.problems import Problem, problem_of
from jotgate.api.public.answering import PageOut, page_out
from jotgate.api.public.look import LookOut, look_out, page_words, plain_look
from jotgate.api.public.questions import QuestionOut
from jotgate.api.shell import PageShell, shell
from jotgate.core.common.errors import JotGateError, Unavailable
from jotgate.core.common.wording import closest
from jotgate.core.office import Office
from jotgate.core.records.links import Way
from jotgate.core.walking.next_page import first_page
from jotgate.core.words import LANGUAGES, failures, page
from jotgate.ports.rendering import NOTHING, Rendered
from jotgate.services import office
from jotgate.services.arrivals import Entrance, hash_of
from jotgate.services.context import Context
from jotgate.services.public import answering, handing
from jotgate.services.public.answering import Visit, with_filled
from jotgate.services.public.rendering import rendered
from jotgate.services.staff import trial

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

BY_DESK = "'self'"
"""A draft that is tried may be shown inside of the desk."""


def _stand_in(name: str) -> str:
    """Stands in what is drawn for what is different at each visit, so that one drawing does for
    all of them."""
    return f"{name}-{secrets.token_hex(16)}"


LINK, PATH, ARRIVAL, KNOWN = map(_stand_in, ("link", "path", "arrival", "known"))
"""For the query string, the path of the page, what is known of the visitor, sealed, and what tells
one who was handed on here from others."""


class LanguageOut(BaseModel):
    """A language that the questionnaire can be read in, under its own name; `href` leads there."""

    code: str
    name: str
    href: str


class TrialOut(BaseModel):
    """The draft of this questionnaire is tried by somebody of staff."""

    id: UUID
    csrf: str


class FirstOut(BaseModel):
    """What the answering page starts with: its own words, and what it shows.

    `shown` is a page of questions, or why there is none. `submission` names what will be sent,
    where options are shuffled by it. `arrival` is what is known of the visitor, sealed, to be sent
    along with everything; `known` tells one who was handed on here from others.
    """

    language: str
    words: Mapping[str, str]
    failures: Mapping[str, str]
    languages: list[LanguageOut] = []
    submission: str = ""
    arrival: str = ""
    known: str = ""
    shown: PageOut | Problem
    look: LookOut = LookOut()
    trial: TrialOut | None = None


@router.get("/q/{address}")
@router.get("/q/{address}/{language}")
async def answer(
    address: str, request: Request, context: CurrentContext, language: str = ""
) -> HTMLResponse:
    visit = request.cookies.get(_visit_cookie(request, address), "")
    entrance = Entrance(visit=visit[:100], page=_from_page(request))
    return await _answer(request, context, address, language, entrance)


VISIT = "jotgate_visit"


def _visit_cookie(request: Request, address: str) -> str:
    return cookie_name(request.app.state.settings, f"{VISIT}_{address}", "__Secure-")


@router.post("/q/{address}", dependencies=[Depends(same_site)])
async def come_from_another(
    address: str, request: Request, context: CurrentContext
) -> RedirectResponse:
    """Somebody is handed on here: the token in the form is good for once. The visit that follows
    has a cookie of its own, for this questionnaire alone, so that it can be loaded again."""
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")))
    visit = await handing.redeem(context, address, form.get("token", ""))
    reply = RedirectResponse(f"/q/{quote(address)}", 303)
    reply.set_cookie(
        _visit_cookie(request, address),
        visit,
        max_age=int(handing.VISIT_LASTS.total_seconds()),
        path=f"/q/{quote(address)}",
        httponly=True,
        samesite="lax",
        secure=request.app.state.settings.secure_cookies,
    )
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


def _from_page(request: Request) -> str:
    """The page that the link stood on (RFC 9110, 10.1.3), unless it is one of ours."""
    told = request.headers.get("referer", "")
    ours: str = request.app.state.settings.public_url.rstrip("/")
    return "" if told.startswith(f"{ours}/") or told == ours else told


async def _answer(
    request: Request, context: Context, address: str, language: str, entrance: Entrance
) -> HTMLResponse:
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    try:
        query = request.url.query
        visitor = await answering.visit(context, address, query, wanted, entrance=entrance)
    except JotGateError as error:
        problem = problem_of(error)
        framed = await _framed(context, address)
        return await _refused(request, context, problem, closest(LANGUAGES, wanted), framed)
    first = _first(visitor, await office.current(context))
    shown = first.shown
    shared = not first.submission and isinstance(shown, PageOut) and not shown.is_personal
    data = _data(first)
    path = "/".join(
        quote(part, safe="") for part in (entrance.way or "q", address, entrance.secret)
    )
    slots = {LINK: _link(request), PATH: f"/{path}".rstrip("/"), ARRIVAL: visitor.arrival}
    slots[KNOWN] = hash_of(entrance.visit).hex()[:16] if entrance.visit else ""
    framed = _ancestors(visitor.frames)
    return _sent(request, first, data, await rendered(context, data, shared), slots, framed)


def _ancestors(frames: Sequence[str]) -> str:
    return " ".join(frames) if frames else "'none'"


async def _framed(context: Context, address: str) -> str:
    """Which sites may show a page that lets nobody in: those that could show the questionnaire."""
    try:
        return _ancestors(await answering.frames(context, address))
    except Unavailable:
        return "'none'"


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
        return await _refused(
            request, context, problem_of(error), closest(LANGUAGES, wanted), BY_DESK
        )
    first = _first(visitor, await office.current(context))
    first.trial = TrialOut(id=id, csrf=session.csrf)
    slots = {LINK: _link(request), PATH: f"/try/{id}"}
    return _sent(request, first, _data(first), NOTHING, slots, BY_DESK)


def _link(request: Request) -> str:
    """The query string of this request with its question mark, where it has one."""
    return f"?{request.url.query}" if request.url.query else ""


def _first(visitor: Visit, kept: Office) -> FirstOut:
    given = visitor.filled
    following = first_page(visitor.plan, with_filled(given, {}), given.carried, visitor.today)
    shown = page_out(visitor, following)
    offered = [
        LanguageOut(code=one, name=autonym(one), href=f"{PATH}/{one}{LINK}")
        for one in visitor.plan.questionnaire.languages
    ]
    submission = secrets.token_hex(16) if _shuffles(shown.items) else ""
    return FirstOut(
        **_standing(visitor, kept),
        languages=offered,
        shown=shown,
        submission=submission,
        arrival=ARRIVAL if visitor.arrival else "",
        known=KNOWN if visitor.arrival else "",
    )


def _shuffles(items: list[QuestionOut]) -> bool:
    return any(item.shuffled or _shuffles(item.items) for item in items)


def _standing(visitor: Visit, kept: Office) -> dict[str, Any]:
    """What is the same for everybody who reads an edition in one language, made once, and again
    when the office has changed."""
    made, name = visitor.plan.made, ("page", visitor.language)
    if name not in made or made[name][0] != kept:
        document, language = visitor.plan.questionnaire, visitor.language
        told = {
            "language": language,
            "words": page_words(document.look, language),
            "failures": failures(language),
            "look": look_out(document.look, kept, language, document.first_language),
        }
        made[name] = (kept, told)
    found: dict[str, Any] = made[name][1]
    return found


async def _refused(
    request: Request, context: Context, problem: Problem, language: str, framed: str = "'none'"
) -> HTMLResponse:
    try:
        look = plain_look(await office.current(context), language)
    except Unavailable:
        look = LookOut()
    first = FirstOut(language=language, words=page(language), failures={}, shown=problem, look=look)
    data = _data(first)
    drawn = await rendered(context, data, shared=True)
    return _sent(request, first, data, drawn, {}, framed)


def _sent(
    request: Request,
    first: FirstOut,
    data: str,
    drawn: Rendered,
    slots: Mapping[str, str],
    framed: str = "'none'",
) -> HTMLResponse:
    """The page, with what is different at each visit put in for what stands for it (`slots`);
    `framed` says which sites may show it in a frame."""
    html = drawn.html
    for name, text in slots.items():
        data = data.replace(name, json.dumps(text)[1:-1])
        html = html.replace(name, escape(text))
    shown = first.shown
    title, status = (
        (first.words["questionnaire"], shown.status)
        if isinstance(shown, Problem)
        else (shown.title, 200)
    )
    return shell(
        request,
        "answer",
        PageShell(
            title=title,
            language=first.language,
            first=data,
            drawn=Rendered(html, drawn.styles),
            status=status,
            framed=framed,
        ),
    )


def _data(first: FirstOut) -> str:
    return first.model_dump_json(exclude_defaults=True)


def preferred(header: str) -> list[str]:
    """The languages of an Accept-Language header (RFC 9110, 12.5.4), the best liked first."""
    ranked: list[tuple[float, str]] = []
    for part in header[:500].split(","):
        language, _, weight = part.strip().partition(";q=")
        try:
            ranked.append((float(weight or 1), language.strip()))
        except ValueError:
            continue
    ranked.sort(key=lambda one: -one[0])
    return [language for liked, language in ranked if liked > 0 and language]


@cache
def autonym(code: str) -> str:
    """What a language calls itself; its code where that is not known."""
    try:
        return Locale.parse(code, sep="-").get_display_name(code.replace("-", "_")) or code
    except (ValueError, UnknownLocaleError):
        return code
