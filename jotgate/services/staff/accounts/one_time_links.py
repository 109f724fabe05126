"""One-time links: the first owner's, invitations, and new passwords by letter.

A link is a secret behind `#`, which browsers send to nobody; we keep its hash. A new one for the
same person and purpose ends those before it.
"""

from dataclasses import dataclass, replace
from datetime import timedelta

import orjson

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email as mail_address
from jotgate.core.clients import network_of
from jotgate.core.common.errors import Fault, Invalid, NotFound, TooManyTries
from jotgate.core.common.secrets import hash_of
from jotgate.core.passwords import check_password
from jotgate.core.records.accounts import Account, Client, Link, LinkPurpose
from jotgate.services import letters, office
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.services.staff.accounts.sessions import SignedIn, begin
from jotgate.services.trail import note
from jotgate.store import letters as letter_store
from jotgate.store.accounts import accounts, factors, sessions
from jotgate.store.base import Connection

LASTS: dict[LinkPurpose, timedelta] = {
    "first_owner": timedelta(days=2),
    "invitation": timedelta(days=14),
    "reset": timedelta(hours=1),
}

RESETS = 3
"""Letters to one address in an hour."""

RESETS_FROM_ONE_NETWORK = 20

HOUR = timedelta(hours=1)

GONE = "This link does not work any more: it was used, it is too old, or a newer one was sent."
SLOW = "A letter was asked for often enough. Look for it in your mail, or try again in an hour."


@dataclass(frozen=True)
class LinkSeen:
    """What a link is for, and for whom; name and address are empty for the first owner."""

    purpose: LinkPurpose
    name: str
    email: str
    office: str


@dataclass(frozen=True)
class Given:
    """What somebody enters who follows a link; the address counts for the first owner only."""

    name: str
    password: str
    email: str = ""


async def make(
    context: Context, conn: Connection, purpose: LinkPurpose, account: Account | None
) -> str:
    """A new link, as an address."""
    token = context.ids.token()
    expires = context.clock.now() + LASTS[purpose]
    id = account.id if account else None
    await accounts.add_link(conn, hash_of(token), purpose, id, expires)
    return f"{context.public_url}/desk/link#{token}"


async def first_owner(context: Context) -> str | None:
    """An address at which the first account is made; None where there is one already."""
    async with context.engine.begin() as conn:
        if await accounts.any_account(conn):
            return None
        return await make(context, conn, "first_owner", None)


async def for_owner(context: Context, email: str) -> str | None:
    """An address at which an owner who lost every way in sets a new password; their second factor
    is taken away. For who runs the installation; None where there is no such owner."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        found = await accounts.by_email(conn, email.strip().lower(), now)
        if found is None or found[0].role != "owner":
            return None
        account = found[0]
        await factors.forget(conn, account.id)
        await note(context, conn, None, "factors_reset", about=account.id, by="command")
        return await make(context, conn, "reset", account)


async def look(context: Context, token: str) -> LinkSeen:
    """What a link is for. Raises NotFound."""
    name = (await office.current(context)).name
    async with context.engine.connect() as conn:
        found = await accounts.link(conn, hash_of(token), context.clock.now())
        if found is None:
            raise NotFound(GONE)
        if found.account_id is None:
            return LinkSeen(found.purpose, "", "", name)
        account = await accounts.by_id(conn, found.account_id, context.clock.now())
    if account is None:
        raise NotFound(GONE)
    return LinkSeen(found.purpose, account.name, account.email, name)


async def use(context: Context, token: str, given: Given, client: Client) -> SignedIn | None:
    """Do what a link is for, once; a session, or None for a person who still has to sign in with
    a second factor. Raises NotFound, Invalid."""
    seen = await look(context, token)
    email = _address(given.email) if seen.purpose == "first_owner" else seen.email
    known = [given.name, seen.name, email, seen.office]
    await context.apart(check_password, given.password, known)
    hashed = await context.passwords.hash(given.password)
    now = context.clock.now()
    async with context.engine.begin() as conn:
        link = await accounts.use_link(conn, hash_of(token), now)
        if link is None:
            raise NotFound(GONE)
        if link.account_id is None:
            account = await _first(context, conn, given.name, email, hashed)
        else:
            account = await _with_password(context, conn, link, given.name, hashed)
        if any(await factors.has_any(conn, account.id)):
            return None
        return await begin(context, conn, account, client, "link")


def _address(written: str) -> str:
    try:
        return mail_address(written.strip()).lower()
    except CheckFailed:
        message = "This is not a mail address."
        raise Invalid(message, [Fault(code="not_an_email", at="email", message=message)]) from None


async def _first(context: Context, conn: Connection, name: str, email: str, hashed: str) -> Account:
    if await accounts.any_account(conn):
        raise NotFound(GONE)
    account = Account(context.ids.id(), email, _named(name), "owner")
    await accounts.add(conn, account, hashed)
    await note(context, conn, account.id, "joined", role="owner")
    return account


def _named(name: str) -> str:
    found = " ".join(name.split())
    if not found:
        message = "Say what you are called."
        raise Invalid(message, [Fault(code="missing", at="name", message=message)])
    return found


async def _with_password(
    context: Context, conn: Connection, link: Link, name: str, hashed: str
) -> Account:
    """Somebody sets a password for the first time, or a new one: every session of theirs ends."""
    account = link.account_id and await accounts.by_id(conn, link.account_id, context.clock.now())
    if not account:
        raise NotFound(GONE)
    if link.purpose == "invitation":
        account = replace(account, name=_named(name))
        await accounts.change(conn, account.id, password_hash=hashed, name=account.name)
        await note(context, conn, account.id, "joined", role=account.role)
    else:
        await accounts.change(conn, account.id, password_hash=hashed)
        await note(context, conn, account.id, "password_changed", by="letter")
    await accounts.forget_links(conn, account.id)
    await sessions.end_all(conn, account.id)
    return account


async def ask_reset(context: Context, email: str, client: Client) -> None:
    """Have a letter sent to set a new password with, where there is such an account; nothing tells
    whether there is. Raises TooManyTries."""
    email, now = email.strip().lower(), context.clock.now()
    limits = {
        f"reset {email}": RESETS,
        f"reset from {network_of(client.place)}": RESETS_FROM_ONE_NETWORK,
    }
    async with context.engine.begin() as conn:
        for who, most in limits.items():
            if await sessions.tries(conn, who, now - HOUR) >= most:
                raise TooManyTries(SLOW, retry_after=int(HOUR.total_seconds()))
            await sessions.note_try(conn, who, now)
        sealed = context.cipher.seal(orjson.dumps({"email": email}), "reset").decode("ascii")
        await letter_store.ask_reset(conn, sealed, context.queue)


async def send_reset(context: Context, sealed: str) -> None:
    """What the worker does when somebody asked for a new password."""
    email = str(orjson.loads(context.cipher.open(sealed.encode("ascii"), "reset"))["email"])
    async with context.engine.begin() as conn:
        found = await accounts.by_email(conn, email, context.clock.now())
        if found is None:
            return
        account = found[0]
        address = await make(context, conn, "reset", account)
        await note(context, conn, None, "reset_asked", about=account.id)
        await letters.ask(context, conn, await _reset_letter(context, account, address))


async def _reset_letter(context: Context, account: Account, address: str) -> Written:
    name = (await office.current(context)).name
    return Written(
        account.email,
        f"A new password: {name}",
        f"Hello {account.name},\n\n"
        f"somebody asked for a new password for your account of {name}. Set it here, within an "
        f"hour:\n\n  {address}\n\n"
        "If it was not you, there is nothing to do: your password stays as it is.\n",
    )


async def invite(
    context: Context, conn: Connection, account: Account, by: Account, says: str
) -> None:
    """Send an invitation to `account`, with what the person who invites `says`."""
    name = (await office.current(context)).name
    address = await make(context, conn, "invitation", account)
    words = f"{says.strip()}\n\n" if says.strip() else ""
    body = (
        f"Hello {account.name},\n\n{by.name} invites you to work with {name} on its "
        f"questionnaires. Set your password here, within {LASTS['invitation'].days} days:\n\n"
        f"  {address}\n\n{words}"
        "If you do not know what this is about, leave it: nobody can use your address without "
        "this letter.\n"
    )
    await letters.ask(context, conn, Written(account.email, f"Invitation: {name}", body))


async def forget_old(context: Context) -> None:
    async with context.engine.begin() as conn:
        await accounts.forget_old_links(conn, context.clock.now())
