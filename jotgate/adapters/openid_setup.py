"""Whether an identity provider is set up right, step by step, with what to do where it is not."""

from collections.abc import Awaitable, Callable
from datetime import datetime
from email.utils import parsedate_to_datetime
from typing import Any

import httpx

from jotgate.ports.identity import Known, Looked, ProviderAway

ALGORITHMS = ["RS256", "PS256", "ES256", "EdDSA"]
"""Of signatures that are taken; none that a shared secret, or nothing, could make."""

LEEWAY = 60
"""Seconds that the provider's clock may be off."""

LONGEST_ANSWER = 500_000

Reply = Callable[..., Awaitable[httpx.Response]]
"""Method, address and more of a request -> what is answered. Raises ProviderAway."""

DISCOVERY = "/.well-known/openid-configuration"


def as_object(reply: httpx.Response) -> dict[str, Any] | None:
    """The object of JSON that was answered; None where it is none."""
    try:
        found = reply.json() if len(reply.content) <= LONGEST_ANSWER else None
    except ValueError:
        return None
    return found if isinstance(found, dict) else None


class _Stop(Exception):
    """Nothing after this step can be looked at."""


class _Looking:
    def __init__(self, reply: Reply, known: Known, back: str, now: datetime) -> None:
        self.reply, self.known, self.back, self.now = reply, known, back, now
        self.found: list[Looked] = []
        self.about: dict[str, Any] = {}

    def good(self, step: Any, message: str) -> None:
        self.found.append(Looked(step, True, message))

    def stop(self, step: Any, message: str) -> None:
        self.found.append(Looked(step, False, message))
        raise _Stop

    async def reached(self) -> None:
        address = f"{self.known.issuer.rstrip('/')}{DISCOVERY}"
        try:
            reply = await self.reply("GET", address)
        except ProviderAway:
            self.stop(
                "reached",
                f"Nothing answers at {address}. Check the address, and that this "
                "server may reach it.",
            )
        about = as_object(reply) if reply.status_code == 200 else None
        if about is None:
            self.stop(
                "reached",
                f"{address} answers with status {reply.status_code} and no "
                "description of a provider. Check the address.",
            )
            return
        self.about = about
        self.good("reached", "It answers, and describes itself.")
        self._clock(reply)

    def _clock(self, reply: httpx.Response) -> None:
        try:
            off = abs((parsedate_to_datetime(reply.headers["Date"]) - self.now).total_seconds())
        except (KeyError, ValueError, TypeError):
            return
        if off > LEEWAY:
            self.found.append(
                Looked(
                    "clock",
                    False,
                    f"Its clock and ours are {off:.0f} seconds "
                    "apart. Set both by a time server, or sign-ins are refused.",
                )
            )

    def issuer(self) -> None:
        said = self.about.get("issuer")
        if said != self.known.issuer:
            self.stop("issuer", f"It calls itself {said}. Write exactly that as its address.")
        self.good("issuer", "It is who it says.")

    def flow(self) -> None:
        for name in ("authorization_endpoint", "token_endpoint", "jwks_uri"):
            if not isinstance(self.about.get(name), str):
                self.stop("flow", f"Its description has no {name}: it cannot be used for this.")
        if "code" not in self.about.get("response_types_supported", ["code"]):
            self.stop("flow", "It does not offer the code flow, which is asked for here.")
        methods = self.about.get("code_challenge_methods_supported")
        if methods is not None and "S256" not in methods:
            self.stop("flow", "It does not take PKCE with S256, which is asked for here.")
        offered = self.about.get("id_token_signing_alg_values_supported", ["RS256"])
        if not set(ALGORITHMS) & set(offered):
            self.stop(
                "flow",
                f"It signs with {', '.join(map(str, offered))}; one of "
                f"{', '.join(ALGORITHMS)} is needed.",
            )
        self.good("flow", "It offers the code flow with PKCE.")

    async def keys(self) -> None:
        try:
            reply = await self.reply("GET", self.about["jwks_uri"])
        except ProviderAway:
            self.stop("keys", "Its keys cannot be fetched. Try again shortly.")
        found = (as_object(reply) or {}).get("keys")
        if not isinstance(found, list) or not found:
            self.stop("keys", "It shows no keys to check its signatures with.")
        self.good("keys", "Its keys can be fetched.")

    async def client(self) -> None:
        """A code that cannot be right is refused as such by a provider that knows us (RFC 6749,
        5.2): `invalid_grant`, where `invalid_client` says that it does not."""
        asked = {"grant_type": "authorization_code", "code": "none", "redirect_uri": self.back}
        asked["code_verifier"] = "none" * 11
        auth = (self.known.client_id, self.known.client_secret)
        try:
            reply = await self.reply("POST", self.about["token_endpoint"], data=asked, auth=auth)
        except ProviderAway:
            self.stop("client", "Where codes are exchanged, it does not answer.")
        error = (as_object(reply) or {}).get("error")
        if error in ("invalid_client", "unauthorized_client") or reply.status_code == 401:
            self.stop("client", "It does not know us by this client id and secret. Copy both anew.")
        self.good("client", "It knows us by this client id and secret.")


async def look(
    reply: Reply, known: Known, back: str, now: datetime
) -> tuple[list[Looked], list[str]]:
    looking = _Looking(reply, known, back, now)
    try:
        await looking.reached()
        looking.issuer()
        looking.flow()
        await looking.keys()
        await looking.client()
    except _Stop:
        pass
    claims = looking.about.get("claims_supported")
    named = [one for one in claims if isinstance(one, str)] if isinstance(claims, list) else []
    return looking.found, named[:200]
