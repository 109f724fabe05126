"""Signed and encrypted links, as nested JSON Web Tokens (RFC 7519, 5.2): HS256 inside (RFC 7518,
3.2), direct encryption with A256GCM outside (RFC 7518, 4.5 and 5.3)."""

import json
import secrets
from datetime import datetime
from typing import Any

from joserfc import jwe, jwt
from joserfc.errors import JoseError
from joserfc.jwk import OctKey
from joserfc.util import to_bytes, urlsafe_b64decode

from jotgate.ports.sealed_links import LinkBroken

HALF = 32
"""Bytes of the key for signing, and of that for encrypting; the secret is both, in this order."""

LONGEST = 6000


class JoseLinks:
    def secret(self) -> bytes:
        return secrets.token_bytes(2 * HALF)

    def make(self, secret: bytes, key_id: str, claims: dict[str, Any]) -> str:
        signing, sealing = _keys(secret)
        signed = jwt.encode({"alg": "HS256"}, claims, signing, algorithms=["HS256"])
        header = {"alg": "dir", "enc": "A256GCM", "kid": key_id, "cty": "JWT"}
        return jwe.encrypt_compact(header, signed, sealing, algorithms=["dir", "A256GCM"])

    def key_id(self, token: str) -> str:
        if len(token) > LONGEST or token.count(".") != 4:
            raise LinkBroken
        try:
            header = json.loads(urlsafe_b64decode(to_bytes(token.partition(".")[0])))
        except ValueError:
            raise LinkBroken from None
        found = header.get("kid") if isinstance(header, dict) else None
        if not isinstance(found, str):
            raise LinkBroken
        return found

    def read(self, token: str, secret: bytes, audience: str, now: datetime) -> dict[str, Any]:
        signing, sealing = _keys(secret)
        try:
            outer = jwe.decrypt_compact(token, sealing, algorithms=["dir", "A256GCM"])
            inner = jwt.decode((outer.plaintext or b"").decode(), signing, algorithms=["HS256"])
        except (JoseError, ValueError, TypeError):
            raise LinkBroken from None
        claims = dict(inner.claims)
        if claims.get("aud") != audience:
            raise LinkBroken
        until = claims.get("exp")
        if until is not None:
            if isinstance(until, bool) or not isinstance(until, int | float):
                raise LinkBroken
            if until <= now.timestamp():
                raise LinkBroken(expired=True)
        return claims


def _keys(secret: bytes) -> tuple[OctKey, OctKey]:
    return OctKey.import_key(secret[:HALF]), OctKey.import_key(secret[HALF:])
