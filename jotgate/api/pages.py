"""The two HTML pages: the desk for staff, and the answering page with its first page inside."""

import json
import secrets
from collections.abc import Mapping
from functools import cache
from html import escape
from typing import Any
from uuid import UUID

from babel import Locale, UnknownLocaleError
from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse
from pydantic import BaseModel

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext, CurrentSession
from jotgate.api.problems import Problem, problem_of
from jotgate.api.public.answering import PageOut, page_out
from jotgate.api.public.look import LookOut, look_out, page_words, plain_look
from jotgate.api.public.questions import QuestionOut
from jotgate.api.shell import PageShell, shell
from jotgate.core.common.errors import JotGateError, Unavailable
from jotgate.core.common.wording import closest
from jotgate.core.office import Office
from jotgate.core.walking.next_page import first_page
from jotgate.core.words import LANGUAGES, failures, page
from jotgate.ports.rendering import NOTHING, Rendered
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.public import answering
from jotgate.services.public.answering import Visit
from jotgate.services.public.rendering import rendered
from jotgate.services.staff import trial

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

BY_DESK = "'self'"
"""A draft that is tried may be shown inside of the desk."""

LINK = f"link-{secrets.token_hex(16)}"
"""Stands for the query string in what is drawn, so that one drawing does for every link."""


@router.get("/")
async def root() -> RedirectResponse:
    return RedirectResponse("/desk")


@router.get("/desk")
@router.get("/desk/{path:path}")
async def desk(request: Request, path: str = "") -> HTMLResponse:
    return shell(request, "desk", PageShell("Jot Gate", "en", "null"))


@router.get("/licences", include_in_schema=False)
async def licences(request: Request) -> FileResponse:
    """Under which licences everything stands that ships; the page has its own policy."""
    headers = {"Content-Security-Policy": "frame-ancestors 'none'"}
    return FileResponse(request.app.state.settings.web / "licences.html", headers=headers)


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
    where options are shuffled by it.
    """

    language: str
    words: Mapping[str, str]
    failures: Mapping[str, str]
    languages: list[LanguageOut] = []
    submission: str = ""
    shown: PageOut | Problem
    look: LookOut = LookOut()
    trial: TrialOut | None = None


@router.get("/q/{address}")
@router.get("/q/{address}/{language}")
async def answer(
    address: str, request: Request, context: CurrentContext, language: str = ""
) -> HTMLResponse:
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    try:
        visitor = await answering.visit(context, address, request.url.query, wanted)
    except JotGateError as error:
        problem = problem_of(error)
        return await _refused(request, context, problem, closest(LANGUAGES, wanted))
    first = _first(visitor, await office.current(context), f"/q/{address}")
    shared = not first.submission and isinstance(first.shown, PageOut) and not first.shown.filled
    data = _data(first)
    return _sent(request, first, data, await rendered(context, data, shared))


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
    first = _first(visitor, await office.current(context), f"/try/{id}")
    first.trial = TrialOut(id=id, csrf=session.csrf)
    return _sent(request, first, _data(first), NOTHING, BY_DESK)


def _first(visitor: Visit, kept: Office, at: str) -> FirstOut:
    given = visitor.filled
    following = first_page(visitor.plan, given.answers, given.carried, visitor.today)
    shown = page_out(visitor, following)
    offered = [
        LanguageOut(code=one, name=autonym(one), href=f"{at}/{one}{LINK}")
        for one in visitor.plan.questionnaire.languages
    ]
    submission = secrets.token_hex(16) if _shuffles(shown.items) else ""
    return FirstOut(
        **_standing(visitor, kept), languages=offered, shown=shown, submission=submission
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
    return _sent(request, first, data, await rendered(context, data, shared=True), framed)


def _sent(
    request: Request, first: FirstOut, data: str, drawn: Rendered, framed: str = "'none'"
) -> HTMLResponse:
    query = request.url.query
    link = f"?{query}" if query else ""
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
            first=data.replace(LINK, json.dumps(link)[1:-1]),
            drawn=Rendered(drawn.html.replace(LINK, escape(link)), drawn.styles),
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
