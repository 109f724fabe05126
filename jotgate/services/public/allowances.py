"""What strangers may do in a day, by client, by address, by questionnaire."""

import hashlib
from collections.abc import Mapping
from datetime import timedelta

from jotgate.core.common.errors import TooManyTries
from jotgate.services.context import Context
from jotgate.store import allowances
from jotgate.store.base import Connection


def name_of(kind: str, who: str) -> str:
    """The name of an allowance; addresses of people stand in it as a hash only."""
    return f"{kind} {hashlib.sha256(who.encode()).hexdigest()[:32]}"


async def allow_letter(
    context: Context,
    conn: Connection,
    kind: str,
    most: Mapping[str, int],
    says: str,
    **whose: str,
) -> None:
    """Use up one of what each of `whose` (`client`, `address`, `questionnaire`) may have of a kind
    in a day. Raises TooManyTries."""
    limits = {name_of(f"{kind} {one}", who.lower()): most[one] for one, who in whose.items()}
    await allow(context, conn, limits, says)


async def allow(
    context: Context, conn: Connection, limits: dict[str, int], says: str, amount: int = 1
) -> None:
    """Use up `amount` of each of `limits` (name -> most in a day). Raises TooManyTries."""
    now = context.clock.now()
    for name, most in sorted(limits.items()):
        if not await allowances.use(conn, name, now.date(), most, amount):
            left = 86_400 - (now.hour * 3600 + now.minute * 60 + now.second)
            raise TooManyTries(says, retry_after=left)


async def forget_old(context: Context) -> None:
    """Forget what was used up before yesterday."""
    async with context.engine.begin() as conn:
        await allowances.forget(conn, context.clock.now().date() - timedelta(days=1))
