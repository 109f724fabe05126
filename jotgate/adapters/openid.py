"""OpenID Connect: the code flow with PKCE."""

import base64
import hashlib
from datetime import datetime
from typing import Any
from urllib.parse import quote, urlencode

import httpx
from joserfc import jwt
from joserfc.errors import JoseError
from joserfc.jwk import KeySet

from jotgate.ports.identity import Identity, IdentityRefused, ProviderAway

ALGORITHMS = ["RS256", "PS256", "ES256", "EdDSA"]
"""Of signatures that are taken; none that a shared secret, or nothing, could make."""

LEEWAY = 60
"""Seconds that the provider's clock may be off."""

LONGEST_ANSWER = 500_000


class OpenIdProvider:
    """The provider at `issuer`, which knows us as `client_id`."""

    def __init__(
        self,
        name: str,
        issuer: str,
        client_id: str,
        client_secret: str,
        transport: httpx.AsyncBaseTransport | None = None,
    ) -> None:
        self.name = name
        self._issuer = issuer
        self._client_id = client_id
        self._secret = client_secret
        self._transport = transport
        self._about: dict[str, Any] | None = None
        self._keys: KeySet | None = None

    async def address(self, state: str, nonce: str, verifier: str, back: str) -> str:
        digest = hashlib.sha256(verifier.encode()).digest()
        asked = {
            "response_type": "code",
            "client_id": self._client_id,
            "redirect_uri": back,
            "scope": "openid email profile",
            "state": state,
            "nonce": nonce,
            "code_challenge": base64.urlsafe_b64encode(digest).rstrip(b"=").decode(),
            "code_challenge_method": "S256",
        }
        endpoint = str((await self._discovered())["authorization_endpoint"])
        return f"{endpoint}{'&' if '?' in endpoint else '?'}{urlencode(asked)}"

    async def identity(
        self, code: str, nonce: str, verifier: str, back: str, now: datetime
    ) -> Identity:
        asked = {
            "grant_type": "authorization_code",
            "code": code,
            "redirect_uri": back,
            "code_verifier": verifier,
        }
        endpoint = str((await self._discovered())["token_endpoint"])
        own = quote(self._client_id, safe=""), quote(self._secret, safe="")
        told = await self._call("POST", endpoint, data=asked, auth=own)
        claims = await self._claims(str(told.get("id_token", "")))
        self._check(claims, nonce, now.timestamp())
        verified = claims.get("email_verified") is True
        email = str(claims.get("email", "")).lower() if verified else ""
        return Identity(f"{self._issuer} {claims['sub']}", email)

    def _check(self, claims: dict[str, Any], nonce: str, now: float) -> None:
        """OpenID Connect Core 1.0, 3.1.3.7."""
        audience = claims.get("aud")
        named = audience if isinstance(audience, list) else [audience]
        if claims.get("iss") != self._issuer:
            raise IdentityRefused("issuer")
        if self._client_id not in named:
            raise IdentityRefused("audience")
        if (len(named) > 1 or "azp" in claims) and claims.get("azp") != self._client_id:
            raise IdentityRefused("authorized party")
        if claims.get("nonce") != nonce:
            raise IdentityRefused("nonce")
        expires, issued = claims.get("exp"), claims.get("iat")
        if not isinstance(expires, int | float) or not isinstance(issued, int | float):
            raise IdentityRefused("times")
        if now > expires + LEEWAY or issued > now + LEEWAY:
            raise IdentityRefused("clock")
        if not isinstance(claims.get("sub"), str) or not claims["sub"]:
            raise IdentityRefused("subject")

    async def _claims(self, token: str) -> dict[str, Any]:
        """The claims of an ID token whose signature holds; keys are asked for again once where it
        does not, since providers change them."""
        for anew in (False, True):
            if self._keys is None or anew:
                self._keys = await self._asked_keys()
            try:
                return dict(jwt.decode(token, self._keys, algorithms=ALGORITHMS).claims)
            except (JoseError, ValueError, KeyError, TypeError):
                continue
        raise IdentityRefused("signature")

    async def _asked_keys(self) -> KeySet:
        found = await self._call("GET", str((await self._discovered())["jwks_uri"]))
        try:
            return KeySet.import_key_set(found)  # type: ignore[arg-type]
        except (JoseError, ValueError, KeyError, TypeError):
            raise ProviderAway("keys") from None

    async def _discovered(self) -> dict[str, Any]:
        """What the provider says of itself (OpenID Connect Discovery 1.0)."""
        if self._about is None:
            address = f"{self._issuer.rstrip('/')}/.well-known/openid-configuration"
            found = await self._call("GET", address)
            if found.get("issuer") != self._issuer:
                raise ProviderAway("another issuer")
            self._about = found
        return self._about

    async def _call(self, method: str, address: str, **more: Any) -> dict[str, Any]:
        try:
            async with httpx.AsyncClient(
                timeout=10, transport=self._transport, trust_env=False
            ) as client:
                reply = await client.request(method, address, **more)
            found = reply.json() if len(reply.content) <= LONGEST_ANSWER else None
        except (httpx.HTTPError, ValueError):
            raise ProviderAway(address) from None
        if reply.status_code in (400, 401, 403):
            raise IdentityRefused("code")
        if reply.status_code != 200 or not isinstance(found, dict):
            raise ProviderAway(f"status {reply.status_code}")
        return found
