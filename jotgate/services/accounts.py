"""Signing in and out."""

import hashlib
from dataclasses import dataclass
from datetime import timedelta

from jotgate.core.errors import NotSignedIn, TooManyTries, WrongSignIn
from jotgate.services.house import House
from jotgate.store import accounts, trail
from jotgate.store.accounts import Account, Role, Session

TRIES = 5
"""Failed sign-ins with one address, or twenty from one place, before a pause."""
TRIES_FROM_ONE_PLACE = 20
PAUSE = timedelta(minutes=5)


@dataclass(frozen=True)
class SignedIn:
    """A new session. `token` goes into the cookie and is kept here only as a hash."""

    token: str
    session: Session


def token_hash(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


async def sign_in(house: House, email: str, password: str, place: str) -> SignedIn:
    """Start a session. `place` is the network address that the try comes from."""
    email = email.strip().lower()
    now = house.clock.now()
    limits = {f"account {email}": TRIES, f"place {place}": TRIES_FROM_ONE_PLACE}
    async with house.engine.begin() as conn:
        for who, limit in limits.items():
            if await accounts.failed_tries(conn, who, now - PAUSE) >= limit:
                raise TooManyTries(
                    "Too many tries. Wait five minutes, then try again.",
                    retry_after=int(PAUSE.total_seconds()),
                )
        found = await accounts.by_email(conn, email)
        if not house.passwords.matches(password, found and found[1]):
            for who in limits:
                await accounts.note_failed_try(conn, who, now)
            found = None
        if found is not None:
            account = found[0]
            token, csrf = house.ids.token(), house.ids.token()
            expires = now + timedelta(hours=house.session_hours)
            await accounts.start_session(conn, token_hash(token), account.id, csrf, expires)
            await accounts.forget_tries(conn, f"account {email}")
            await trail.add(conn, now, account.id, "signed_in")
            return SignedIn(token, Session(account, csrf, expires))
    raise WrongSignIn("That address and password do not belong together.")


async def session_of(house: House, token: str | None) -> Session:
    """The session that a cookie names. Raises NotSignedIn."""
    if token:
        async with house.engine.connect() as conn:
            found = await accounts.session(conn, token_hash(token), house.clock.now())
        if found is not None:
            return found
    raise NotSignedIn("Sign in to go on.")


async def sign_out(house: House, token: str) -> None:
    async with house.engine.begin() as conn:
        await accounts.end_session(conn, token_hash(token), house.clock.now())


async def add_account(house: House, email: str, name: str, role: Role, password: str) -> Account:
    account = Account(house.ids.id(), email.strip().lower(), name, role)
    async with house.engine.begin() as conn:
        await accounts.add(conn, account, house.passwords.hash(password))
    return account
