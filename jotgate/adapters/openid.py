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

from jotgate.adapters.openid_setup import ALGORITHMS, LEEWAY, as_object, look
from jotgate.ports.identity import Identity, IdentityRefused, Known, Looked, Provider, ProviderAway


def _exchange(code: str, verifier: str, back: str) -> dict[str, str]:
    return {
        "grant_type": "authorization_code",
        "code": code,
        "redirect_uri": back,
        "code_verifier": verifier,
    }


class OpenIdProvider:
    """The provider that is set up as `known` says."""

    def __init__(self, known: Known, transport: httpx.AsyncBaseTransport | None = None) -> None:
        self.name = known.name
        self._known = known
        self._transport = transport
        self._about: dict[str, Any] | None = None
        self._keys: KeySet | None = None

    async def address(self, state: str, nonce: str, verifier: str, back: str) -> str:
        digest = hashlib.sha256(verifier.encode()).digest()
        asked = {
            "response_type": "code",
            "client_id": self._known.client_id,
            "redirect_uri": back,
            "scope": " ".join(dict.fromkeys(("openid", *self._known.scopes))),
            "state": state,
            "nonce": nonce,
            "code_challenge": base64.urlsafe_b64encode(digest).rstrip(b"=").decode(),
            "code_challenge_method": "S256",
        }
        endpoint = await self._endpoint("authorization_endpoint")
        return f"{endpoint}{'&' if '?' in endpoint else '?'}{urlencode(asked)}"

    async def identity(
        self, code: str, nonce: str, verifier: str, back: str, now: datetime
    ) -> Identity:
        told = await self._call(
            "POST",
            await self._endpoint("token_endpoint"),
            data=_exchange(code, verifier, back),
            auth=self._own(),
        )
        claims = await self._claims(str(told.get("id_token", "")))
        self._check(claims, nonce, now.timestamp())
        claims = {**await self._more(claims, told.get("access_token")), **claims}
        verified = claims.get("email_verified") is True
        email = str(claims.get("email", "")).lower() if verified else ""
        return Identity(f"{self._known.issuer} {claims['sub']}", email, claims)

    def _own(self) -> tuple[str, str]:
        """Name and secret for HTTP Basic (RFC 6749, 2.3.1)."""
        return quote(self._known.client_id, safe=""), quote(self._known.client_secret, safe="")

    async def _more(self, claims: dict[str, Any], token: object) -> dict[str, Any]:
        """What the provider tells beside the ID token (OpenID Connect Core 1.0, 5.3), of the same
        person."""
        endpoint = (await self._discovered()).get("userinfo_endpoint")
        if not isinstance(endpoint, str) or not isinstance(token, str):
            return {}
        told = await self._call("GET", endpoint, headers={"Authorization": f"Bearer {token}"})
        if told.get("sub") != claims["sub"]:
            raise IdentityRefused("another subject")
        return told

    def _check(self, claims: dict[str, Any], nonce: str, now: float) -> None:
        """OpenID Connect Core 1.0, 3.1.3.7."""
        audience = claims.get("aud")
        named = audience if isinstance(audience, list) else [audience]
        if claims.get("iss") != self._known.issuer:
            raise IdentityRefused("issuer")
        if self._known.client_id not in named:
            raise IdentityRefused("audience")
        if (len(named) > 1 or "azp" in claims) and claims.get("azp") != self._known.client_id:
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
        found = await self._call("GET", await self._endpoint("jwks_uri"))
        try:
            return KeySet.import_key_set(found)  # type: ignore[arg-type]
        except (JoseError, ValueError, KeyError, TypeError):
            raise ProviderAway("keys") from None

    async def _discovered(self) -> dict[str, Any]:
        """What the provider says of itself (OpenID Connect Discovery 1.0)."""
        if self._about is None:
            address = f"{self._known.issuer.rstrip('/')}/.well-known/openid-configuration"
            found = await self._call("GET", address)
            if found.get("issuer") != self._known.issuer:
                raise ProviderAway("another issuer")
            self._about = found
        return self._about

    async def _endpoint(self, name: str) -> str:
        found = (await self._discovered()).get(name)
        if not isinstance(found, str):
            raise ProviderAway(f"no {name}")
        return found

    async def _call(self, method: str, address: str, **more: Any) -> dict[str, Any]:
        reply = await self.reply(method, address, **more)
        if reply.status_code in (400, 401, 403):
            raise IdentityRefused("code")
        found = as_object(reply)
        if reply.status_code != 200 or found is None:
            raise ProviderAway(f"status {reply.status_code}")
        return found

    async def reply(self, method: str, address: str, **more: Any) -> httpx.Response:
        """What the provider answers, whatever that is. Raises ProviderAway."""
        try:
            async with httpx.AsyncClient(
                timeout=10, transport=self._transport, trust_env=False
            ) as client:
                return await client.request(method, address, **more)
        except (httpx.HTTPError, httpx.InvalidURL, ValueError):
            raise ProviderAway(address) from None

    async def looked_at(self, back: str, now: datetime) -> tuple[list[Looked], list[str]]:
        return await look(self.reply, self._known, back, now)


KEPT = 100


class OpenIdProviders:
    """Providers by how they are set up; what each says of itself is asked for once."""

    def __init__(self, transport: httpx.AsyncBaseTransport | None = None) -> None:
        self._transport = transport
        self._kept: dict[Known, OpenIdProvider] = {}

    def provider(self, known: Known) -> Provider:
        if known not in self._kept:
            if len(self._kept) >= KEPT:
                self._kept.clear()
            self._kept[known] = OpenIdProvider(known, self._transport)
        return self._kept[known]
