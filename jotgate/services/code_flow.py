"""The two halves of a sign-in at an identity provider: sent there, and back with a code.

What it takes to check the second half goes to the browser sealed, and is good once, for a while.
"""

from dataclasses import dataclass
from datetime import timedelta
from hmac import compare_digest
from typing import Any

import orjson

from jotgate.core.common.errors import Sealed
from jotgate.core.common.secrets import hash_of
from jotgate.ports.identity import Identity, Provider
from jotgate.services.context import Context
from jotgate.store.accounts import sessions


@dataclass(frozen=True)
class Sent:
    """Where the browser goes, and what it keeps until it comes back."""

    address: str
    kept: str


class FlowOver(Exception):
    """It took too long, was used already, or was begun in another window; `told` is what was told
    at its beginning, where that can be read."""

    def __init__(self, told: Any = None) -> None:
        super().__init__("over")
        self.told = told


@dataclass(frozen=True)
class CodeFlow:
    """Those for one `purpose`, who come back to `path` of ours and may take as long as `lasts`."""

    purpose: str
    path: str
    lasts: timedelta

    def back(self, context: Context) -> str:
        return f"{context.public_url}{self.path}"

    async def send(self, context: Context, provider: Provider, told: object = None) -> Sent:
        """Begin at a provider; what is `told` is known when they come back. Raises ProviderAway."""
        state, nonce, verifier = (context.ids.token() for _ in range(3))
        expires = (context.clock.now() + self.lasts).timestamp()
        kept = {
            "state": state,
            "nonce": nonce,
            "verifier": verifier,
            "expires": expires,
            "told": told,
        }
        address = await provider.address(state, nonce, verifier, self.back(context))
        sealed = context.cipher.seal(orjson.dumps(kept), self.purpose).decode("ascii")
        return Sent(address, sealed)

    async def begun(self, context: Context, kept: str, state: str) -> dict[str, Any]:
        """What `send` kept, with what it was `told`, once. Raises FlowOver."""
        now = context.clock.now()
        try:
            begun: dict[str, Any] = orjson.loads(context.cipher.open(kept.encode(), self.purpose))
        except Sealed:
            raise FlowOver from None
        same = compare_digest(state.encode(), begun["state"].encode())
        if not same or now.timestamp() > begun["expires"]:
            raise FlowOver(begun["told"])
        async with context.engine.begin() as conn:
            if not await sessions.use_once(conn, hash_of(state), now + self.lasts):
                raise FlowOver(begun["told"])
        return begun

    async def identity(
        self, context: Context, provider: Provider, begun: dict[str, Any], code: str
    ) -> Identity:
        """Who came back with `code`. Raises IdentityRefused, ProviderAway."""
        nonce, verifier = begun["nonce"], begun["verifier"]
        now = context.clock.now()
        return await provider.identity(code, nonce, verifier, self.back(context), now)
