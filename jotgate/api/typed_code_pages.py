"""The page at a short address where one types the code of a letter on paper."""

from typing import Literal
from urllib.parse import parse_qsl

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext
from jotgate.api.plain_pages import plain_page
from jotgate.core.common.errors import NotFound, TooManyTries
from jotgate.services import typed_codes
from jotgate.services.context import Context

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

State = Literal["ask", "unknown", "slow"]
STATUS: dict[State, int] = {"ask": 200, "unknown": 404, "slow": 429}


@router.get(typed_codes.PATH)
async def ask_for_code(request: Request, context: CurrentContext) -> HTMLResponse:
    return await _page(request, context, "ask")


@router.post(typed_codes.PATH)
async def take_code(request: Request, context: CurrentContext) -> Response:
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")[:1000]))
    client = request.scope["client_address"]
    try:
        link = await typed_codes.go_on(context, form.get("code", ""), client)
    except NotFound:
        return await _page(request, context, "unknown", form.get("code", ""))
    except TooManyTries:
        return await _page(request, context, "slow", form.get("code", ""))
    return RedirectResponse(link, 303)


async def _page(request: Request, context: Context, state: State, typed: str = "") -> HTMLResponse:
    told = {"state": state, "typed": typed[:60]}
    return await plain_page(request, context, "typed_code", told, STATUS[state])
