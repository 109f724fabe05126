"""Signing in and out."""

import hashlib
from dataclasses import dataclass
from datetime import timedelta

from jotgate.core.common.errors import NotSignedIn, TooManyTries, WrongSignIn
from jotgate.core.records.accounts import Account, Role, Session
from jotgate.services.context import Context
from jotgate.store import accounts, trail

TRIES = 5
"""Failed sign-ins of one client with one address, before a pause."""

TRIES_FROM_ONE_PLACE = 20
"""Failed sign-ins of one client with any addresses."""

TRIES_OF_STRANGERS = 50
"""Failed sign-ins with one address, by whatever clients; who has signed in from the same client
before is not held up by them."""

PAUSE = timedelta(minutes=5)
REMEMBERED = timedelta(days=90)
"""How long it is remembered that an account signed in from a client."""


@dataclass(frozen=True)
class SignedIn:
    """A new session. `token` goes into the cookie and is kept here only as a hash."""

    token: str
    session: Session


def token_hash(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


async def sign_in(context: Context, email: str, password: str, place: str) -> SignedIn:
    """Start a session. `place` is the network address of the client.

    A try counts before it is made, so that many at once count as well, and no longer once it
    was right. Raises WrongSignIn, TooManyTries.
    """
    email = email.strip().lower()
    now = context.clock.now()
    limits = {f"pair {email} {place}": TRIES, f"place {place}": TRIES_FROM_ONE_PLACE}
    known = f"known {email} {place}"
    strangers = f"account {email}"
    async with context.engine.begin() as conn:
        if not await accounts.tries(conn, known, now - REMEMBERED):
            limits[strangers] = TRIES_OF_STRANGERS
        for who, limit in limits.items():
            if await accounts.tries(conn, who, now - PAUSE) >= limit:
                raise TooManyTries(
                    "Too many tries. Wait five minutes, then try again.",
                    retry_after=int(PAUSE.total_seconds()),
                )
        for who in limits:
            await accounts.note_try(conn, who, now)
        found = await accounts.by_email(conn, email)
    if not await context.passwords.matches(password, found and found[1]) or found is None:
        raise WrongSignIn("The email address or the password is wrong.")
    account = found[0]
    token, csrf = context.ids.token(), context.ids.token()
    expires = now + timedelta(hours=context.session_hours)
    async with context.engine.begin() as conn:
        await accounts.start_session(conn, token_hash(token), account.id, csrf, expires)
        await accounts.forget_tries(conn, [*limits, strangers, known])
        await accounts.note_try(conn, known, now)
        await trail.add(conn, now, account.id, "signed_in")
    return SignedIn(token, Session(account, csrf, expires))


async def session_of(context: Context, token: str | None) -> Session:
    """The session that a cookie names. Raises NotSignedIn."""
    if token:
        async with context.single.connect() as conn:
            found = await accounts.session(conn, token_hash(token), context.clock.now())
        if found is not None:
            return found
    raise NotSignedIn("Sign in to go on.")


async def sign_out(context: Context, token: str) -> None:
    async with context.engine.begin() as conn:
        await accounts.end_session(conn, token_hash(token), context.clock.now())


async def add_account(
    context: Context, email: str, name: str, role: Role, password: str
) -> Account:
    account = Account(context.ids.id(), email.strip().lower(), name, role)
    hashed = await context.passwords.hash(password)
    async with context.engine.begin() as conn:
        await accounts.add(conn, account, hashed)
    return account


async def forget_old_tries(context: Context) -> None:
    async with context.engine.begin() as conn:
        await accounts.forget_old_tries(conn, context.clock.now() - REMEMBERED)
