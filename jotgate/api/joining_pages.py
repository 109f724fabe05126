"""The page where one says yes to a letter that asks whether one wants to be on a contact list."""

from collections.abc import Awaitable, Callable

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext
from jotgate.api.plain_pages import plain_page
from jotgate.core.common.errors import NotFound
from jotgate.services import joining_lists
from jotgate.services.context import Context
from jotgate.services.joining_lists import Asked

router = APIRouter(route_class=StrictRoute, include_in_schema=False)


@router.get("/in/{token}")
async def asked(token: str, request: Request, context: CurrentContext) -> HTMLResponse:
    """Asks: programs that open every link of a letter must not say yes for anybody."""
    return await _page(request, context, token, joining_lists.what)


@router.post("/in/{token}")
async def agree(token: str, request: Request, context: CurrentContext) -> Response:
    return await _page(request, context, token, joining_lists.agree)


async def _page(
    request: Request,
    context: Context,
    token: str,
    found: Callable[[Context, str], Awaitable[Asked]],
) -> HTMLResponse:
    try:
        one = await found(context, token[:100])
    except NotFound:
        return await plain_page(request, context, "join", {"state": "unknown"}, 404)
    told = {
        "state": "out" if one.out else "done" if one.agreed else "ask",
        "email": one.email,
        "title": one.title,
        "question": one.question,
        "answer": one.answer,
    }
    return await plain_page(request, context, "join", told, 200)
