"""The two HTML pages: the desk for staff, and the answering page with its first page inside."""

import re
import secrets
from collections.abc import Mapping
from functools import cache
from html import escape
from pathlib import Path
from typing import Any
from uuid import UUID

from babel import Locale, UnknownLocaleError
from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse
from pydantic import BaseModel
from sqlalchemy.exc import OperationalError

from jotgate.api.body import StrictRoute
from jotgate.api.given import GivenHouse, GivenSession
from jotgate.api.problems import Problem, as_ours, problem_of
from jotgate.api.public.answering import PageOut, page_out
from jotgate.api.public.look import LookOut, look_out, page_words
from jotgate.core.ahead import first_page
from jotgate.core.errors import JotGateError
from jotgate.core.wording import closest
from jotgate.core.words import LANGUAGES, direction, failures, page
from jotgate.services import answering, trying
from jotgate.services.answering import Visit

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

POLICY = (
    "default-src 'none'; script-src 'self' 'nonce-{nonce}'; style-src 'self' 'nonce-{nonce}'; "
    "img-src 'self' data: blob:; media-src 'self'; font-src 'self'; connect-src 'self'; "
    "base-uri 'none'; form-action 'self'; frame-src 'self'; frame-ancestors {framed}"
)

BY_DESK = "'self'"
"""A draft that is tried may be shown inside of the desk."""


_SLOT = re.compile(r"(__[A-Z]+__)")


@cache
def _template(path: Path) -> tuple[str, ...]:
    """A built page, taken apart at its slots; it does not change while we run."""
    return tuple(_SLOT.split(path.read_text(encoding="utf-8")))


def shell(
    web: Path,
    name: str,
    title: str,
    language: str,
    first: str,
    status: int = 200,
    framed: str = "'none'",
) -> HTMLResponse:
    """The built page `name` with a fresh nonce and, as data, what it shows first.

    `framed` says which pages may show it inside of them (CSP, frame-ancestors).
    """
    nonce = secrets.token_urlsafe(16)
    said = {
        "__NONCE__": nonce,
        "__LANG__": escape(language),
        "__DIRECTION__": direction(language),
        "__TITLE__": escape(title),
        "__FIRST__": first.replace("<", "\\u003c"),
    }
    html = "".join(said.get(part, part) for part in _template(web / f"{name}.html"))
    headers = {
        "Content-Security-Policy": POLICY.format(nonce=nonce, framed=framed),
        "Cache-Control": "no-store",
    }
    return HTMLResponse(html, status, headers)


@router.get("/")
async def root() -> RedirectResponse:
    return RedirectResponse("/desk")


@router.get("/desk")
@router.get("/desk/{path:path}")
async def desk(request: Request, path: str = "") -> HTMLResponse:
    return shell(request.app.state.settings.web, "desk", "Jot Gate", "en", "null")


class LanguageOut(BaseModel):
    """A language that the questionnaire can be read in, under its own name."""

    code: str
    name: str


class TrialOut(BaseModel):
    """The draft of this questionnaire is tried by somebody of staff."""

    id: UUID
    csrf: str


class FirstOut(BaseModel):
    """What the answering page starts with: its own words, and what it shows.

    `shown` is a page of questions, or why there is none.
    """

    language: str
    words: Mapping[str, str]
    failures: Mapping[str, str]
    languages: list[LanguageOut]
    shown: PageOut | Problem
    look: LookOut = LookOut()
    trial: TrialOut | None = None


@router.get("/q/{address}")
@router.get("/q/{address}/{language}")
async def answer(
    address: str, request: Request, house: GivenHouse, language: str = ""
) -> HTMLResponse:
    web = request.app.state.settings.web
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    try:
        visitor = await answering.visit(house, address, request.url.query, wanted)
    except (JotGateError, OperationalError) as error:
        return _refused(web, problem_of(as_ours(error)), closest(LANGUAGES, wanted))
    return _answering(web, visitor, None)


@router.get("/try/{id}")
@router.get("/try/{id}/{language}")
async def try_draft(
    id: UUID, request: Request, house: GivenHouse, session: GivenSession, language: str = ""
) -> HTMLResponse:
    """The draft as its visitors would see it; nothing that is answered here is stored."""
    web = request.app.state.settings.web
    wanted = [language, *preferred(request.headers.get("accept-language", ""))]
    try:
        visitor = await trying.visit(house, id, request.url.query, wanted)
    except JotGateError as error:
        return _refused(web, problem_of(error), closest(LANGUAGES, wanted), BY_DESK)
    return _answering(web, visitor, TrialOut(id=id, csrf=session.csrf))


def _answering(web: Path, visitor: Visit, trial: TrialOut | None) -> HTMLResponse:
    given = visitor.filled
    ahead = first_page(visitor.plan, given.answers, given.carried, visitor.today)
    shown = page_out(visitor, ahead)
    first = FirstOut(**_standing(visitor), shown=shown, trial=trial)
    framed = BY_DESK if trial else "'none'"
    return shell(web, "answer", shown.title, visitor.language, _data(first), framed=framed)


def _standing(visitor: Visit) -> dict[str, Any]:
    """What is the same for everybody who reads an edition in one language, made once."""
    made, name = visitor.plan.made, ("page", visitor.language)
    if name not in made:
        document = visitor.plan.questionnaire
        made[name] = {
            "language": visitor.language,
            "words": page_words(document.look, visitor.language),
            "failures": failures(visitor.language),
            "languages": [LanguageOut(code=one, name=autonym(one)) for one in document.languages],
            "look": look_out(document.look, visitor.language, document.first_language),
        }
    found: dict[str, Any] = made[name]
    return found


def _refused(web: Path, problem: Problem, language: str, framed: str = "'none'") -> HTMLResponse:
    words = page(language)
    first = FirstOut(language=language, words=words, failures={}, languages=[], shown=problem)
    name, data = words["questionnaire"], _data(first)
    return shell(web, "answer", name, language, data, problem.status, framed)


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
