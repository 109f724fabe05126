"""The page that a letter leads to where one wants no more of them (RFC 8058)."""

from typing import Literal
from urllib.parse import parse_qsl

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext
from jotgate.api.first_page import FirstOut, data_of, preferred, sent
from jotgate.api.problems import Problem
from jotgate.api.public.look import plain_look
from jotgate.core.common.errors import NotFound
from jotgate.core.common.wording import closest
from jotgate.core.words import LANGUAGES, letter, page
from jotgate.services import office, opting_out
from jotgate.services.context import Context
from jotgate.services.public.rendering import rendered

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

State = Literal["ask", "done", "back", "unknown"]


@router.get("/out/{token}")
async def opt_out(token: str, request: Request, context: CurrentContext) -> HTMLResponse:
    """Asks: programs that open every link of a letter must not opt anybody out."""
    try:
        email, out = await opting_out.whose(context, token[:100])
    except NotFound:
        return await _page(request, context, "unknown", "")
    return await _page(request, context, "done" if out else "ask", email)


@router.post("/out/{token}")
async def choose(token: str, request: Request, context: CurrentContext) -> Response:
    """From the page, or in one step from a mail program (RFC 8058, 3.1)."""
    form = dict(parse_qsl((await request.body()).decode("utf-8", "replace")[:1000]))
    back = form.get("choice") == "back"
    try:
        email = await opting_out.choose(context, token[:100], not back)
    except NotFound:
        return await _page(request, context, "unknown", "")
    return await _page(request, context, "back" if back else "done", email)


async def _page(request: Request, context: Context, state: State, email: str) -> HTMLResponse:
    kept = await office.current(context)
    language = closest(LANGUAGES, preferred(request.headers.get("accept-language", "")))
    status = 404 if state == "unknown" else 200
    params = {"state": state, "email": email, "office": kept.name}
    shown = Problem(status=status, code="opt_out", detail="", params=params)
    first = FirstOut(
        language=language,
        words={**page(language), **letter(language)},
        failures={},
        shown=shown,
        look=plain_look(kept, language),
    )
    data = data_of(first)
    return sent(request, first, data, await rendered(context, data, shared=False), {})
