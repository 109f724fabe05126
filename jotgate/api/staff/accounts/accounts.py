"""Signing in and out, and who I am."""

import json
from typing import Annotated, Any, Literal

from fastapi import Depends, Query, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, Field

from jotgate.api.dependencies import (
    COOKIE,
    AnySession,
    CurrentClient,
    CurrentContext,
    cookie_name,
    same_site,
    set_session,
)
from jotgate.api.routes import routes
from jotgate.core.common.errors import JotGateError
from jotgate.core.records.accounts import LinkPurpose, Session
from jotgate.core.rights import OfficeRight, Role, office_rights_of
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.staff.accounts import one_time_links, passkeys, provider, sessions, sign_in
from jotgate.services.staff.accounts.sign_in import SecondStep

router = routes("/api", "accounts")

PROVIDER_COOKIE = "jotgate_provider"


class SignIn(BaseModel):
    email: Annotated[str, Field(max_length=254)]
    password: Annotated[str, Field(max_length=200)]


class Me(BaseModel):
    """Who is signed in. `csrf` goes back in the X-CSRF-Token header of every change; in a
    `limited` session a second factor has to be set up before anything else."""

    name: str
    email: str
    role: Role | None
    rights: list[OfficeRight]
    csrf: str
    limited: bool
    office: str


class NextStep(BaseModel):
    """What else is needed to sign in; `ticket` goes back with it."""

    ticket: str
    ways: list[Literal["code", "passkey"]]


class SignInWays(BaseModel):
    """How one can sign in here; `provider` is what the identity provider is called."""

    office: str
    passwords: bool
    passkeys: bool
    provider: str | None


async def me_out(context: Context, session: Session) -> Me:
    account, found = session.account, await office.current(context)
    return Me(
        name=account.name,
        email=account.email,
        role=account.role,
        rights=list(office_rights_of(account.role)),
        csrf=session.csrf,
        limited=session.limited,
        office=found.name,
    )


@router.get("/sign-in")
async def sign_in_ways(context: CurrentContext) -> SignInWays:
    found = await office.current(context)
    return SignInWays(
        office=found.name,
        passwords=found.passwords,
        passkeys=context.passkeys.possible(),
        provider=context.provider.name if context.provider else None,
    )


@router.post("/sign-in", dependencies=[Depends(same_site)])
async def sign_in_by_password(
    body: SignIn,
    request: Request,
    response: Response,
    context: CurrentContext,
    client: CurrentClient,
) -> Me | NextStep:
    found = await sign_in.sign_in(context, body.email, body.password, client)
    if isinstance(found, SecondStep):
        return NextStep(ticket=found.ticket, ways=list(found.ways))
    set_session(request, response, found)
    return await me_out(context, found.session)


class CodeIn(BaseModel):
    ticket: Annotated[str, Field(max_length=2000)]
    code: Annotated[str, Field(max_length=40)]


@router.post("/sign-in/code", dependencies=[Depends(same_site)])
async def sign_in_code(
    body: CodeIn,
    request: Request,
    response: Response,
    context: CurrentContext,
    client: CurrentClient,
) -> Me:
    """The second step: a one-time code, or one for recovery."""
    found = await sign_in.second_step(context, body.ticket, body.code, client)
    set_session(request, response, found)
    return await me_out(context, found.session)


class PasskeyAsked(BaseModel):
    """`options` as browsers take them (W3C Web Authentication); `ticket` comes back with their
    answer."""

    options: dict[str, Any]
    ticket: str


class PasskeyIn(BaseModel):
    ticket: Annotated[str, Field(max_length=2000)]
    credential: dict[str, Any]


@router.post("/sign-in/passkey/options", dependencies=[Depends(same_site)])
async def sign_in_passkey_options(context: CurrentContext) -> PasskeyAsked:
    asked = passkeys.ask(context)
    return PasskeyAsked(options=json.loads(asked.options), ticket=asked.ticket)


@router.post("/sign-in/passkey", dependencies=[Depends(same_site)])
async def sign_in_passkey(
    body: PasskeyIn,
    request: Request,
    response: Response,
    context: CurrentContext,
    client: CurrentClient,
) -> Me:
    found = await passkeys.sign_in(context, body.ticket, json.dumps(body.credential), client)
    set_session(request, response, found)
    return await me_out(context, found.session)


@router.get("/sign-in/provider", response_class=RedirectResponse)
async def sign_in_provider(request: Request, context: CurrentContext) -> Response:
    """Send the browser to the identity provider."""
    settings = request.app.state.settings
    try:
        sent = await provider.send(context)
    except JotGateError as error:
        return _refused(error)
    reply = RedirectResponse(sent.address, 303)
    reply.set_cookie(
        cookie_name(settings, PROVIDER_COOKIE),
        sent.kept,
        max_age=600,
        httponly=True,
        samesite="lax",
        secure=settings.secure_cookies,
    )
    return reply


@router.get("/sign-in/provider/back", response_class=RedirectResponse)
async def sign_in_provider_back(
    request: Request,
    context: CurrentContext,
    client: CurrentClient,
    code: Annotated[str, Query(max_length=4000)] = "",
    state: Annotated[str, Query(max_length=200)] = "",
) -> Response:
    """Where the identity provider sends the browser back to."""
    settings = request.app.state.settings
    name = cookie_name(settings, PROVIDER_COOKIE)
    kept = request.cookies.get(name, "")
    reply: Response = RedirectResponse("/desk", 303)
    try:
        found = await provider.come_back(context, kept, state, code, client)
    except JotGateError as error:
        reply = _refused(error)
    else:
        set_session(request, reply, found)
    reply.delete_cookie(name, secure=settings.secure_cookies, httponly=True)
    return reply


def _refused(error: JotGateError) -> Response:
    """Back to signing in, which says what went wrong by its code."""
    return RedirectResponse(f"/desk?provider={error.code}", 303)


@router.post("/sign-out", status_code=204)
async def sign_out(
    request: Request, response: Response, context: CurrentContext, session: AnySession
) -> None:
    settings = request.app.state.settings
    name = cookie_name(settings, COOKIE)
    await sessions.sign_out(context, request.cookies[name])
    response.delete_cookie(name, secure=settings.secure_cookies, httponly=True)


@router.get("/me")
async def me(context: CurrentContext, session: AnySession) -> Me:
    return await me_out(context, session)


class ResetIn(BaseModel):
    email: Annotated[str, Field(max_length=254)]


@router.post("/reset", status_code=202, dependencies=[Depends(same_site)])
async def ask_reset(body: ResetIn, context: CurrentContext, client: CurrentClient) -> None:
    """Have a letter sent to set a new password with; the answer is the same for every address."""
    await one_time_links.ask_reset(context, body.email, client)


class LinkIn(BaseModel):
    token: Annotated[str, Field(max_length=200)]


class OneTimeLink(BaseModel):
    """What a link is for, and for whom; name and address are empty for the first owner."""

    purpose: LinkPurpose
    name: str
    email: str
    office: str


class LinkUsed(LinkIn):
    name: Annotated[str, Field(max_length=120)] = ""
    email: Annotated[str, Field(max_length=254)] = ""
    password: Annotated[str, Field(max_length=1000)]


@router.post("/link", dependencies=[Depends(same_site)])
async def look_at_link(body: LinkIn, context: CurrentContext) -> OneTimeLink:
    return OneTimeLink(**vars(await one_time_links.look(context, body.token)))


@router.post("/link/use", dependencies=[Depends(same_site)])
async def use_link(
    body: LinkUsed,
    request: Request,
    response: Response,
    context: CurrentContext,
    client: CurrentClient,
) -> Me | None:
    """Set a password by a link, and sign in; null for who has a second factor and signs in with
    it."""
    given = one_time_links.Given(body.name, body.password, body.email)
    found = await one_time_links.use(context, body.token, given, client)
    if found is None:
        return None
    set_session(request, response, found)
    return await me_out(context, found.session)
