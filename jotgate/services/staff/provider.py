"""Signing in through an identity provider."""

from dataclasses import dataclass
from datetime import timedelta
from hmac import compare_digest

import orjson

from jotgate.core.common.errors import NotFound, NotSignedIn, Sealed, Unavailable, WrongSignIn
from jotgate.core.records.accounts import Account, Client
from jotgate.ports.identity import Identity, IdentityRefused, Provider, ProviderAway
from jotgate.services.context import Context
from jotgate.services.staff.sessions import SignedIn, begin, hash_of
from jotgate.services.trail import note
from jotgate.store import accounts, sessions
from jotgate.store.base import Connection

LASTS = timedelta(minutes=10)
PURPOSE = "provider sign-in"

NONE = "There is no identity provider here."
AWAY = "The identity provider does not answer. Try again shortly, or sign in another way."
REFUSED = "The identity provider's answer could not be used. Begin again."
TOO_OLD = "This sign-in took too long, or was begun in another window. Begin again."
UNKNOWN = "There is no account here for you. Ask an owner of the office to invite you."


@dataclass(frozen=True)
class Sent:
    """Where the browser goes, and what it keeps until it comes back."""

    address: str
    kept: str


def _back(context: Context) -> str:
    return f"{context.public_url}/api/sign-in/provider/back"


def _provider(context: Context) -> Provider:
    if context.provider is None:
        raise NotFound(NONE)
    return context.provider


async def send(context: Context) -> Sent:
    """Begin at the provider. Raises NotFound, Unavailable."""
    state, nonce, verifier = (context.ids.token() for _ in range(3))
    expires = (context.clock.now() + LASTS).timestamp()
    kept = {"state": state, "nonce": nonce, "verifier": verifier, "expires": expires}
    try:
        address = await _provider(context).address(state, nonce, verifier, _back(context))
    except ProviderAway:
        raise Unavailable(AWAY) from None
    return Sent(address, context.cipher.seal(orjson.dumps(kept), PURPOSE).decode("ascii"))


async def come_back(context: Context, kept: str, state: str, code: str, client: Client) -> SignedIn:
    """Start a session for who came back from the provider. Raises NotSignedIn, WrongSignIn,
    Unavailable."""
    now = context.clock.now()
    try:
        begun = orjson.loads(context.cipher.open(kept.encode(), PURPOSE))
    except Sealed:
        raise NotSignedIn(TOO_OLD) from None
    if now.timestamp() > begun["expires"] or not compare_digest(
        state.encode(), begun["state"].encode()
    ):
        raise NotSignedIn(TOO_OLD)
    async with context.engine.begin() as conn:
        if not await sessions.use_once(conn, hash_of(state), now + LASTS):
            raise NotSignedIn(TOO_OLD)
    try:
        identity = await _provider(context).identity(
            code, begun["nonce"], begun["verifier"], _back(context), now
        )
    except IdentityRefused:
        raise WrongSignIn(REFUSED) from None
    except ProviderAway:
        raise Unavailable(AWAY) from None
    async with context.engine.begin() as conn:
        account = await _account(context, conn, identity)
        return await begin(context, conn, account, client, "provider")


async def _account(context: Context, conn: Connection, identity: Identity) -> Account:
    """The account of somebody: known from before, or by the verified address of an account that
    nobody at the provider has yet. Raises WrongSignIn."""
    now = context.clock.now()
    known = await accounts.by_subject(conn, identity.subject, now)
    if known is not None:
        return known
    found = await accounts.by_email(conn, identity.email, now) if identity.email else None
    if found is None or await accounts.subject(conn, found[0].id) is not None:
        raise WrongSignIn(UNKNOWN)
    await accounts.change(conn, found[0].id, subject=identity.subject)
    await note(context, conn, found[0].id, "factor_added", kind="provider")
    return found[0]
