"""Another program asks whether somebody has answered, by a call that is signed."""

from datetime import timedelta

from jotgate.core.common.errors import NotSignedIn
from jotgate.core.common.secrets import hash_of
from jotgate.core.signed_calls import TOLERANCE, SignedCall, holds
from jotgate.services.context import Context
from jotgate.services.keys.link_keys import calls_secret, opened
from jotgate.services.public.entering import public_state
from jotgate.services.standing import Standing, Whom, standing
from jotgate.store.accounts import sessions

REFUSED = "This call is not signed by a key of this questionnaire, is too old, or came before."


async def ask(context: Context, address: str, call: SignedCall, whom: Whom) -> Standing:
    """How far somebody has come. Each call is good for once. Raises NotFound, NotSignedIn,
    Invalid."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        secrets = [calls_secret(secret) for _, secret in await opened(context, conn, found.id)]
        if not holds(call, secrets, now):
            raise NotSignedIn(REFUSED)
        until = now + timedelta(seconds=2 * TOLERANCE)
        if not await sessions.use_once(conn, hash_of(f"call {found.id} {call.id}"), until):
            raise NotSignedIn(REFUSED)
        return await standing(context, conn, found.id, address, whom)
