"""Asking the gate: what is known of a visitor and of places is read, and the core decides."""

import hashlib
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

from jotgate.core.common.errors import Shut, SignInNeeded
from jotgate.core.common.secrets import hash_of
from jotgate.core.gate.decision import Decision, Visitor, Why, decide
from jotgate.core.gate.opening import ALWAYS, EVER, NEVER, Opening, opening_at
from jotgate.core.gate.people import PassHolders, PerPerson
from jotgate.core.gate.places import Counts, Take
from jotgate.core.gate.words import Told, told
from jotgate.core.records.entries import Taking
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.core.walking.plan import Plan
from jotgate.services import office
from jotgate.services.by_staff import may_still
from jotgate.services.context import Context
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, lists
from jotgate.store.gate import admissions, places, waiting

KEPT_FOR = timedelta(days=1)
"""For how long at most an opening is taken for as good as looked up."""


@dataclass(frozen=True)
class Seen:
    """What is seen of a browser: the name of its submission, under which places are held, a name of
    its own, by which it is known again, and its network address; what it worked out for its
    submission, what stands in the field that nobody sees, and the secret of somebody who waits."""

    submission: str = ""
    device: str = ""
    client: str = ""
    proof: str = ""
    trap: str = ""
    waits: str = ""


NOTHING_SEEN = Seen()


def opening(context: Context, found: PublicState, zone: str, now: datetime) -> Opening:
    """How the gate stands by its times; the same until it changes."""
    times = found.gate.times
    if times.say_nothing:
        return ALWAYS
    name = (found.id, found.gate_revision, zone)
    known = context.openings.find(name)
    if known is not None and _still(known, now):
        return known[1]
    return context.openings.keep(name, (now, opening_at(times, zone, now)))[1]


def _still(known: tuple[datetime, Opening], now: datetime) -> bool:
    looked, one = known
    begins = max(one.since or looked - KEPT_FOR, looked - KEPT_FOR)
    return begins <= now < min(one.until or looked + KEPT_FOR, looked + KEPT_FOR)


def hold_name(submission: str) -> bytes:
    """Under which places are held for a submission; empty where it has no name."""
    return hashlib.sha256(f"hold {submission}".encode()).digest()[:16] if submission else b""


def person_of(limit: PerPerson, came: Came, device: str) -> bytes | None:
    """By what somebody is known again: the surest that there is of what counts."""
    known: dict[str, UUID | str | None] = {
        "sign_in": came.subject_id,
        "contact": came.contact_id,
        "pass": came.pass_id,
        "mail": came.mail_id,
        "device": device,
    }
    for kind, who in known.items():
        if who and kind in limit.known_by:
            return hashlib.sha256(f"{kind} {who}".encode()).digest()[:16]
    return None


def known(arrival: Arrival, going_on: bool) -> Visitor:
    """What an arrival says of somebody. `going_on` tells that they were let in before; when, is
    known where the gate asks for it."""
    return Visitor(
        going_on=going_on,
        begun=datetime.fromisoformat(arrival.begun) if arrival.begun else None,
        has_pass=arrival.came.pass_id is not None,
        signed_in=arrival.came.subject_id is not None,
        claims=arrival.claims,
        mail=arrival.mail,
        by_staff=arrival.came.staff_id is not None,
    )


async def invited(conn: Connection, found: PublicState, came: Came, visitor: Visitor) -> Visitor:
    """The same with the lists that they are on, where those matter."""
    if not found.gate.audience or came.contact_id is None:
        return visitor
    contact = await contacts.find(conn, came.contact_id)
    visitor = replace(visitor, opted_out=contact is not None and contact.opted_out is not None)
    if any(isinstance(one, PassHolders) and one.lists for one in found.gate.audience):
        on = await lists.of_contact(conn, came.contact_id)
        visitor = replace(visitor, lists=frozenset(id for id, _ in on))
    return visitor


async def visitor_of(
    conn: Connection,
    found: PublicState,
    arrival: Arrival,
    seen: Seen = NOTHING_SEEN,
    takes: tuple[Take, ...] = (),
    going_on: bool = False,
) -> Visitor:
    """What the gate has to know of somebody, and no more."""
    visitor = await invited(conn, found, arrival.came, known(arrival, going_on))
    limit = found.gate.per_person
    person = limit and person_of(limit, arrival.came, seen.device)
    if person:
        times = await admissions.times_of(conn, found.id, person)
        visitor = replace(visitor, answered=tuple(times))
    if seen.waits and found.gate.places:
        place = await waiting.place_of(conn, found.id, hash_of(seen.waits))
        visitor = replace(visitor, waits=place)
    hold = await held_for(conn, found, arrival.came, seen)
    return replace(visitor, held=hold.takes, takes=takes)


@dataclass(frozen=True)
class Hold:
    """What is held for somebody, by cell, and under which name more would be."""

    name: bytes = b""
    takes: Mapping[str, int] = field(default_factory=dict)


def could_hold(found: PublicState, came: Came) -> bool:
    """Whether anything could be held for somebody."""
    return bool(found.gate.places) and (found.gate.hold > 0 or came.pass_id is not None)


async def held_for(conn: Connection, found: PublicState, came: Came, seen: Seen) -> Hold:
    """The places that are held for somebody: by the pass that the waiting list gave them, or else
    under the name of their submission."""
    name = hold_name(seen.submission)
    if not could_hold(found, came):
        return Hold(name)
    names = [name] if name and found.gate.hold else []
    if came.pass_id is not None:
        names.append(hold_name(f"pass {came.pass_id}"))
    held = await places.holds(conn, found.id, names) if names else {}
    own = next((one for one in reversed(names) if one in held), name)
    return Hold(own, held.get(own, {}))


async def keep(conn: Connection, id: UUID) -> None:
    """See that the gate stays as it is until the transaction ends."""
    await questionnaires.gate(conn, id, keep=True)


def zone_of(plan: Plan) -> ZoneInfo:
    return ZoneInfo(plan.questionnaire.time_zone)


async def counts_of(
    conn: Connection, found: PublicState, cells: Collection[str] | None = None
) -> Counts:
    """How places stand, all of them or those of `cells`; nothing is read where none are set."""
    if not found.gate.places:
        return {}
    return await places.counts(conn, found.id, cells)


def judged(
    context: Context,
    found: PublicState,
    zone: str,
    now: datetime,
    visitor: Visitor,
    counts: Counts,
) -> Decision:
    return decide(found.gate, opening(context, found, zone, now), now, visitor, counts)


async def told_of(
    context: Context, found: PublicState, plan: Plan, why: Why, visitor: Visitor, language: str
) -> Told:
    """What somebody reads for a reason against them."""
    document, ask = plan.questionnaire, (await office.current(context)).ask
    first, zone = document.first_language, document.time_zone
    return told(found.gate, why, visitor, language, first, zone, ask)


async def refuse(
    context: Context,
    found: PublicState,
    plan: Plan,
    decision: Decision,
    visitor: Visitor,
    language: str,
) -> None:
    """Raise Shut, or SignInNeeded, with the first reason against somebody; nothing where there is
    none."""
    if decision.admitted:
        return
    why = decision.why[0]
    signs_in = decision.sign_in and found.sign_in.providers
    if why.reason == "not_invited" and signs_in and not decision.confirm:
        raise SignInNeeded
    words = await told_of(context, found, plan, why, visitor, language)
    raise Shut(
        words.detail,
        reason=why.reason,
        heading=words.heading,
        until=why.until.isoformat() if why.until else "",
        waiting="yes" if found.gate.waiting.on and why.reason in ("full", "gone") else "",
        confirm="yes" if decision.confirm and why.reason == "not_invited" else "",
        sign_in="yes" if signs_in and why.reason == "not_invited" else "",
    )


async def let_in(
    context: Context,
    conn: Connection,
    found: PublicState,
    plan: Plan,
    language: str,
    arrival: Arrival,
    seen: Seen = NOTHING_SEEN,
    going_on: bool = False,
) -> tuple[Decision, Visitor, Counts]:
    """Let a visitor in, or on. Raises Shut, SignInNeeded, NotAllowed."""
    await may_still(context, conn, found.id, plan, arrival.came)
    visitor = await visitor_of(conn, found, arrival, seen, going_on=going_on)
    counts = await counts_of(conn, found)
    now = context.clock.now()
    decision = judged(context, found, plan.questionnaire.time_zone, now, visitor, counts)
    await refuse(context, found, plan, decision, visitor, language)
    return decision, visitor, counts


def taking(
    found: PublicState,
    takes: tuple[Take, ...],
    hold: Hold,
    came: Came,
    seen: Seen,
    now: datetime,
) -> Taking:
    """What a submission takes at the gate."""
    whole = Taking(found.gate_revision, takes, hold.name, frozenset(hold.takes))
    limit = None if came.staff_id else found.gate.per_person
    person = limit and person_of(limit, came, seen.device)
    if limit is None or not person:
        return whole
    since = now - timedelta(days=limit.days) if limit.days else EVER
    paused = now - timedelta(hours=limit.pause) if limit.pause else NEVER
    return replace(whole, person=person, most=limit.most, since=since, paused=paused)
