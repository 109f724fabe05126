"""Keys for links that other programs make: made, shown once, ended."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from jotgate.core.common import base64url
from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.signed_calls import written
from jotgate.services.arrivals import seal_link_key
from jotgate.services.context import Context
from jotgate.services.keys.link_keys import calls_secret
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.links import link_keys

MOST = 5
"""Keys of a questionnaire at once: the one in use, and others while they are changed."""


@dataclass(frozen=True)
class NewKey:
    """`secret` is shown once: 64 bytes, base64url; and so is `calls`, with which calls are signed.
    `audience` is what its links are for."""

    id: str
    secret: str
    calls: str
    audience: str


async def every(context: Context, account: Account, id: UUID) -> Sequence[tuple[str, datetime]]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await link_keys.every(conn, id)


async def add(context: Context, account: Account, id: UUID) -> NewKey:
    """Make a key. Raises Invalid where there are enough."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        address = there(await questionnaires.summary(conn, id)).address
        if len(await link_keys.every(conn, id)) >= MOST:
            raise Invalid(f"There are {MOST} keys already. End one that is not in use any more.")
        secret = context.sealed_links.secret()
        key_id = context.ids.address()
        await link_keys.add(
            conn, id, key_id, seal_link_key(context, id, secret), context.clock.now()
        )
        await note(context, conn, account.id, "link_key_made", id, key=key_id)
    shown = base64url.written(secret)
    return NewKey(key_id, shown, written(calls_secret(secret)), address)


async def end(context: Context, account: Account, id: UUID, key_id: str) -> None:
    """No link that was made with it works any more. Raises NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        if not await link_keys.remove(conn, id, key_id):
            raise NotFound("There is no such key.")
        await note(context, conn, account.id, "link_key_ended", id, key=key_id)
