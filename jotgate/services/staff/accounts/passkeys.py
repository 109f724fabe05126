"""Passkeys of one's own account, and signing in with one."""

import asyncio
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

import orjson

from jotgate.core.clients import network_of
from jotgate.core.common.errors import (
    AlreadyThere,
    Fault,
    Invalid,
    Sealed,
    TooManyTries,
    WrongSignIn,
)
from jotgate.core.common.secrets import hash_of
from jotgate.core.records.accounts import Client, Passkey, Session
from jotgate.ports.passkeys import PasskeyRefused
from jotgate.services.context import Context
from jotgate.services.staff.accounts.sessions import SignedIn, begin
from jotgate.services.staff.accounts.sign_in import PAUSE, SLOW, TRIES_FROM_ONE_NETWORK
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, factors, sessions

LASTS = timedelta(minutes=5)

REFUSED = "This passkey could not be checked. Try again."
UNKNOWN = "This passkey does not belong to an account here."
NOT_HERE = "Passkeys need an address with a name, over HTTPS. This installation has none."
TOO_OLD = "This took too long. Try again."


@dataclass(frozen=True)
class Asked:
    """`options` are what the browser is given, `ticket` comes back with what it answers."""

    options: str
    ticket: str


def _asked(context: Context, options: str, challenge: str, purpose: str) -> Asked:
    expires = (context.clock.now() + LASTS).timestamp()
    content = orjson.dumps({"challenge": challenge, "expires": expires})
    return Asked(options, context.cipher.seal(content, purpose).decode("ascii"))


def _challenge(context: Context, ticket: str, purpose: str) -> str:
    try:
        found = orjson.loads(context.cipher.open(ticket.encode(), purpose))
    except Sealed:
        raise Invalid(TOO_OLD) from None
    if context.clock.now().timestamp() > found["expires"]:
        raise Invalid(TOO_OLD)
    return str(found["challenge"])


def _making(account_id: UUID) -> str:
    return f"new passkey {account_id}"


async def offer(context: Context, session: Session) -> Asked:
    """Options for a browser to make a passkey with. Raises Invalid where there can be none."""
    if not context.passkeys.possible():
        raise Invalid(NOT_HERE)
    account, challenge = session.account, context.ids.token()
    async with context.engine.connect() as conn:
        has = [one.id for one in await factors.passkeys_of(conn, account.id)]
    options = context.passkeys.creation(
        challenge.encode(), account.id, account.email, account.name, has
    )
    return _asked(context, options, challenge, _making(account.id))


async def add(
    context: Context, session: Session, ticket: str, credential: str, name: str
) -> Passkey:
    """Keep a passkey that a browser has made. Raises Invalid."""
    account, now = session.account, context.clock.now()
    challenge = _challenge(context, ticket, _making(account.id))
    try:
        made = await asyncio.to_thread(context.passkeys.created, challenge.encode(), credential)
    except PasskeyRefused:
        raise Invalid(REFUSED, [Fault(code="refused", at="passkey", message=REFUSED)]) from None
    passkey = Passkey(made.id, account.id, made.public_key, made.count, name, now, None)
    try:
        async with context.engine.begin() as conn:
            if not await sessions.use_once(conn, hash_of(challenge), now + LASTS):
                raise Invalid(TOO_OLD)
            await factors.add_passkey(conn, passkey)
            await sessions.unlimited(conn, session.id)
            await note(context, conn, account.id, "factor_added", kind="passkey")
    except AlreadyThere:
        raise Invalid("This passkey is kept already.") from None
    return passkey


def ask(context: Context) -> Asked:
    """Options for a browser to sign in with."""
    if not context.passkeys.possible():
        raise Invalid(NOT_HERE)
    challenge = context.ids.token()
    return _asked(
        context, context.passkeys.request(challenge.encode()), challenge, "passkey sign-in"
    )


async def sign_in(context: Context, ticket: str, credential: str, client: Client) -> SignedIn:
    """Start a session with a passkey. Raises WrongSignIn, Invalid, TooManyTries."""
    challenge = _challenge(context, ticket, "passkey sign-in")
    now, network = context.clock.now(), f"network {network_of(client.place)}"
    try:
        id = context.passkeys.owner(credential)
    except PasskeyRefused:
        raise WrongSignIn(REFUSED) from None
    async with context.engine.begin() as conn:
        if await sessions.tries(conn, network, now - PAUSE) >= TRIES_FROM_ONE_NETWORK:
            raise TooManyTries(SLOW, retry_after=int(PAUSE.total_seconds()))
        await sessions.note_try(conn, network, now)
    async with context.engine.begin() as conn:
        passkey = await factors.passkey(conn, id)
        if passkey is None:
            raise WrongSignIn(UNKNOWN)
        account = await accounts.by_id(conn, passkey.account_id, now)
        if account is None:
            raise WrongSignIn(UNKNOWN)
        try:
            count = context.passkeys.used(
                challenge.encode(), credential, passkey.public_key, passkey.count
            )
        except PasskeyRefused:
            raise WrongSignIn(REFUSED) from None
        if not await sessions.use_once(conn, hash_of(challenge), now + LASTS):
            raise Invalid(TOO_OLD)
        await factors.use_passkey(conn, id, count, now)
        await sessions.forget_try(conn, network, now)
        return await begin(context, conn, account, client, "passkey")
