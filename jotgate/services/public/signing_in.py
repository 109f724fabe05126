"""Visitors sign in: sent to a provider, and back with claims that are known from then on."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from uuid import UUID

from jotgate.core.common.errors import LinkRefused, NotFound, SignInFailed
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import today_in
from jotgate.core.records.identity_providers import KeptProvider
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.sign_in import carried_claims, claim_texts, filled_by
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival
from jotgate.core.walking.plan import Plan
from jotgate.ports.identity import Identity, IdentityRefused, ProviderAway
from jotgate.services.arrivals import Entrance, begin_visit, come
from jotgate.services.code_flow import FlowOver, Sent
from jotgate.services.context import Context
from jotgate.services.identity import FLOW, opened
from jotgate.services.public.entering import public_state, standing
from jotgate.services.public.handing import VISIT_LASTS
from jotgate.services.standing import subject_id
from jotgate.store import identity_providers
from jotgate.store.base import Connection
from jotgate.store.links import visits

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


async def send(context: Context, entrance: Entrance, provider_id: UUID, link: str) -> Sent:
    """Begin at a provider that the questionnaire offers. `link` is the query string that the
    visitor came with. Raises NotFound, LinkRefused, SignInFailed."""
    address = entrance.address
    async with context.single.connect() as conn:
        found = await public_state(conn, address)
        kept = await _provider(conn, found, provider_id)
    whole = [address, entrance.way, entrance.secret, entrance.visit]
    told = {"provider": str(provider_id), "link": link, "entrance": whole}
    try:
        sent = await FLOW.send(context, opened(context, kept), told)
    except ProviderAway:
        raise SignInFailed("away", address) from None
    if len(sent.kept) > MOST_KEPT:
        raise LinkRefused("This link is too long to go along while somebody signs in.")
    return sent


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
    try:
        begun = await FLOW.begun(context, kept, told.get("state", ""))
    except FlowOver as over:
        raise SignInFailed("stale", over.told["entrance"][0] if over.told else "") from None
    address, way, secret, visit = begun["told"]["entrance"]
    entrance = Entrance(address=address, way=way, secret=secret, visit=visit)
    async with context.single.connect() as conn:
        found, held = await standing(conn, address, entrance)
        one = await _provider(conn, found, UUID(begun["told"]["provider"]))
    if told.get("iss", one.settings.issuer) != one.settings.issuer or not told.get("code"):
        raise SignInFailed("refused", address)
    now = context.clock.now()
    try:
        identity = await FLOW.identity(context, opened(context, one), begun, told["code"])
    except IdentityRefused:
        raise SignInFailed("refused", address) from None
    except ProviderAway:
        raise SignInFailed("away", address) from None
    async with context.engine.begin() as conn:
        plan = await context.plan(conn, found.id, found.edition)
        today = today_in(plan.questionnaire.time_zone, now)
        before = await come(context, conn, found.id, plan, entrance, held, today)
        arrival = _known(before, plan, one, identity)
        begins = await begin_visit(context, conn, found.id, arrival, now + VISIT_LASTS)
    return Back(address, begun["told"]["link"], begins)


def _known(before: Arrival, plan: Plan, one: KeptProvider, identity: Identity) -> Arrival:
    """What is known of somebody who signed in: what was known before, what they claim, and what
    that fills in."""
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
