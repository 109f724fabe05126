"""One's own account: name, password, second factors, sessions, tokens."""

import json
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, Field, StringConstraints

from jotgate.api.dependencies import (
    AnySession,
    ConfirmedAnySession,
    ConfirmedSession,
    CurrentContext,
    CurrentSession,
)
from jotgate.api.routes import routes
from jotgate.api.staff.accounts.accounts import PasskeyAsked, PasskeyIn
from jotgate.core.clients import client_name
from jotgate.core.common import base64url
from jotgate.core.common.errors import NotFound
from jotgate.core.records.accounts import Passkey
from jotgate.core.records.tokens import Scope, Token
from jotgate.services.staff.accounts import factors, own_account, passkeys, people, sessions, tokens

router = routes("/api/account", "account")

Name = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=120, pattern=r"^[^\r\n]*$"),
]


class PasskeyOut(BaseModel):
    id: str
    name: str
    added: datetime
    used: datetime | None


class StandingOut(BaseModel):
    """What somebody signs in with. `required` says that the office asks for a second factor,
    `passkeys_possible` that this installation has an address that passkeys are kept for."""

    password: bool
    codes: bool
    recovery_codes: int
    passkeys: list[PasskeyOut]
    provider: bool
    required: bool
    passkeys_possible: bool


def _passkey(one: Passkey) -> PasskeyOut:
    return PasskeyOut(id=base64url.written(one.id), name=one.name, added=one.added, used=one.used)


@router.get("")
async def own_standing(context: CurrentContext, session: AnySession) -> StandingOut:
    found = await factors.standing(context, session.account)
    return StandingOut(
        **{**vars(found), "passkeys": [_passkey(one) for one in found.passkeys]},
        passkeys_possible=context.passkeys.possible(),
    )


class ConfirmIn(BaseModel):
    password: Annotated[str, Field(max_length=200)]


@router.post("/confirm", status_code=204)
async def confirm(body: ConfirmIn, context: CurrentContext, session: AnySession) -> None:
    """Show once more who one is: changes to how one signs in ask for it after a while."""
    await own_account.confirm(context, session, body.password)


class NameIn(BaseModel):
    name: Name


@router.put("/name", status_code=204)
async def rename(body: NameIn, context: CurrentContext, session: CurrentSession) -> None:
    await own_account.rename(context, session, body.name)


class PasswordIn(BaseModel):
    """`current` is empty for who has none yet."""

    current: Annotated[str, Field(max_length=200)] = ""
    password: Annotated[str, Field(max_length=1000)]


@router.put("/password", status_code=204)
async def change_password(
    body: PasswordIn, context: CurrentContext, session: CurrentSession
) -> None:
    await own_account.change_password(context, session, body.current, body.password)


class OfferedOut(BaseModel):
    """A secret for an app, as an address, as letters, and as a QR code (SVG)."""

    address: str
    secret: str
    picture: str
    sealed: str


class TakeOn(BaseModel):
    sealed: Annotated[str, Field(max_length=1000)]
    code: Annotated[str, Field(max_length=40)]


class RecoveryCodes(BaseModel):
    codes: list[str]


@router.post("/codes/offer")
async def offer_codes(context: CurrentContext, session: ConfirmedAnySession) -> OfferedOut:
    return OfferedOut(**vars(await factors.offer(context, session.account)))


@router.post("/codes", status_code=201)
async def take_on_codes(
    body: TakeOn, context: CurrentContext, session: ConfirmedAnySession
) -> RecoveryCodes:
    """Keep the secret, once its app has shown a right code: the codes for recovery."""
    codes = await factors.take_on(context, session, body.sealed, body.code)
    return RecoveryCodes(codes=list(codes))


@router.delete("/codes", status_code=204)
async def remove_codes(context: CurrentContext, session: ConfirmedSession) -> None:
    await factors.remove_codes(context, session.account)


@router.post("/codes/recovery")
async def renew_recovery_codes(context: CurrentContext, session: ConfirmedSession) -> RecoveryCodes:
    codes = await factors.renew_recovery_codes(context, session.account)
    return RecoveryCodes(codes=list(codes))


@router.post("/passkeys/options")
async def offer_passkey(context: CurrentContext, session: ConfirmedAnySession) -> PasskeyAsked:
    asked = await passkeys.offer(context, session)
    return PasskeyAsked(options=json.loads(asked.options), ticket=asked.ticket)


class NewPasskeyIn(PasskeyIn):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


@router.post("/passkeys", status_code=201)
async def add_passkey(
    body: NewPasskeyIn, context: CurrentContext, session: ConfirmedAnySession
) -> PasskeyOut:
    credential = json.dumps(body.credential)
    return _passkey(await passkeys.add(context, session, body.ticket, credential, body.name))


@router.delete("/passkeys/{id}", status_code=204)
async def remove_passkey(id: str, context: CurrentContext, session: ConfirmedSession) -> None:
    try:
        found = base64url.read(id)
    except ValueError:
        raise NotFound("There is no such passkey.") from None
    await factors.remove_passkey(context, session.account, found)


class SessionOut(BaseModel):
    """An open session; `client` is the browser in words, `place` its network address."""

    id: UUID
    started: datetime
    seen: datetime
    client: str
    place: str
    own: bool


@router.get("/sessions")
async def every_session(context: CurrentContext, session: CurrentSession) -> list[SessionOut]:
    return [
        SessionOut(
            id=one.id,
            started=one.started,
            seen=one.seen,
            client=client_name(one.agent),
            place=one.place,
            own=one.id == session.id,
        )
        for one in await sessions.every(context, session.account)
    ]


@router.delete("/sessions/{id}", status_code=204)
async def end_session(id: UUID, context: CurrentContext, session: CurrentSession) -> None:
    await sessions.end(context, session.account, id)


@router.delete("/sessions", status_code=204)
async def end_other_sessions(context: CurrentContext, session: CurrentSession) -> None:
    """End every other session, and forget the devices."""
    await sessions.end_others(context, session)


class TokenOut(BaseModel):
    id: UUID
    name: str
    scopes: list[Scope]
    cleared: bool
    made: datetime
    expires: datetime
    used: datetime | None


class NewToken(BaseModel):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    scopes: list[Scope] = Field(max_length=20)
    cleared: bool = False
    expires: AwareDatetime


class MadeToken(TokenOut):
    """`secret` is shown this once."""

    secret: str


def _token(one: Token) -> dict[str, Any]:
    return {**vars(one), "scopes": list(one.scopes)}


@router.get("/tokens")
async def every_token(context: CurrentContext, session: CurrentSession) -> list[TokenOut]:
    return [TokenOut(**_token(one)) for one in await tokens.every(context, session.account)]


@router.post("/tokens", status_code=201)
async def make_token(
    body: NewToken, context: CurrentContext, session: ConfirmedSession
) -> MadeToken:
    made = await tokens.make(
        context, session.account, body.name, body.scopes, body.cleared, body.expires
    )
    return MadeToken(**_token(made.token), secret=made.secret)


@router.delete("/tokens/{id}", status_code=204)
async def end_token(id: UUID, context: CurrentContext, session: CurrentSession) -> None:
    await tokens.end(context, session.account, id)


class Leaving(BaseModel):
    """`successor` gets the parts of who leaves."""

    successor: UUID | None = None


@router.post("/leave", status_code=204)
async def leave_office(body: Leaving, context: CurrentContext, session: ConfirmedSession) -> None:
    """Close one's own account."""
    await people.leave(context, session.account, session.account.id, body.successor)
