"""Calls that are signed as in Standard Webhooks (version 1): HMAC-SHA256 over id, time and body."""

import base64
import hmac
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

TOLERANCE = 300
"""Seconds that the caller's clock may be off."""

PREFIX = "whsec_"
"""What a secret begins with when it is written down."""


@dataclass(frozen=True)
class SignedCall:
    """A call as it came: what its headers `webhook-id`, `webhook-timestamp` and
    `webhook-signature` say, and its body."""

    id: str
    timestamp: str
    signatures: str
    body: bytes


def signature(secret: bytes, id: str, timestamp: str, body: bytes) -> str:
    content = b".".join((id.encode(), timestamp.encode(), body))
    return f"v1,{base64.b64encode(hmac.digest(secret, content, 'sha256')).decode()}"


def holds(call: SignedCall, secrets: Iterable[bytes], now: datetime) -> bool:
    """Whether one of `secrets` signed a call lately."""
    lately = call.timestamp.isascii() and call.timestamp.isdigit() and len(call.timestamp) < 16
    if not call.id or not lately or abs(now.timestamp() - int(call.timestamp)) > TOLERANCE:
        return False
    given = [one.encode() for one in call.signatures.split(" ")[:10]]
    wanted = [signature(one, call.id, call.timestamp, call.body).encode() for one in secrets]
    same = [hmac.compare_digest(one, other) for one in given for other in wanted]
    return any(same)


def written(secret: bytes) -> str:
    return f"{PREFIX}{base64.b64encode(secret).decode()}"


def read_written(secret: str) -> bytes:
    """A secret as `written` gives it. Raises ValueError."""
    return base64.b64decode(secret.removeprefix(PREFIX), validate=True)
