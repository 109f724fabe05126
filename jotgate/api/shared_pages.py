"""Pages of figures for people without an account, at the address that somebody gave them."""

import asyncio
import secrets

from fastapi import APIRouter, Request, Response
from fastapi.responses import HTMLResponse

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext
from jotgate.api.plain_pages import language_of
from jotgate.core.common.errors import Invalid, NotFound, Unavailable
from jotgate.core.shared_pages.html import shared_page, told_page
from jotgate.services import shared_pages

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

POLICY = (
    "default-src 'none'; style-src 'nonce-{nonce}'; base-uri 'none'; form-action 'none'; "
    "frame-ancestors 'none'"
)
"""The page needs nothing but its own styles (Content Security Policy)."""

FAILURES = (NotFound, Invalid, Unavailable)

LONGEST = 100
"""Characters of an address that are looked at."""


@router.get("/figures/{token}")
async def seen(token: str, request: Request, context: CurrentContext) -> HTMLResponse:
    try:
        found = await shared_pages.shown(context, token[:LONGEST])
    except FAILURES as failure:
        return _told(request, failure)
    nonce = secrets.token_urlsafe(16)
    html = await asyncio.to_thread(shared_page, *found, nonce, f"/figures/{token}/pdf")
    return _sent(html, nonce, 200)


@router.get("/figures/{token}/pdf", response_class=Response)
async def on_paper(token: str, request: Request, context: CurrentContext) -> Response:
    try:
        pdf = await shared_pages.on_paper(context, token[:LONGEST])
    except FAILURES as failure:
        return _told(request, failure)
    told = {"Content-Disposition": 'inline; filename="figures.pdf"'}
    return Response(pdf, media_type="application/pdf", headers=told)


def _told(request: Request, failure: Exception) -> HTMLResponse:
    word, status = ("busy", 503) if isinstance(failure, Unavailable) else ("gone", 404)
    nonce = secrets.token_urlsafe(16)
    return _sent(told_page(language_of(request), word, nonce), nonce, status)


def _sent(html: str, nonce: str, status: int) -> HTMLResponse:
    headers = {"Content-Security-Policy": POLICY.format(nonce=nonce), "Cache-Control": "no-store"}
    return HTMLResponse(html, status, headers)
