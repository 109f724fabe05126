"""Signing in through an identity provider."""

from datetime import timedelta

from jotgate.core.common.errors import NotFound, NotSignedIn, Unavailable, WrongSignIn
from jotgate.core.records.accounts import Account, Client
from jotgate.ports.identity import Identity, IdentityRefused, Provider, ProviderAway
from jotgate.services.code_flow import CodeFlow, FlowOver, Sent
from jotgate.services.context import Context
from jotgate.services.staff.accounts.sessions import SignedIn, begin
from jotgate.services.trail import note
from jotgate.store.accounts import accounts
from jotgate.store.base import Connection

FLOW = CodeFlow("provider sign-in", "/api/sign-in/provider/back", timedelta(minutes=10))

NONE = "There is no identity provider here."
AWAY = "The identity provider does not answer. Try again shortly, or sign in another way."
REFUSED = "The identity provider's answer could not be used. Begin again."
TOO_OLD = "This sign-in took too long, or was begun in another window. Begin again."
UNKNOWN = "There is no account here for you. Ask an owner of the office to invite you."


def _provider(context: Context) -> Provider:
    if context.provider is None:
        raise NotFound(NONE)
    return context.provider


async def send(context: Context) -> Sent:
    """Begin at the provider. Raises NotFound, Unavailable."""
    try:
        return await FLOW.send(context, _provider(context))
    except ProviderAway:
        raise Unavailable(AWAY) from None


async def come_back(context: Context, kept: str, state: str, code: str, client: Client) -> SignedIn:
    """Start a session for who came back from the provider. Raises NotSignedIn, WrongSignIn,
    Unavailable."""
    try:
        begun = await FLOW.begun(context, kept, state)
        identity = await FLOW.identity(context, _provider(context), begun, code)
    except FlowOver:
        raise NotSignedIn(TOO_OLD) from None
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
