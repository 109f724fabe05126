"""Signing in and out, and who I am."""

from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel, Field

from jotgate.api.given import COOKIE, GivenHouse, GivenSession, same_site
from jotgate.api.problems import PROBLEMS
from jotgate.services import accounts
from jotgate.store.accounts import Role, Session

router = APIRouter(prefix="/api", tags=["accounts"], responses=PROBLEMS)


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
async def sign_in(body: SignIn, request: Request, response: Response, house: GivenHouse) -> Me:
    place = request.client.host if request.client else "unknown"
    signed = await accounts.sign_in(house, body.email, body.password, place)
    response.set_cookie(
        COOKIE,
        signed.token,
        max_age=house.session_hours * 3600,
        httponly=True,
        samesite="lax",
        secure=request.app.state.settings.secure_cookies,
    )
    return _me(signed.session)


@router.post("/sign-out", status_code=204)
async def sign_out(
    request: Request, response: Response, house: GivenHouse, session: GivenSession
) -> None:
    await accounts.sign_out(house, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)


@router.get("/me")
async def me(session: GivenSession) -> Me:
    return _me(session)
