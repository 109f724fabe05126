"""The page that a letter leads to where one wants no more of them (RFC 8058)."""

from typing import get_args
from urllib.parse import parse_qsl

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext
from jotgate.api.plain_pages import language_of, plain_page
from jotgate.core.common.errors import NotFound
from jotgate.services import opting_out
from jotgate.services.context import Context
from jotgate.services.opting_out import OptChoice, Reader

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

CHOICES: tuple[OptChoice, ...] = get_args(OptChoice)


@router.get("/out/{token}")
async def opt_out(token: str, request: Request, context: CurrentContext) -> HTMLResponse:
    """Asks: programs that open every link of a letter must not opt anybody out."""
    try:
        found = await opting_out.whose(context, token[:100], language_of(request))
    except NotFound:
        return await _unknown(request, context)
    return await _page(request, context, found, found.out or "ask")


@router.post("/out/{token}")
async def choose(token: str, request: Request, context: CurrentContext) -> Response:
    """From the page, or of everything in one step from a mail program (RFC 8058, 3.1)."""
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")[:1000]))
    said = form.get("choice", "everything")
    choice: OptChoice = next((one for one in CHOICES if one == said), "everything")
    try:
        found = await opting_out.choose(context, token[:100], choice, language_of(request))
    except NotFound:
        return await _unknown(request, context)
    return await _page(request, context, found, choice)


async def _unknown(request: Request, context: Context) -> HTMLResponse:
    return await plain_page(request, context, "opt_out", {"state": "unknown"}, 404)


async def _page(request: Request, context: Context, found: Reader, state: str) -> HTMLResponse:
    told = {"state": state, "email": found.email, "title": found.title, "kind": found.kind}
    return await plain_page(request, context, "opt_out", told, 200)
