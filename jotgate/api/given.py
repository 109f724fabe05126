"""What routes are given: the house, the session, and a check that it is really them."""

import hmac
from typing import Annotated

from fastapi import Depends, Request

from jotgate.core.common.errors import NotAllowed
from jotgate.core.records.accounts import Account, Session
from jotgate.services.accounts import session_of
from jotgate.services.house import House
from jotgate.settings import Settings

COOKIE = "jotgate_session"


def cookie_name(settings: Settings) -> str:
    """The session cookie; over HTTPS one that no other host or path can set (RFC 6265bis)."""
    return f"__Host-{COOKIE}" if settings.secure_cookies else COOKIE


CSRF_HEADER = "X-CSRF-Token"


def house_in(request: Request) -> House:
    """The house itself, where a dependency would cost what it does: at every turn of a page."""
    house: House = request.app.state.house
    return house


async def house_of(request: Request) -> House:
    return house_in(request)


GivenHouse = Annotated[House, Depends(house_of)]


async def same_site(request: Request) -> None:
    """Refuse a request that another site's page makes a browser send."""
    if request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        raise NotAllowed("This request came from another site.")


async def signed_in(request: Request, house: GivenHouse) -> Session:
    """The session, for a changing request only with its token in the header."""
    await same_site(request)
    session = await session_of(house, request.cookies.get(cookie_name(request.app.state.settings)))
    if request.method not in ("GET", "HEAD"):
        given = request.headers.get(CSRF_HEADER, "")
        if not hmac.compare_digest(given.encode(), session.csrf.encode()):
            raise NotAllowed("This page is out of date. Reload it and try again.")
    return session


GivenSession = Annotated[Session, Depends(signed_in)]


async def account_of(session: GivenSession) -> Account:
    return session.account


GivenAccount = Annotated[Account, Depends(account_of)]
