"""Visitors sign in: sent to a provider, and back with claims that are known from then on."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from hmac import compare_digest
from typing import Any
from uuid import UUID

import orjson

from jotgate.core.common.errors import LinkRefused, NotFound, Sealed, SignInFailed
from jotgate.core.common.today import today_in
from jotgate.core.records.identity_providers import KeptProvider
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.sign_in import carried_claims, claim_texts, filled_by
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival
from jotgate.core.walking.plan import Plan
from jotgate.ports.identity import Identity, IdentityRefused, ProviderAway
from jotgate.services.arrivals import Entrance, come, hash_of, seal_visit
from jotgate.services.context import Context
from jotgate.services.identity import back_address, opened
from jotgate.services.public.answering import public_state, standing
from jotgate.services.public.handing import VISIT_LASTS
from jotgate.services.standing import subject_id
from jotgate.store import identity_providers, sessions
from jotgate.store.base import Connection
from jotgate.store.links import visits

LASTS = timedelta(minutes=15)
"""How long somebody may take at the provider."""

PURPOSE = "visitor's sign-in"

MOST_KEPT = 3_900
"""Characters that a browser keeps while somebody signs in: the least that it keeps of a cookie with
its name and attributes is 4,096 bytes (RFC 6265, 6.1)."""


@dataclass(frozen=True)
class Offered:
    """A provider that visitors may sign in at."""

    id: UUID
    name: str


async def offered(context: Context, ids: tuple[UUID, ...]) -> list[Offered]:
    """In the order that the questionnaire has them in."""
    if not ids:
        return []
    async with context.single.connect() as conn:
        found = await identity_providers.of_ids(conn, ids)
    return [Offered(id, found[id].settings.name) for id in ids if id in found]


@dataclass(frozen=True)
class Sent:
    """Where the browser goes, and what it keeps until it comes back."""

    address: str
    kept: str


async def send(context: Context, entrance: Entrance, provider_id: UUID, link: str) -> Sent:
    """Begin at a provider that the questionnaire offers. `link` is the query string that the
    visitor came with. Raises NotFound, LinkRefused, SignInFailed."""
    address = entrance.address
    async with context.single.connect() as conn:
        found = await public_state(conn, address)
        kept = await _provider(conn, found, provider_id)
    state, nonce, verifier = (context.ids.token() for _ in range(3))
    told = {
        "state": state,
        "nonce": nonce,
        "verifier": verifier,
        "provider": str(provider_id),
        "expires": (context.clock.now() + LASTS).timestamp(),
        "link": link,
        "entrance": [address, entrance.way, entrance.secret, entrance.visit],
    }
    try:
        provider = opened(context, kept)
        there = await provider.address(state, nonce, verifier, back_address(context))
    except ProviderAway:
        raise SignInFailed("away", address) from None
    sealed = context.cipher.seal(orjson.dumps(told), PURPOSE).decode("ascii")
    if len(sealed) > MOST_KEPT:
        raise LinkRefused("This link is too long to go along while somebody signs in.")
    return Sent(there, sealed)


async def _provider(conn: Connection, found: PublicState, id: UUID) -> KeptProvider:
    kept = (await identity_providers.of_ids(conn, [id])).get(id)
    if id not in found.sign_in.providers or kept is None:
        raise NotFound("There is no such way to sign in here.")
    return kept


@dataclass(frozen=True)
class Back:
    """Somebody came back: the questionnaire that they go on in, with the query string that they
    came with first, and the secret of their visit."""

    address: str
    link: str
    visit: str


async def come_back(context: Context, kept: str, told: Mapping[str, str]) -> Back:
    """What follows once the provider has sent somebody back with `told`: `state`, `code`, `iss`
    (RFC 9207) or `error`. Raises SignInFailed."""
    begun = await _begun(context, kept, told.get("state", ""))
    address, way, secret, visit = begun["entrance"]
    async with context.single.connect() as conn:
        found = await public_state(conn, address)
        one = await _provider(conn, found, UUID(begun["provider"]))
    if told.get("iss", one.settings.issuer) != one.settings.issuer or not told.get("code"):
        raise SignInFailed("refused", address)
    now = context.clock.now()
    try:
        identity = await opened(context, one).identity(
            told["code"], begun["nonce"], begun["verifier"], back_address(context), now
        )
    except IdentityRefused:
        raise SignInFailed("refused", address) from None
    except ProviderAway:
        raise SignInFailed("away", address) from None
    entrance = Entrance(address=address, way=way, secret=secret, visit=visit)
    begins = context.ids.token()
    async with context.engine.begin() as conn:
        arrival = await _arrival(context, conn, entrance, one, identity, now)
        sealed = seal_visit(context, found.id, arrival)
        until = now + VISIT_LASTS
        await visits.begin(conn, hash_of(begins), found.id, arrival.came, sealed, until)
    return Back(address, begun["link"], begins)


async def _begun(context: Context, kept: str, state: str) -> dict[str, Any]:
    """What `send` kept, once. Raises SignInFailed."""
    now = context.clock.now()
    try:
        begun: dict[str, Any] = orjson.loads(context.cipher.open(kept.encode(), PURPOSE))
    except Sealed:
        raise SignInFailed("stale") from None
    address: str = begun["entrance"][0]
    same = compare_digest(state.encode(), begun["state"].encode())
    if not same or now.timestamp() > begun["expires"]:
        raise SignInFailed("stale", address)
    async with context.engine.begin() as conn:
        if not await sessions.use_once(conn, hash_of(state), now + LASTS):
            raise SignInFailed("stale", address)
    return begun


async def _arrival(
    context: Context,
    conn: Connection,
    entrance: Entrance,
    one: KeptProvider,
    identity: Identity,
    now: datetime,
) -> Arrival:
    """What is known of somebody who signed in: by what they came, what they claim, what that fills
    in."""
    found, held = await standing(conn, entrance.address, entrance)
    plan: Plan = await context.plan(conn, found.id, found.edition)
    today = today_in(plan.questionnaire.time_zone, now)
    before = await come(context, conn, found.id, plan, entrance, held, today)
    if before.came.subject_id is not None:
        # Somebody else may have left without signing out: nothing of theirs goes along.
        before = NOTHING_KNOWN
    claims = claim_texts(identity.claims)
    pairs, locked = filled_by(plan, one.settings.mappings, claims)
    subject = subject_id(one.settings.issuer, str(identity.claims["sub"]))
    return replace(
        before,
        values=(*pairs, *before.values),
        claims=carried_claims(plan, claims),
        locked=before.locked | locked,
        came=replace(before.came, subject_id=subject),
    )


async def leave(context: Context, address: str, visit: str) -> None:
    """Sign out of a questionnaire."""
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        await visits.leave(conn, found.id, hash_of(visit))
