"""Visitors who sign in: the identity providers that know them, and what their claims fill in."""

import re
from collections.abc import Iterable, Mapping
from typing import Annotated, Any
from urllib.parse import urlsplit
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.common.part import Part
from jotgate.core.items import IN_PARTS
from jotgate.core.items.carried import ClaimName
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.plan import Plan

LONGEST, MOST_CLAIMS, MOST_TEXTS = 500, 100, 50
"""Characters of a claim, claims of a person, and texts of one claim that are read at most."""

ROOM = 4_000
"""Characters of all claims that go along with a visitor, from page to page."""

PROTOCOL = frozenset(
    "iss aud exp iat nbf nonce at_hash c_hash azp auth_time acr amr sid jti typ".split()
)
"""Claims that say something of the token, not of the person (OpenID Connect Core 1.0, 2)."""


def _issuer(written: str) -> str:
    """An issuer (OpenID Connect Discovery 1.0, 2): https, or anything on this machine."""
    try:
        parts = urlsplit(written)
        port = parts.port is None or parts.port > 0
    except ValueError:
        port, parts = False, urlsplit("")
    near = parts.hostname in ("127.0.0.1", "localhost", "::1")
    if not port or not parts.hostname or parts.query or parts.fragment or parts.username:
        raise ValueError("Write the provider's address, such as https://id.example.org.")
    if parts.scheme != "https" and not (near and parts.scheme == "http"):
        raise ValueError("The provider has to be reached by https.")
    return written


class ClaimMapping(Part):
    """What the claim of a visitor fills in: a question of the bank, wherever a questionnaire has
    it, or the `part` of a name or an address. `locked` keeps the visitor from changing it."""

    claim: ClaimName
    question: UUID
    part: Annotated[str, StringConstraints(max_length=40)] = ""
    locked: bool = True


class IdentityProvider(Part):
    """A provider (OpenID Connect Core 1.0) that visitors sign in at. `scopes` are asked for beside
    `openid`."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    issuer: Annotated[
        str, StringConstraints(strip_whitespace=True, max_length=500), AfterValidator(_issuer)
    ]
    client_id: Annotated[
        str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)
    ]
    scopes: tuple[Annotated[str, StringConstraints(pattern=r"^[!#-\[\]-~]{1,100}$")], ...] = Field(
        ("profile", "email"), max_length=20
    )
    mappings: tuple[ClaimMapping, ...] = Field((), max_length=100)


class VisitorSignIn(Part):
    """Where visitors of a questionnaire may sign in, and whether they have to (`needed`)."""

    providers: tuple[UUID, ...] = Field((), max_length=10)
    needed: bool = False


def claim_texts(claims: Mapping[str, Any]) -> dict[str, list[str]]:
    """What a person's claims say, as texts by name; members of a claim by `claim.member`, such as
    `address.locality` (OpenID Connect Core 1.0, 5.1.1)."""
    found: dict[str, list[str]] = {}
    for name, value in claims.items():
        if name in PROTOCOL or name.startswith("_"):
            continue
        inner = value.items() if isinstance(value, dict) else [("", value)]
        for member, one in inner:
            texts = list(_texts(one))
            if texts and len(found) < MOST_CLAIMS:
                found[f"{name}.{member}" if member else name] = texts
    return found


def _texts(value: Any) -> Iterable[str]:
    for one in (value if isinstance(value, list) else [value])[:MOST_TEXTS]:
        match one:
            case bool():
                yield "yes" if one else "no"
            case int() | float():
                yield f"{one}"[:LONGEST]
            case str() if one.strip():
                yield one.strip()[:LONGEST]


def carried_claims(plan: Plan, claims: Mapping[str, list[str]]) -> dict[str, str]:
    """The claims that go along with a visitor, as one text each: those that the questionnaire uses
    and what they are called come first, others as far as there is room, for those that follow."""
    name = ("claims used",)
    if name not in plan.made:
        text = plan.questionnaire.model_dump_json()
        plan.made[name] = frozenset((*_USED.findall(text), *_TAKEN.findall(text)))
    used: frozenset[str] = plan.made[name]
    ranked = sorted(claims, key=lambda one: (one not in used, one not in CALLED))
    found: dict[str, str] = {}
    left = ROOM
    for one in ranked:
        said = ", ".join(claims[one])
        left -= len(one) + len(said)
        if left >= 0:
            found[one] = said
    return found


CALLED = ("name", "preferred_username", "email")
"""The claims by which to call somebody (OpenID Connect Core 1.0, 5.1), the best first."""

_USED = re.compile(r"claim\.([A-Za-z0-9_.-]{1,60})")
_TAKEN = re.compile(r'"claim":"([A-Za-z0-9_.-]{1,60})"')


def filled_by(
    plan: Plan, mappings: Iterable[ClaimMapping], claims: Mapping[str, list[str]]
) -> tuple[Pairs, frozenset[str]]:
    """What the claims of a visitor fill in of a questionnaire, and the keys that stay as they are
    filled in."""
    pairs: list[tuple[str, str]] = []
    locked: set[str] = set()
    by_question: dict[UUID, list[str]] = {}
    for item in plan.questionnaire.items():
        banked = getattr(item, "banked", None)
        if banked is not None:
            by_question.setdefault(banked.id, []).append(item.key)
    for mapping in mappings:
        for key in by_question.get(mapping.question, ()):
            in_parts = plan.items[key].kind in IN_PARTS
            texts = claims.get(mapping.claim, [])
            if in_parts is not bool(mapping.part) or not texts:
                continue
            name = f"{key}.{mapping.part}" if in_parts else key
            pairs += [(name, text) for text in texts]
            if mapping.locked:
                locked.add(key)
    return tuple(pairs), frozenset(locked)
