"""Tokens for scripts: made, listed, ended, and used."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound, NotSignedIn
from jotgate.core.common.secrets import hash_of
from jotgate.core.records.accounts import Account
from jotgate.core.records.tokens import Scope, Token
from jotgate.services.context import Context
from jotgate.services.staff.accounts.sessions import SEEN_EVERY
from jotgate.services.trail import note
from jotgate.store.accounts import tokens

MARK = "jotgate_"
"""What every token begins with, so that one that got lost is known for what it is."""

LONGEST = timedelta(days=366)


@dataclass(frozen=True)
class Made:
    """A new token with its secret, which nobody can be shown again."""

    token: Token
    secret: str


async def every(context: Context, account: Account) -> list[Token]:
    async with context.engine.connect() as conn:
        return await tokens.of_account(conn, account.id)


async def make(
    context: Context,
    account: Account,
    name: str,
    scopes: Sequence[Scope],
    cleared: bool,
    expires: datetime,
) -> Made:
    """Make a token that ends at `expires`. Raises Invalid."""
    now = context.clock.now()
    if not now < expires <= now + LONGEST:
        message = "A token ends within a year, and not before it begins."
        raise Invalid(message, [Fault(code="bad_end", at="expires", message=message)])
    if not scopes:
        message = "Choose what the token is for."
        raise Invalid(message, [Fault(code="no_scope", at="scopes", message=message)])
    made = Token(context.ids.id(), name, tuple(dict.fromkeys(scopes)), cleared, now, expires, None)
    secret = MARK + context.ids.token()
    async with context.engine.begin() as conn:
        await tokens.add(conn, account.id, hash_of(secret), made)
        told: dict[str, Any] = {"scopes": list(made.scopes), "cleared": cleared}
        await note(context, conn, account.id, "token_made", name=name, **told)
    return Made(made, secret)


async def end(context: Context, account: Account, id: UUID) -> None:
    async with context.engine.begin() as conn:
        if not await tokens.end(conn, account.id, id):
            raise NotFound("This token has ended already.")
        await note(context, conn, account.id, "token_ended")


async def use(context: Context, secret: str) -> tuple[Account, Token]:
    """The account that a token works under. Raises NotSignedIn."""
    now = context.clock.now()
    async with context.single.connect() as conn:
        found = await tokens.find(conn, hash_of(secret), now)
        if found is None:
            raise NotSignedIn("This token is not known, or it has ended.")
        account, token = found
        if token.used is None or now - token.used >= SEEN_EVERY:
            await tokens.note_used(conn, token.id, now)
    return replace(account, token=token.name, cleared=token.cleared), token
