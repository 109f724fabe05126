"""What routes are given: the context, the session, and a check that it is really them."""

import hmac
from typing import Annotated

from fastapi import Depends, Request

from jotgate.core.common.errors import NotAllowed
from jotgate.core.records.accounts import Account, Session
from jotgate.services.context import Context
from jotgate.services.staff.accounts import session_of
from jotgate.settings import Settings

COOKIE = "jotgate_session"


def cookie_name(settings: Settings) -> str:
    """The session cookie; over HTTPS one that no other host or path can set (RFC 6265bis)."""
    return f"__Host-{COOKIE}" if settings.secure_cookies else COOKIE


CSRF_HEADER = "X-CSRF-Token"


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


async def signed_in(request: Request, context: CurrentContext) -> Session:
    """The session, for a changing request only with its token in the header."""
    await same_site(request)
    session = await session_of(
        context, request.cookies.get(cookie_name(request.app.state.settings))
    )
    if request.method not in ("GET", "HEAD"):
        given = request.headers.get(CSRF_HEADER, "")
        if not hmac.compare_digest(given.encode(), session.csrf.encode()):
            raise NotAllowed("This page is out of date. Reload it and try again.")
    return session


CurrentSession = Annotated[Session, Depends(signed_in)]


async def account_of(session: CurrentSession) -> Account:
    return session.account


CurrentAccount = Annotated[Account, Depends(account_of)]
