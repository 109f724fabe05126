"""What routes are given: the context, the session, and a check that it is really them."""

import hmac
from typing import Annotated

from fastapi import Depends, Request, Response
from fastapi.routing import APIRoute

from jotgate.api.scopes import scope_of
from jotgate.core.common.errors import NeedsFactor, NotAllowed
from jotgate.core.records.accounts import Account, Client, Session
from jotgate.services.context import Context
from jotgate.services.staff.accounts import sessions, tokens
from jotgate.services.staff.accounts.sessions import SignedIn
from jotgate.settings import Settings

COOKIE = "jotgate_session"
DEVICE = "jotgate_device"


def cookie_name(settings: Settings, name: str = COOKIE, prefix: str = "__Host-") -> str:
    """A cookie's name; over HTTPS one that no other host or path can set (RFC 6265bis), or no page
    without HTTPS, where it is for one path alone (`__Secure-`)."""
    return f"{prefix}{name}" if settings.secure_cookies else name


CSRF_HEADER = "X-CSRF-Token"

IDLE_HEADER = "X-Idle"
"""Sent by pages whose person has done nothing for a while: what they ask for by themselves does not
keep a session open."""


def context_in(request: Request) -> Context:
    """The context itself, where a dependency would cost what it does: at every turn of a page."""
    context: Context = request.app.state.context
    return context


async def context_of(request: Request) -> Context:
    return context_in(request)


CurrentContext = Annotated[Context, Depends(context_of)]


async def same_site(request: Request) -> None:
    """Refuse a request that another site's page makes a browser send."""
    if request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        raise NotAllowed("This request came from another site.")


async def client_of(request: Request) -> Client:
    settings: Settings = request.app.state.settings
    return Client(
        place=request.scope["client_address"],
        device=request.cookies.get(cookie_name(settings, DEVICE), "")[:100],
        agent=request.headers.get("User-Agent", "")[:300],
    )


CurrentClient = Annotated[Client, Depends(client_of)]


def set_session(request: Request, response: Response, signed: SignedIn) -> None:
    """Put a new session and its device into cookies."""
    settings: Settings = request.app.state.settings
    hours = context_in(request).session_hours
    for name, value, age in (
        (COOKIE, signed.token, hours * 3600),
        (DEVICE, signed.device, int(sessions.REMEMBERED.total_seconds())),
    ):
        response.set_cookie(
            cookie_name(settings, name),
            value,
            max_age=age,
            httponly=True,
            samesite="lax",
            secure=settings.secure_cookies,
        )


async def signed_in(request: Request, context: CurrentContext) -> Session:
    """The session, limited or not; for a changing request only with its token in the header."""
    await same_site(request)
    session = await sessions.find(
        context,
        request.cookies.get(cookie_name(request.app.state.settings)),
        active=IDLE_HEADER not in request.headers,
    )
    if request.method not in ("GET", "HEAD"):
        given = request.headers.get(CSRF_HEADER, "")
        if not hmac.compare_digest(given.encode(), session.csrf.encode()):
            raise NotAllowed("This page is out of date. Reload it and try again.")
    return session


AnySession = Annotated[Session, Depends(signed_in)]


async def whole(session: AnySession) -> Session:
    """The session of somebody who has every factor that the office asks for."""
    if session.limited:
        raise NeedsFactor("Set up a second factor first: this office asks for one.")
    return session


CurrentSession = Annotated[Session, Depends(whole)]


async def confirmed(session: CurrentSession, context: CurrentContext) -> Session:
    """The session of somebody who has shown lately who they are."""
    sessions.needs_confirming(context, session)
    return session


ConfirmedSession = Annotated[Session, Depends(confirmed)]


async def confirmed_any(session: AnySession, context: CurrentContext) -> Session:
    """The same, where a second factor may be missing still."""
    sessions.needs_confirming(context, session)
    return session


ConfirmedAnySession = Annotated[Session, Depends(confirmed_any)]


async def account_of(request: Request, context: CurrentContext) -> Account:
    """Who asks: the person of a session, or the one whose token a script has (RFC 6750)."""
    kind, _, secret = request.headers.get("Authorization", "").partition(" ")
    if kind.lower() != "bearer":
        return (await whole(await signed_in(request, context))).account
    account, token = await tokens.use(context, secret.strip())
    route = request.scope["route"]
    assert isinstance(route, APIRoute)
    if scope_of(route.tags, request.method) not in token.scopes:
        raise NotAllowed("This token is not for that.")
    return account


CurrentAccount = Annotated[Account, Depends(account_of)]
