"""Sessions: begun, found, listed, ended; the devices that people sign in on."""

from dataclasses import dataclass
from datetime import timedelta
from typing import Literal
from uuid import UUID

from jotgate.core.clients import client_name
from jotgate.core.common.errors import NeedsConfirming, NotFound, NotSignedIn
from jotgate.core.common.secrets import hash_of
from jotgate.core.records.accounts import Account, Client, OpenSession, Session
from jotgate.services import letters, office
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.services.staff.accounts import factors
from jotgate.services.trail import note
from jotgate.store.accounts import sessions
from jotgate.store.base import Connection

How = Literal["password", "code", "recovery", "passkey", "provider", "link"]
"""By what somebody signed in."""

SEEN_EVERY = timedelta(minutes=1)
REMEMBERED = timedelta(days=180)
"""How long it is remembered that somebody signed in on a device."""

TRIES_KEPT = timedelta(days=1)

CONFIRMED_FOR = timedelta(minutes=15)

SIGN_IN = "Sign in to go on."


@dataclass(frozen=True)
class SignedIn:
    """A new session. `token` and `device` go into cookies and are kept here only as hashes."""

    token: str
    device: str
    session: Session


async def begin(
    context: Context, conn: Connection, account: Account, client: Client, how: How
) -> SignedIn:
    """Start a session, put it on the trail, and tell its person where the device is a new one."""
    now = context.clock.now()
    token, device = context.ids.token(), client.device or context.ids.token()
    session = Session(
        id=context.ids.id(),
        account=account,
        csrf=context.ids.token(),
        expires=now + timedelta(hours=context.session_hours),
        seen=now,
        confirmed=now,
        limited=how != "provider" and await factors.lacking(context, conn, account),
    )
    await sessions.start(conn, hash_of(token), session, client.agent[:300], client.place)
    new, first = await sessions.note_device(conn, hash_of(device), account.id, now)
    where = client_name(client.agent)
    await note(context, conn, account.id, "signed_in", how=how, client=where, new=new)
    if new and not first:
        await letters.ask(context, conn, await _new_device(context, account, where, client.place))
    return SignedIn(token, device, session)


async def _new_device(context: Context, account: Account, where: str, place: str) -> Written:
    name = (await office.current(context)).name
    moment = context.clock.now().strftime("%Y-%m-%d %H:%M UTC")
    return Written(
        account.email,
        f"Signed in on a new device: {name}",
        f"Hello {account.name},\n\n"
        f"somebody has signed in with your account of {name} on a device that you have not used "
        f"before:\n\n  {where}, from {place}, on {moment}\n\n"
        "If that was you, there is nothing to do. If not, end that session and change your "
        f"password at once:\n\n  {context.public_url}/desk/account\n",
    )


async def find(context: Context, token: str | None, active: bool) -> Session:
    """The session that a cookie names; `active` says that its person does something just now.
    Raises NotSignedIn."""
    if not token:
        raise NotSignedIn(SIGN_IN)
    now, hashed = context.clock.now(), hash_of(token)
    idle = timedelta(minutes=(await office.current(context)).idle_minutes)
    async with context.single.connect() as conn:
        found = await sessions.find(conn, hashed, now)
        if found is None:
            raise NotSignedIn(SIGN_IN)
        if now - found.seen > idle:
            await sessions.end_by_token(conn, hashed)
            raise NotSignedIn("You were signed out, since nothing was done for a while.")
        if active and now - found.seen >= SEEN_EVERY:
            await sessions.note_seen(conn, hashed, now)
    return found


def needs_confirming(context: Context, session: Session) -> None:
    """Raise NeedsConfirming for a session whose person has not shown lately who they are: before
    changes to how they sign in."""
    if context.clock.now() - session.confirmed > CONFIRMED_FOR:
        raise NeedsConfirming("Show once more that it is you: it has been a while.")


async def sign_out(context: Context, token: str) -> None:
    async with context.engine.begin() as conn:
        await sessions.end_by_token(conn, hash_of(token))


async def every(context: Context, account: Account) -> list[OpenSession]:
    """The open sessions of `account`, the one used last first."""
    async with context.engine.connect() as conn:
        return await sessions.of_account(conn, account.id, context.clock.now())


async def end(context: Context, account: Account, id: UUID) -> None:
    """End one of one's own sessions. Raises NotFound."""
    async with context.engine.begin() as conn:
        if not await sessions.end(conn, account.id, id):
            raise NotFound("This session has ended already.")
        await note(context, conn, account.id, "sessions_ended", count=1)


async def end_others(context: Context, session: Session) -> None:
    """End every session of its person but this one, and forget the devices."""
    account = session.account
    async with context.engine.begin() as conn:
        await sessions.end_all(conn, account.id, but=session.id)
        await sessions.forget_devices(conn, account.id)
        await note(context, conn, account.id, "sessions_ended", count="all")


async def forget_old(context: Context) -> None:
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await sessions.forget_old(conn, now, now - TRIES_KEPT)
