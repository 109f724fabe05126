"""The two HTML pages: the desk for staff, and the answering page with its first page inside."""

import json
import secrets
from html import escape
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse
from sqlalchemy.exc import OperationalError

from jotgate.api.given import GivenHouse
from jotgate.api.problems import as_ours, problem_of
from jotgate.api.public.answering import page_out
from jotgate.core.errors import JotGateError
from jotgate.core.path import first_page
from jotgate.services import answering

router = APIRouter(include_in_schema=False)

POLICY = (
    "default-src 'none'; script-src 'self' 'nonce-{nonce}'; style-src 'self' 'nonce-{nonce}'; "
    "img-src 'self' data:; font-src 'self'; connect-src 'self'; base-uri 'none'; "
    "form-action 'self'; frame-ancestors 'none'"
)


def shell(
    web: Path, name: str, title: str, language: str, first: object, status: int
) -> HTMLResponse:
    """The built page `name` with a fresh nonce and, as data, what it shows first."""
    nonce = secrets.token_urlsafe(16)
    data = json.dumps(first, ensure_ascii=False).replace("<", "\\u003c")
    html = (
        (web / f"{name}.html")
        .read_text(encoding="utf-8")
        .replace("__NONCE__", nonce)
        .replace("__LANG__", escape(language))
        .replace("__TITLE__", escape(title))
        .replace("__FIRST__", data)
    )
    headers = {
        "Content-Security-Policy": POLICY.format(nonce=nonce),
        "Cache-Control": "no-store",
    }
    return HTMLResponse(html, status, headers)


@router.get("/")
async def root() -> RedirectResponse:
    return RedirectResponse("/desk")


@router.get("/desk")
@router.get("/desk/{path:path}")
async def desk(request: Request, path: str = "") -> HTMLResponse:
    return shell(request.app.state.settings.web, "desk", "Jot Gate", "en", None, 200)


@router.get("/q/{address}")
async def answer(address: str, request: Request, house: GivenHouse) -> HTMLResponse:
    web = request.app.state.settings.web
    try:
        visitor = await answering.visit(house, address, request.url.query)
    except (JotGateError, OperationalError) as error:
        problem = problem_of(as_ours(error))
        first_shown = problem.model_dump(mode="json")
        return shell(web, "answer", "Questionnaire", "en", first_shown, problem.status)
    given = visitor.filled
    ahead = first_page(visitor.plan, given.answers, given.carried, visitor.today)
    first = page_out(visitor, ahead)
    return shell(web, "answer", first.title, first.language, first.model_dump(mode="json"), 200)
