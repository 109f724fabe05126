"""How visitors come in: by a named link, a pass or a sealed link, and what that brings along.

What is known of a visitor goes to their browser sealed, and comes back with everything that they
send: it can be neither read nor changed there, nor used at another questionnaire.
"""

from dataclasses import asdict, dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from urllib.parse import quote
from uuid import UUID

import orjson

from jotgate.core.common import base64url
from jotgate.core.common.errors import STALE, LinkRefused, PassRefused, Sealed
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import Today
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.records.links import Pass, Way
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival, Came, Pairs
from jotgate.core.walking.plan import Plan
from jotgate.ports.sealed_links import LinkBroken
from jotgate.services.context import Context
from jotgate.store.base import Connection
from jotgate.store.links import link_keys, named_links, visits

LASTS = timedelta(days=31)
"""For how long one can go on with what was begun: a started entry has gone by then."""

SECRET_LENGTH = 22
"""Characters of the secret of a pass: 128 bits (RFC 4648, base64url)."""


@dataclass(frozen=True)
class Entrance:
    """By which way somebody comes to the questionnaire at `address`, or with which arrival, sealed,
    they go on. `visit` is the secret of a visit that another questionnaire handed on to, `page` the
    address of the page that the link stood on."""

    address: str = ""
    way: Way = ""
    secret: str = ""
    arrival: str = ""
    visit: str = ""
    page: str = ""


PLAINLY = Entrance()


@dataclass(frozen=True)
class Held:
    """A pass as somebody comes by it, and the contact that it was made for."""

    one: Pass
    contact: Contact | None


def secrets_of(context: Context, questionnaire_id: UUID, pass_id: UUID) -> list[str]:
    """What the secret of a pass can be: by each of our keys, the newest first."""
    marks = context.cipher.marks(b"pass" + questionnaire_id.bytes + pass_id.bytes)
    return [base64url.written(one[:16]) for one in marks]


def link_of(context: Context, one: Pass, hash: bytes | None, address: str) -> str:
    """The whole link of a pass into the questionnaire at `address`; nothing where it was revoked,
    or the key of its secret has gone."""
    if hash is None:
        return ""
    for secret in secrets_of(context, one.questionnaire_id, one.id):
        if hash_of(secret) == hash:
            return f"{context.public_url}/p/{address}/{secret}"
    return ""


def staff_path(address: str, secret: str) -> str:
    """Where somebody of the office enters or corrects an entry."""
    return f"/e/{quote(address)}/{secret}"


def _arrival_purpose(questionnaire_id: UUID) -> str:
    return f"arrival {questionnaire_id}"


def _key_purpose(questionnaire_id: UUID) -> str:
    return f"link key {questionnaire_id}"


def _pass_purpose(pass_id: UUID) -> str:
    return f"pass {pass_id}"


def packed(arrival: Arrival) -> dict[str, Any]:
    """An arrival as JSON takes it."""
    return {**asdict(arrival), "locked": sorted(arrival.locked)}


def unpacked(found: dict[str, Any]) -> Arrival:
    """What `packed` was given."""
    said = found["came"]
    entry, entered = said["entry"], said.get("entered", "")
    ids = {name: one for name, one in said.items() if name not in ("entry", "entered")}
    came = {name: one and UUID(one) for name, one in ids.items()}
    whole = Came(**came, entry=entry and (UUID(entry[0]), UUID(entry[1])), entered=entered)
    pairs = {name: as_pairs(found[name]) for name in ("values", "handed")}
    return Arrival(**{**found, **pairs, "locked": frozenset(found["locked"]), "came": whole})


def seal(context: Context, questionnaire_id: UUID, arrival: Arrival) -> str:
    """An arrival as the browser keeps it; empty where nothing is known."""
    if arrival == NOTHING_KNOWN:
        return ""
    found, until = packed(arrival), (context.clock.now() + LASTS).timestamp()
    plain = orjson.dumps({**found, "until": until})
    sealed = context.cipher.seal(plain, _arrival_purpose(questionnaire_id)).decode("ascii")
    context.arrivals.keep((questionnaire_id, sealed), (until, arrival))
    return sealed


def opened(context: Context, questionnaire_id: UUID, sealed: str) -> Arrival:
    """What `seal` was given for this questionnaire. Raises LinkRefused."""
    if not sealed:
        return NOTHING_KNOWN
    known = context.arrivals.find((questionnaire_id, sealed))
    if known is None:
        known = _opened(context, questionnaire_id, sealed)
        context.arrivals.keep((questionnaire_id, sealed), known)
    until, arrival = known
    if until < context.clock.now().timestamp():
        raise LinkRefused(STALE)
    return arrival


def renewed(context: Context, questionnaire_id: UUID, sealed: str) -> str:
    """The same arrival for another while, for somebody who goes on with what we keep for them."""
    if not sealed:
        return ""
    return seal(context, questionnaire_id, _opened(context, questionnaire_id, sealed)[1])


def _opened(context: Context, questionnaire_id: UUID, sealed: str) -> tuple[float, Arrival]:
    try:
        plain = context.cipher.open(sealed.encode(), _arrival_purpose(questionnaire_id))
    except Sealed:
        raise LinkRefused(STALE) from None
    found = orjson.loads(plain)
    until: float = found.pop("until")
    return until, unpacked(found)


def as_pairs(stored: list[list[str]]) -> Pairs:
    return tuple((key, text) for key, text in stored)


async def come(
    context: Context,
    conn: Connection,
    questionnaire_id: UUID,
    plan: Plan,
    entrance: Entrance,
    held: Held | None,
    today: Today,
    asks_begun: bool = False,
) -> Arrival:
    """What is known of somebody who comes in, by the pass `held` where that is their way; and when
    they do, where that is asked for. Raises PassRefused, LinkRefused."""
    if entrance.arrival:
        return opened(context, questionnaire_id, entrance.arrival)
    found = NOTHING_KNOWN
    match entrance.way:
        case "" if entrance.visit:
            found = await _by_visit(context, conn, questionnaire_id, entrance.visit)
        case "l":
            found = await _by_link(conn, questionnaire_id, entrance.secret)
        case "p":
            if held is None:
                raise PassRefused("unknown")
            refuse_over(held.one, context.clock.now())
            found = by_pass(context, held)
        case "e":
            found = await _by_visit(context, conn, questionnaire_id, entrance.secret)
            if found.came.staff_id is None:
                raise PassRefused("expired")
        case "s":
            found = await _by_sealed_link(context, conn, questionnaire_id, entrance)
    if "page" in plan.sources and entrance.page:
        found = replace(found, page=entrance.page[:1000])
    if "moment" in plan.sources:
        found = replace(found, moment=today.now.isoformat(timespec="minutes"))
    if asks_begun:
        found = replace(found, begun=context.clock.now().isoformat(timespec="seconds"))
    return found


def _visit_purpose(questionnaire_id: UUID) -> str:
    return f"hand-off {questionnaire_id}"


def seal_visit(context: Context, questionnaire_id: UUID, arrival: Arrival) -> bytes:
    """What is known of somebody who is handed on to a questionnaire, as we keep it."""
    return context.cipher.seal(orjson.dumps(packed(arrival)), _visit_purpose(questionnaire_id))


async def begin_visit(
    context: Context, conn: Connection, id: UUID, arrival: Arrival, until: datetime
) -> str:
    """The secret of a visit of somebody who is known beforehand."""
    secret = context.ids.token()
    sealed = seal_visit(context, id, arrival)
    await visits.begin(conn, hash_of(secret), id, arrival.came, sealed, until)
    return secret


async def _by_visit(
    context: Context, conn: Connection, questionnaire_id: UUID, secret: str
) -> Arrival:
    """Once a visit is over, who comes is nobody that we know."""
    now = context.clock.now()
    sealed = await visits.visit(conn, hash_of(secret), questionnaire_id, now)
    if sealed is None:
        return NOTHING_KNOWN
    return unpacked(orjson.loads(context.cipher.open(sealed, _visit_purpose(questionnaire_id))))


async def _by_link(conn: Connection, questionnaire_id: UUID, code: str) -> Arrival:
    link = await named_links.by_code(conn, questionnaire_id, code)
    if link is None:
        raise PassRefused("unknown")
    if link.shut is not None:
        raise PassRefused("link_shut")
    return Arrival(values=link.values, came=Came(link_id=link.id))


def by_pass(context: Context, held: Held) -> Arrival:
    """What a pass stands for, good still or not. One that was revoked has no hash any more: it was
    looked up as one that never was."""
    one = held.one
    return Arrival(
        values=values_of(context, one),
        contact=facts_of(held.contact) if held.contact else {},
        came=Came(pass_id=one.id, contact_id=one.contact_id),
    )


def seal_link_key(context: Context, questionnaire_id: UUID, secret: bytes) -> bytes:
    return context.cipher.seal(secret, _key_purpose(questionnaire_id))


def open_link_key(context: Context, questionnaire_id: UUID, sealed: bytes) -> bytes:
    return context.cipher.open(sealed, _key_purpose(questionnaire_id))


async def _by_sealed_link(
    context: Context, conn: Connection, questionnaire_id: UUID, entrance: Entrance
) -> Arrival:
    """A link that another program made with one of our keys; of any other nothing is told."""
    token, links = entrance.secret, context.sealed_links
    try:
        sealed = await link_keys.sealed(conn, questionnaire_id, links.key_id(token))
        if sealed is None:
            raise PassRefused("unknown")
        secret = open_link_key(context, questionnaire_id, sealed)
        claims = links.read(token, secret, entrance.address, context.clock.now())
    except LinkBroken as broken:
        raise PassRefused("expired" if broken.expired else "unknown") from None
    values, contact = claims.get("values"), claims.get("contact")
    return Arrival(values=_claimed(values), contact=dict(_claimed(contact)))


def _claimed(given: object) -> Pairs:
    """Texts by name, a list of them where there are several, as pairs; nothing else counts."""
    if not isinstance(given, dict):
        return ()
    lists = ((name, text if isinstance(text, list) else [text]) for name, text in given.items())
    return tuple((name, text) for name, texts in lists for text in texts if isinstance(text, str))


def refuse_over(one: Pass, now: datetime) -> None:
    """Raise PassRefused for a pass whose time or uses are over."""
    if one.is_over(now):
        raise PassRefused("expired")
    if one.is_used_up:
        raise PassRefused("used_up")


def seal_values(context: Context, pass_id: UUID, values: Pairs) -> bytes | None:
    if not values:
        return None
    return context.cipher.seal(orjson.dumps(values), _pass_purpose(pass_id))


def values_of(context: Context, one: Pass) -> Pairs:
    """What a pass stands for. Raises Sealed."""
    if one.sealed is None:
        return ()
    return as_pairs(orjson.loads(context.cipher.open(one.sealed, _pass_purpose(one.id))))
