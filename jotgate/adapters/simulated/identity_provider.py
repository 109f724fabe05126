"""The identity provider of the outside world: OpenID Connect's code flow with PKCE, for a few.

Whoever asks chooses who they are; there are no passwords. It is for trying, and refuses to listen
anywhere but on this machine.
"""

import base64
import hashlib
import json
import secrets
import time
from collections.abc import Mapping
from dataclasses import dataclass
from html import escape
from pathlib import Path
from typing import Any
from urllib.parse import parse_qsl, urlencode, urlsplit

import uvicorn
from fastapi import FastAPI, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse
from joserfc import jwt
from joserfc.jwk import KeySet, RSAKey
from starlette.responses import Response

CLIENT_ID = "jotgate"
CLIENT_SECRET = "outside-world"  # noqa: S105 - of a provider that ships, and knows nobody real
LASTS = 60

PAGE = """<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Outside world: identity provider</title>
<style>
body {{ font: 17px/1.5 sans-serif; max-width: 420px; margin: 10vh auto; padding: 0 20px;
  color: #1d231a; background: #f7f8f3; }}
button {{ font: inherit; display: block; width: 100%; margin-top: 10px; padding: 10px;
  text-align: start; border: 1px solid #7a8370; border-radius: 4px; background: #fff; }}
</style>
<main><h1>Who are you?</h1>
<p>This identity provider is simulated. It believes everybody.</p>
<form method="post">{fields}{people}</form></main>"""


Known = str | Mapping[str, Any]
"""A name, or claims with a name among them."""


@dataclass(frozen=True)
class Grant:
    """What a code stands for."""

    email: str
    claims: Mapping[str, Any]
    nonce: str
    challenge: str
    redirect_uri: str
    until: float


class SimulatedProvider:
    """Knows `people` by address: their name, or more claims of theirs; `issuer` is where it is
    reached, `backs` where it sends people."""

    def __init__(self, issuer: str, people: Mapping[str, Known], backs: tuple[str, ...]) -> None:
        self.issuer = issuer
        self.people = {
            email: {"name": known} if isinstance(known, str) else known
            for email, known in people.items()
        }
        self.backs = backs
        self.key = RSAKey.generate_key(2048, {"kid": "outside", "use": "sig", "alg": "RS256"})
        self._grants: dict[str, Grant] = {}

    def about(self) -> dict[str, Any]:
        return {
            "issuer": self.issuer,
            "authorization_endpoint": f"{self.issuer}/authorize",
            "token_endpoint": f"{self.issuer}/token",
            "jwks_uri": f"{self.issuer}/keys",
            "response_types_supported": ["code"],
            "subject_types_supported": ["public"],
            "id_token_signing_alg_values_supported": ["RS256"],
            "code_challenge_methods_supported": ["S256"],
            "scopes_supported": ["openid", "email", "profile"],
            "claims_supported": sorted(
                {"sub", "email", *(n for p in self.people.values() for n in p)}
            ),
        }

    def keys(self) -> dict[str, Any]:
        return dict(KeySet([self.key]).as_dict(private=False))

    def refuses(self, asked: dict[str, str]) -> str:
        """What is wrong with a request for a code; empty where nothing is."""
        if asked.get("client_id") != CLIENT_ID:
            return "unknown client"
        if asked.get("redirect_uri") not in self.backs:
            return "unknown address to send back to"
        if asked.get("response_type") != "code" or asked.get("code_challenge_method") != "S256":
            return "only codes with PKCE (S256)"
        return ""

    def grant(self, asked: dict[str, str], email: str) -> str:
        """A code for somebody, who is sent back with it: the address."""
        code = secrets.token_urlsafe(24)
        self._grants[code] = Grant(
            email,
            self.people[email],
            asked.get("nonce", ""),
            asked.get("code_challenge", ""),
            asked["redirect_uri"],
            time.time() + LASTS,
        )
        sent = urlencode({"code": code, "state": asked.get("state", "")})
        return f"{asked['redirect_uri']}?{sent}"

    def redeem(self, code: str, verifier: str, redirect_uri: str) -> Grant | None:
        """What a code stands for, once, for who began."""
        grant = self._grants.pop(code, None)
        digest = hashlib.sha256(verifier.encode()).digest()
        challenge = base64.urlsafe_b64encode(digest).rstrip(b"=").decode()
        if grant is None or grant.until < time.time():
            return None
        if (grant.challenge, grant.redirect_uri) != (challenge, redirect_uri):
            return None
        return grant

    def claims(self, grant: Grant) -> dict[str, Any]:
        now = int(time.time())
        return {
            "iss": self.issuer,
            "sub": hashlib.sha256(grant.email.encode()).hexdigest()[:16],
            "aud": CLIENT_ID,
            "iat": now,
            "exp": now + 300,
            "nonce": grant.nonce,
            "email": grant.email,
            "email_verified": True,
            **grant.claims,
        }

    def signed(self, claims: dict[str, Any]) -> str:
        return jwt.encode({"alg": "RS256", "kid": "outside"}, claims, self.key)


def provider_app(provider: SimulatedProvider) -> FastAPI:
    app = FastAPI(docs_url=None, redoc_url=None, openapi_url=None)

    @app.get("/.well-known/openid-configuration")
    async def about() -> dict[str, Any]:
        return provider.about()

    @app.get("/favicon.ico", status_code=204)
    async def icon() -> None:
        """There is none."""

    @app.get("/keys")
    async def keys() -> dict[str, Any]:
        return provider.keys()

    @app.get("/authorize")
    async def authorize(request: Request) -> Response:
        asked = dict(request.query_params)
        wrong = provider.refuses(asked)
        if wrong:
            return HTMLResponse(escape(wrong), 400)
        fields = f'<input type="hidden" name="asked" value="{escape(json.dumps(asked))}">'
        people = "".join(
            f'<button name="email" value="{escape(email)}">{escape(str(known["name"]))}</button>'
            for email, known in provider.people.items()
        )
        return HTMLResponse(PAGE.format(fields=fields, people=people))

    @app.post("/authorize")
    async def chosen(request: Request) -> Response:
        form = await _form(request)
        found: dict[str, str] = json.loads(form.get("asked", "{}"))
        email = form.get("email", "")
        wrong = provider.refuses(found) or ("" if email in provider.people else "unknown person")
        if wrong:
            return HTMLResponse(escape(wrong), 400)
        return RedirectResponse(provider.grant(found, email), 303)

    @app.post("/token")
    async def token(request: Request) -> Response:
        form = await _form(request)
        given = request.headers.get("Authorization", "").removeprefix("Basic ")
        wanted = base64.b64encode(f"{CLIENT_ID}:{CLIENT_SECRET}".encode()).decode()
        if given != wanted:
            return JSONResponse({"error": "invalid_client"}, 401)
        grant = provider.redeem(
            form.get("code", ""), form.get("code_verifier", ""), form.get("redirect_uri", "")
        )
        if grant is None:
            return JSONResponse({"error": "invalid_grant"}, 400)
        told = {"token_type": "Bearer", "access_token": secrets.token_urlsafe(24)}
        return JSONResponse({**told, "id_token": provider.signed(provider.claims(grant))})

    return app


async def _form(request: Request) -> dict[str, str]:
    """A form as browsers and OAuth clients send it (application/x-www-form-urlencoded)."""
    return dict(parse_qsl((await request.body()).decode("utf-8", "replace")))


def serve_provider(issuer: str, people: Path, backs: tuple[str, ...]) -> None:
    """Serve the provider at `issuer`, on this machine; `people` is a JSON object of names, or
    claims, by address."""
    port = urlsplit(issuer).port or 80
    known: dict[str, Known] = json.loads(people.read_text(encoding="utf-8"))
    app = provider_app(SimulatedProvider(issuer, known, backs))
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning", access_log=False)
