"""Signing in by password and one-time code, and the pace at which that can be tried."""

import hashlib
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal
from uuid import UUID

import orjson

from jotgate.core.clients import network_of
from jotgate.core.common.errors import NotAllowed, NotSignedIn, Sealed, TooManyTries, WrongSignIn
from jotgate.core.common.secrets import hash_of
from jotgate.core.records.accounts import Account, Client
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.staff.accounts import factors
from jotgate.services.staff.accounts.sessions import REMEMBERED, SignedIn, begin
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, sessions
from jotgate.store.accounts import factors as factor_store
from jotgate.store.base import Connection

TRIES = 5
"""Failed sign-ins of one network with one address, or of a device that its person has signed in
on, before a pause."""

TRIES_FROM_ONE_NETWORK = 20
"""Failed sign-ins of one network with any addresses."""

TRIES_OF_STRANGERS = 50
"""Failed sign-ins with one address, from whatever networks. Who uses a device that they have signed
in on, a passkey, or a letter, is not held up by them."""

PAUSE = timedelta(minutes=5)
WRONG = "The email address or the password is wrong."
WRONG_CODE = "This code is wrong, or it was used already."
TOO_OLD = "This took too long. Enter your password again."
SLOW = "Too many tries. Wait five minutes, then try again."
ATTACKED = (
    "There have been many wrong tries with this address. Sign in on a device that you have used "
    "before, with a passkey, or have a letter sent to set a new password."
)

Way = Literal["code", "passkey"]

STEP_MINUTES = 10
NOBODY = UUID(int=0)


@dataclass(frozen=True)
class SecondStep:
    """The password was right; `ticket` goes back with what else is asked for."""

    ticket: str
    ways: tuple[Way, ...]


async def sign_in(
    context: Context, email: str, password: str, client: Client
) -> SignedIn | SecondStep:
    """Start a session, or say what else is needed. Raises WrongSignIn, TooManyTries, NotAllowed.

    A try counts before it is made, so that many at once count as well, and no longer once it was
    right.
    """
    if not (await office.current(context)).passwords:
        raise NotAllowed("Passwords are not used here. Sign in with a passkey or your provider.")
    email, now = email.strip().lower(), context.clock.now()
    async with context.engine.begin() as conn:
        found = await accounts.by_email(conn, email, now)
        counted, over = await _count(conn, found and found[0], email, client, now)
    if over:
        attacked = over == _strangers(email)
        if attacked:
            await _tell_once(context, found and found[0], email, now)
        wait = int(PAUSE.total_seconds())
        raise TooManyTries(ATTACKED if attacked else SLOW, retry_after=wait)
    right = await context.passwords.matches(password, (found and found[1]) or None)
    if not right or found is None:
        raise WrongSignIn(WRONG)
    account, hashed = found
    async with context.engine.begin() as conn:
        await _uncount(conn, counted, now)
        with_code, with_passkey = await factor_store.has_any(conn, account.id)
        if with_code or with_passkey:
            ways: list[Way] = ["code"] if with_code else []
            return SecondStep(
                _ticket(context, account.id, hashed),
                (*ways, "passkey") if with_passkey else tuple(ways),
            )
        return await begin(context, conn, account, client, "password")


def _strangers(email: str) -> str:
    """The name under which tries of strangers with an address are counted."""
    return f"account {email}"


async def _count(
    conn: Connection, account: Account | None, email: str, client: Client, now: datetime
) -> tuple[list[str], str]:
    """Count a try: under which names, and the one that had too many, where none is counted any
    more. The same is asked whether or not there is an account."""
    network = network_of(client.place)
    device = hash_of(client.device)
    id = account.id if account else NOBODY
    if await sessions.is_known(conn, device, id, now - REMEMBERED):
        limits = {f"device {device.hex()} {email}": TRIES}
    else:
        limits = {
            f"pair {email} {network}": TRIES,
            f"network {network}": TRIES_FROM_ONE_NETWORK,
            _strangers(email): TRIES_OF_STRANGERS,
        }
    for who, limit in limits.items():
        if await sessions.tries(conn, who, now - PAUSE) >= limit:
            return [], who
    for who in limits:
        await sessions.note_try(conn, who, now)
    return list(limits), ""


async def _tell_once(context: Context, account: Account | None, email: str, now: datetime) -> None:
    """Put on the trail that an account is being guessed at, once in a pause."""
    async with context.engine.begin() as conn:
        told = f"told {email}"
        if await sessions.tries(conn, told, now - PAUSE):
            return
        await sessions.note_try(conn, told, now)
        if account is not None:
            await note(context, conn, None, "sign_in_slowed", about=account.id)


async def _uncount(conn: Connection, counted: list[str], now: datetime) -> None:
    """A try was right: it counts no more, nor do those before it from the same place."""
    await sessions.forget_tries(
        conn, [one for one in counted if one.startswith(("pair", "device"))]
    )
    for one in counted:
        await sessions.forget_try(conn, one, now)


def _ticket(context: Context, account_id: UUID, hashed: str) -> str:
    """Says for some minutes that somebody has given the right password."""
    expires = context.clock.now() + timedelta(minutes=STEP_MINUTES)
    content = {
        "account": str(account_id),
        "password": _print_of(hashed),
        "expires": expires.timestamp(),
        "name": context.ids.token(),
    }
    return context.cipher.seal(orjson.dumps(content), "second step").decode("ascii")


def _print_of(hashed: str) -> str:
    return hashlib.sha256(hashed.encode()).hexdigest()[:16]


async def second_step(context: Context, ticket: str, code: str, client: Client) -> SignedIn:
    """Start a session with a one-time code, or one for recovery. Raises WrongSignIn,
    TooManyTries, NotSignedIn."""
    now = context.clock.now()
    try:
        given = orjson.loads(context.cipher.open(ticket.encode(), "second step"))
    except Sealed:
        raise NotSignedIn(TOO_OLD) from None
    id, name = UUID(given["account"]), str(given["name"])
    async with context.engine.begin() as conn:
        await _count_code(conn, id, name, client, now)
    async with context.engine.begin() as conn:
        account = await accounts.by_id(conn, id, now)
        if account is None or now.timestamp() > given["expires"]:
            raise NotSignedIn(TOO_OLD)
        if _print_of(await accounts.password_hash(conn, id)) != given["password"]:
            raise NotSignedIn(TOO_OLD)
        how = await factors.takes(context, conn, id, code)
        if how is None:
            raise WrongSignIn(WRONG_CODE)
        later = now + timedelta(minutes=STEP_MINUTES)
        if not await sessions.use_once(conn, hash_of(name), later):
            raise NotSignedIn(TOO_OLD)
        await sessions.forget_tries(conn, [f"code {id}"])
        return await begin(context, conn, account, client, how)


async def _count_code(conn: Connection, id: UUID, name: str, client: Client, now: datetime) -> None:
    """Count a try of a code. Codes are tried only by who knows the password; they are counted for
    the account, by device where its person has signed in on it."""
    device = hash_of(client.device)
    known = await sessions.is_known(conn, device, id, now - REMEMBERED)
    whose = f"code {device.hex()} {id}" if known else f"code {id}"
    for who in (whose, f"step {name}"):
        if await sessions.tries(conn, who, now - PAUSE) >= TRIES:
            raise TooManyTries(SLOW, retry_after=int(PAUSE.total_seconds()))
    for who in (whose, f"step {name}"):
        await sessions.note_try(conn, who, now)
