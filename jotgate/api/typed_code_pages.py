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

State = Literal["ask", "unknown", "slow", "out", "back"]
STATUS: dict[State, int] = {"ask": 200, "unknown": 404, "slow": 429, "out": 200, "back": 200}

WISHES: tuple[State, ...] = ("out", "back")


@router.get(typed_codes.PATH)
async def ask_for_code(request: Request, context: CurrentContext) -> HTMLResponse:
    return await _page(request, context, "ask")


@router.post(typed_codes.PATH)
async def take_code(request: Request, context: CurrentContext) -> Response:
    """Leads on to the questionnaire; or has no more letters written, or some again."""
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")[:1000]))
    client, typed = request.scope["client_address"], form.get("code", "")
    wish: State | None = next((one for one in WISHES if one == form.get("wish")), None)
    try:
        if wish is None:
            return RedirectResponse(await typed_codes.go_on(context, typed, client), 303)
        called = await typed_codes.write_no_more(context, typed, client, wish == "out")
    except NotFound:
        return await _page(request, context, "unknown", typed)
    except TooManyTries:
        return await _page(request, context, "slow", typed)
    return await _page(request, context, wish, typed, called)


async def _page(
    request: Request, context: Context, state: State, typed: str = "", called: str = ""
) -> HTMLResponse:
    told = {"state": state, "typed": typed[:60], "called": called}
    return await plain_page(request, context, "typed_code", told, STATUS[state])
