"""Admit or refuse, and why: the one decision that everybody asks for."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import get_args
from uuid import UUID

from jotgate.core.gate.opening import Opening
from jotgate.core.gate.people import Confirmed, PassHolders, PerPerson, SignedIn, Who
from jotgate.core.gate.places import NONE, Counts, Take, fits, least_left, totals_of
from jotgate.core.gate.settings import Gate, Reason

ORDER: tuple[Reason, ...] = get_args(Reason)
"""Reasons in the order in which they are given: the first that holds is what a visitor reads."""


@dataclass(frozen=True)
class Visitor:
    """Whoever wants to come in, or to go on.

    `going_on` tells that they were let in before, `begun` when, where that is known. `answered` are
    the moments of their entries that count. `held` are the places that are kept for them, by cell,
    `takes` what their answers so far would take. `waits` is their place on the waiting list, from
    1. `mail` is the address that they confirmed. Whoever comes `by_staff` is somebody of the office
    who enters it for them: only places count then.
    """

    going_on: bool = False
    begun: datetime | None = None
    has_pass: bool = False
    lists: frozenset[UUID] = frozenset()
    signed_in: bool = False
    claims: Mapping[str, str] = field(default_factory=dict)
    opted_out: bool = False
    answered: tuple[datetime, ...] = ()
    held: Mapping[str, int] = field(default_factory=dict)
    takes: tuple[Take, ...] = ()
    waits: int | None = None
    mail: str = ""
    by_staff: bool = False


ANYBODY = Visitor()


@dataclass(frozen=True)
class Why:
    """One reason against; `until` is when it ends, where that is known. `cells` are full."""

    reason: Reason
    until: datetime | None = None
    cells: tuple[str, ...] = ()


@dataclass(frozen=True)
class Decision:
    """`why` are all reasons against, in their order; none for somebody who is let in.

    `shuts` is when it shuts by itself, `until` until when whoever is in can send; `in_grace` tells
    that it has shut, and they still can. `left` are the places in all, None where those are not
    limited. `sign_in` tells that signing in could help, `confirm` that confirming a mail address
    could.
    """

    why: tuple[Why, ...]
    shuts: datetime | None = None
    until: datetime | None = None
    in_grace: bool = False
    left: int | None = None
    sign_in: bool = False
    confirm: bool = False

    @property
    def admitted(self) -> bool:
        return not self.why


def decide(
    gate: Gate, opening: Opening, moment: datetime, visitor: Visitor, counts: Counts
) -> Decision:
    """Whether `visitor` may answer at `moment`, at which the times of the gate stand as `opening`
    says, with so many places taken."""
    grace = timedelta(minutes=gate.grace)
    why: list[Why] = []
    graced: list[datetime] = []
    for one, since in () if visitor.by_staff else _not_open(gate, opening):
        if since is not None and _in_grace(one, since, grace, moment, visitor):
            graced.append(since + grace)
        else:
            why.append(one)
    why += () if visitor.by_staff else _about_the_visitor(gate, moment, visitor)
    why += _without_a_place(gate, visitor, counts)
    shuts = opening.until if gate.state == "open" and opening.open else None
    return Decision(
        tuple(sorted(why, key=lambda one: ORDER.index(one.reason))),
        shuts,
        min(graced) if graced else shuts and shuts + grace,
        bool(graced),
        least_left(totals_of(gate.places), counts, visitor.held),
        sign_in=not visitor.signed_in and _is_for(gate, "signed_in"),
        confirm=not visitor.mail and _is_for(gate, "mail"),
    )


def _not_open(gate: Gate, opening: Opening) -> Iterator[tuple[Why, datetime | None]]:
    """Why the gate is not open, and since when."""
    if gate.state != "open":
        yield Why("held" if gate.state == "held" else "shut"), gate.since
    if not opening.open:
        reason: Reason = "over" if opening.until is None else "not_yet"
        yield Why(reason, opening.until), opening.since


def _in_grace(
    why: Why, since: datetime, grace: timedelta, moment: datetime, visitor: Visitor
) -> bool:
    """Whether it shut while they answered, a short time ago. Nobody sends while it is held."""
    if why.reason == "held" or not visitor.going_on or not visitor.begun:
        return False
    return visitor.begun < since <= moment < since + grace


def _about_the_visitor(gate: Gate, moment: datetime, visitor: Visitor) -> Iterator[Why]:
    if gate.audience and visitor.opted_out:
        yield Why("opted_out")
    if gate.audience and not any(_is_invited(one, visitor) for one in gate.audience):
        yield Why("not_invited")
    again = gate.per_person and _too_often(gate.per_person, moment, visitor.answered)
    if again:
        yield again


def _is_invited(who: Who, visitor: Visitor) -> bool:
    if isinstance(who, PassHolders):
        return visitor.has_pass and (not who.lists or not visitor.lists.isdisjoint(who.lists))
    if isinstance(who, Confirmed):
        return bool(visitor.mail) and (not who.domains or domain_of(visitor.mail) in who.domains)
    return visitor.signed_in and (
        (not who.values and not who.domains)
        or _has_claim(who, visitor.claims)
        or _domain_claimed(visitor.claims) in who.domains
    )


def _has_claim(who: SignedIn, claims: Mapping[str, str]) -> bool:
    """Several values of one claim come as one text, with commas between them."""
    told = claims.get(who.claim, "") if who.claim else ""
    return told in who.values or any(one in who.values for one in told.split(", "))


def _domain_claimed(claims: Mapping[str, str]) -> str:
    """The domain of an address that the provider says is theirs (OpenID Connect Core 1.0, 5.1)."""
    return domain_of(claims.get("email", "")) if claims.get("email_verified") == "yes" else ""


def domain_of(email: str) -> str:
    return email.rpartition("@")[2].lower()


def _is_for(gate: Gate, kind: str) -> bool:
    return any(one.kind == kind for one in gate.audience)


def _too_often(limit: PerPerson, moment: datetime, answered: tuple[datetime, ...]) -> Why | None:
    """Why somebody cannot answer once more, and from when on they can."""
    ends: list[datetime | None] = []
    before = sorted(answered, reverse=True)
    if len(before) >= limit.most:
        oldest = before[limit.most - 1]
        frees = oldest + timedelta(days=limit.days) if limit.days else None
        if frees is None or frees > moment:
            ends.append(frees)
    if before and limit.pause:
        paused = before[0] + timedelta(hours=limit.pause)
        if paused > moment:
            ends.append(paused)
    if not ends:
        return None
    known = [one for one in ends if one is not None]
    return Why("answered", max(known) if len(known) == len(ends) else None)


def _without_a_place(gate: Gate, visitor: Visitor, counts: Counts) -> Iterator[Why]:
    """Places in all are asked of everybody, others by what was answered."""
    cells = {one.cell: one for one in visitor.takes}
    for one in totals_of(gate.places):
        cells.setdefault(one.cell, one)
    full = tuple(
        take.cell
        for take in cells.values()
        if not fits(take, counts.get(take.cell, NONE), visitor.held.get(take.cell, 0))
    )
    if not full:
        return
    if visitor.waits is not None:
        yield Why("waiting", cells=full)
    yield Why("gone" if visitor.going_on else "full", cells=full)
