"""Signing in and out, and who I am."""

from typing import Annotated

from fastapi import Depends, Request, Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext, CurrentSession, cookie_name, same_site
from jotgate.api.routes import routes
from jotgate.core.records.accounts import Role, Session
from jotgate.services.staff import accounts

router = routes("/api", "accounts")


class SignIn(BaseModel):
    email: Annotated[str, Field(max_length=254)]
    password: Annotated[str, Field(max_length=200)]


class Me(BaseModel):
    """Who is signed in. `csrf` goes back in the X-CSRF-Token header of every change."""

    name: str
    email: str
    role: Role
    writes: bool
    csrf: str


def _me(session: Session) -> Me:
    account = session.account
    return Me(
        name=account.name,
        email=account.email,
        role=account.role,
        writes=account.writes,
        csrf=session.csrf,
    )


@router.post("/sign-in", dependencies=[Depends(same_site)])
async def sign_in(
    body: SignIn, request: Request, response: Response, context: CurrentContext
) -> Me:
    settings = request.app.state.settings
    place = request.scope["client_address"]
    signed = await accounts.sign_in(context, body.email, body.password, place)
    response.set_cookie(
        cookie_name(settings),
        signed.token,
        max_age=context.session_hours * 3600,
        httponly=True,
        samesite="lax",
        secure=settings.secure_cookies,
    )
    return _me(signed.session)


@router.post("/sign-out", status_code=204)
async def sign_out(
    request: Request, response: Response, context: CurrentContext, session: CurrentSession
) -> None:
    settings = request.app.state.settings
    name = cookie_name(settings)
    await accounts.sign_out(context, request.cookies[name])
    response.delete_cookie(name, secure=settings.secure_cookies, httponly=True)


@router.get("/me")
async def me(session: CurrentSession) -> Me:
    return _me(session)
