"""Visitors sign in: to the provider, and back with what they came for."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Path, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from jotgate.api.answer_pages import link_of, path_of
from jotgate.api.body import StrictRoute
from jotgate.api.dependencies import CurrentContext, cookie_name, same_site
from jotgate.api.first_page import preferred, refused
from jotgate.api.problems import problem_of
from jotgate.api.visits import drop_visit, set_visit, visit_cookie
from jotgate.core.common.errors import JotGateError
from jotgate.core.common.wording import closest
from jotgate.core.records.links import Way
from jotgate.core.words import LANGUAGES
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.identity import FLOW
from jotgate.services.public import changing, confirming, signing_in

router = APIRouter(route_class=StrictRoute, include_in_schema=False)

Secret = Annotated[str, Path(max_length=6000)]

BEGUN = "jotgate_signing_in"


def _begun(request: Request) -> str:
    return cookie_name(request.app.state.settings, BEGUN, "__Secure-")


@router.get("/q/{address}/sign-in/{provider}")
async def begin(
    address: str, provider: UUID, request: Request, context: CurrentContext
) -> Response:
    visit = request.cookies.get(visit_cookie(request, address), "")
    return await _begin(request, context, Entrance(address=address, visit=visit[:100]), provider)


def _begin_by(way: Way) -> None:
    @router.get(f"/{way}/{{address}}/{{secret}}/sign-in/{{provider}}")
    async def begin_by(
        address: str, secret: Secret, provider: UUID, request: Request, context: CurrentContext
    ) -> Response:
        entrance = Entrance(address=address, way=way, secret=secret)
        return await _begin(request, context, entrance, provider)


_begin_by("l")
_begin_by("p")
_begin_by("s")


async def _begin(
    request: Request, context: Context, entrance: Entrance, provider: UUID
) -> Response:
    try:
        sent = await signing_in.send(context, entrance, provider, link_of(request))
    except JotGateError as error:
        return await _failed(request, context, error, path_of(entrance, entrance.address))
    reply = RedirectResponse(sent.address, 303)
    reply.set_cookie(
        _begun(request),
        sent.kept,
        max_age=int(FLOW.lasts.total_seconds()),
        path=FLOW.path,
        httponly=True,
        samesite="lax",
        secure=request.app.state.settings.secure_cookies,
    )
    return reply


async def _failed(
    request: Request, context: Context, error: JotGateError, again: str
) -> HTMLResponse:
    wanted = preferred(request.headers.get("accept-language", ""))
    problem = problem_of(error)
    problem.params = {"again": again} if again else {}
    return await refused(request, context, problem, closest(LANGUAGES, wanted))


@router.post("/q/{address}/own", dependencies=[Depends(same_site)])
async def change_own(address: str, request: Request, context: CurrentContext) -> Response:
    """Somebody wants to change what they sent."""
    visit = request.cookies.get(visit_cookie(request, address), "")
    return await _change(request, context, Entrance(address=address, visit=visit[:100]))


@router.post("/p/{address}/{secret}/own", dependencies=[Depends(same_site)])
async def change_own_by_pass(
    address: str, secret: Secret, request: Request, context: CurrentContext
) -> Response:
    return await _change(request, context, Entrance(address=address, way="p", secret=secret))


async def _change(request: Request, context: Context, entrance: Entrance) -> Response:
    """They go on at the address itself, in a visit of its own."""
    try:
        visit = await changing.begin(context, entrance)
    except JotGateError as error:
        return await _failed(request, context, error, path_of(entrance, entrance.address))
    reply = RedirectResponse(path_of(Entrance(), entrance.address), 303)
    set_visit(reply, request, entrance.address, visit)
    return reply


@router.get("/c/{address}/{secret}")
@router.get("/c/{address}/{secret}/{language}")
async def open_letter(
    address: str, secret: Secret, request: Request, context: CurrentContext, language: str = ""
) -> Response:
    """Somebody opens the link of a letter that confirms their address, as often as they like."""
    path = path_of(Entrance(), address)
    try:
        await confirming.open_link(context, address, secret)
    except JotGateError as error:
        return await _failed(request, context, error, path)
    reply = RedirectResponse(f"{path}{link_of(request)}", 303)
    set_visit(reply, request, address, secret)
    return reply


@router.get(FLOW.path)
async def back(request: Request, context: CurrentContext) -> Response:
    """A provider sends somebody back here."""
    told = {name: text[:4000] for name, text in request.query_params.items()}
    try:
        came = await signing_in.come_back(context, request.cookies.get(_begun(request), ""), told)
    except JotGateError as error:
        address = str(error.params.get("address", ""))
        again = path_of(Entrance(), address) if address else ""
        return await _failed(request, context, error, again)
    reply = RedirectResponse(f"{path_of(Entrance(), came.address)}{came.link}", 303)
    set_visit(reply, request, came.address, came.visit)
    reply.delete_cookie(_begun(request), path=FLOW.path)
    return reply


@router.post("/q/{address}/sign-out", dependencies=[Depends(same_site)])
async def sign_out(address: str, request: Request, context: CurrentContext) -> RedirectResponse:
    name = visit_cookie(request, address)
    await signing_in.leave(context, address, request.cookies.get(name, ""))
    reply = RedirectResponse(path_of(Entrance(), address), 303)
    drop_visit(reply, request, address)
    return reply
