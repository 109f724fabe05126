"""A submission in one statement: it is admitted, counted, stored, and its dispatch is asked for.

No row is locked that every submission of a questionnaire needs: the stripe of its tally is chosen
so that few others work on it, and places are locked only where they are set, in the order of their
names.
"""

from dataclasses import dataclass
from datetime import datetime
from functools import cache
from typing import Any, Literal, NamedTuple

from sqlalchemy import (
    ARRAY,
    DateTime,
    Integer,
    LargeBinary,
    String,
    Uuid,
    cast,
    delete,
    func,
    literal,
    select,
    true,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, REGCLASS, insert

from jotgate.core.gate.places import Take
from jotgate.core.records.entries import Submission, Taking
from jotgate.ports.queue import Queue
from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import entries, entry_ways, restricted_answers
from jotgate.store.entries.tallies import link_tallies, tallies
from jotgate.store.gate.letting_in import (
    ARRIVED,
    ID,
    NONE,
    ONE,
    By,
    came_by,
    is_wanted,
    locked_stripe,
    new,
    no_room,
    once_more,
    own_hold,
    own_places,
    place_locks,
    some,
    stripe_is,
    takes,
    wanted_places,
)
from jotgate.store.gate.places import held_places, places
from jotgate.store.links.passes import passes
from jotgate.store.questionnaires import questionnaires

Stage = Literal["stored", "edition", "way", "places", "person", "gate"]
"""How far a submission came: it was stored, or the edition or the sign-in did not fit; what it came
by lets nobody in; places are full; the person was here; the gate was changed."""


@dataclass(frozen=True)
class Outcome:
    """`number` and `hand_offs` are those of what was `stored`; else nothing was done."""

    stage: Stage
    number: int = 0
    hand_offs: tuple[Any, ...] = ()


class _Kind(NamedTuple):
    """What a statement has to do."""

    by: By
    sealing: bool
    placed: bool
    held: bool
    personal: bool


_GIVEN: dict[str, Any] = {
    "id": Uuid(),
    "edition": Integer(),
    "arrived": DateTime(timezone=True),
    "finish": String(),
    "answers": JSONB(),
    "flags": ARRAY(String),
    "idempotency_key": String(),
    "body_hash": LargeBinary(),
    "language": String(),
    "left_empty": ARRAY(String),
}

_WAYS: dict[str, Any] = {
    "about": String(),
    "link_id": Uuid(),
    "pass_id": Uuid(),
    "contact_id": Uuid(),
    "subject_id": Uuid(),
    "mail_id": Uuid(),
    "from_questionnaire": Uuid(),
    "from_entry": Uuid(),
    "claims": JSONB(),
    "staff_id": Uuid(),
    "entered": String(),
}


def _ticket(admitted: Any) -> Any:
    """Count the entry; where that happens, all the rest does."""
    day = new("day", String())
    today = func.coalesce(cast(tallies.c.days[day].astext, Integer), NONE)
    return (
        update(tallies)
        .where(stripe_is(tallies), some(admitted))
        .values(
            entries=tallies.c.entries + ONE,
            days=tallies.c.days.concat(func.jsonb_build_object(day, today + ONE)),
        )
        .returning(tallies.c.questionnaire_id, tallies.c.stripe)
        .cte("ticket")
    )


def _entry(kind: _Kind, ticket: Any) -> Any:
    number = cast(func.nextval(cast(new("numbers", String()), REGCLASS)), Integer)
    what = {**_GIVEN, **({"takes": JSONB()} if kind.placed or kind.personal else {})}
    what |= {"person": LargeBinary()} if kind.personal else {}
    given = [new(name, one) for name, one in what.items()]
    source: Any = select(ticket.c.questionnaire_id, ticket.c.stripe, number, *given)
    columns = ["questionnaire_id", "stripe", "number", *what]
    adding = insert(entries).from_select(columns, source)
    added = adding.returning(entries.c.number, entries.c.questionnaire_id, entries.c.id)
    return added.cte("added")


def _takings(kind: _Kind, entry: Any, ticket: Any, own: Any) -> list[Any]:
    """What goes along with the entry: the way is noted, a link counted or a pass used, answers
    sealed, places taken and a hold ended."""
    found = []
    if kind.by != "plain":
        ways = [new(name, one) for name, one in _WAYS.items()]
        way = select(entry.c.questionnaire_id, entry.c.id, *ways)
        columns = ["questionnaire_id", "entry_id", *_WAYS]
        found.append(insert(entry_ways).from_select(columns, way).cte("way"))
    if kind.by == "pass":
        named = passes.c.id == new("pass_id", Uuid())
        using = update(passes).where(passes.c.questionnaire_id == ID, named, some(ticket))
        found.append(using.values(used=passes.c.used + ONE).cte("used"))
    if kind.by == "link":
        found.append(_by_link(ticket))
    if kind.sealing:
        content = new("sealed", LargeBinary()), new("key_id", Uuid())
        row = select(entry.c.questionnaire_id, entry.c.id, *content)
        columns = ["questionnaire_id", "entry_id", "sealed", "key_id"]
        found.append(insert(restricted_answers).from_select(columns, row).cte("kept"))
    if kind.placed:
        found += _placed(ticket, own)
    return found


def _by_link(ticket: Any) -> Any:
    source = select(
        ticket.c.questionnaire_id,
        new("link_id", Uuid()).label("link_id"),
        ticket.c.stripe,
        ONE.label("entries"),
        ARRIVED.label("latest"),
    )
    columns = ["questionnaire_id", "link_id", "stripe", "entries", "latest"]
    adding = insert(link_tallies).from_select(columns, source)
    more = {"entries": link_tallies.c.entries + ONE, "latest": adding.excluded.latest}
    return adding.on_conflict_do_update(
        index_elements=["questionnaire_id", "link_id", "stripe"], set_=more
    ).cte("by_link")


def _placed(ticket: Any, own: Any) -> list[Any]:
    """Places that were held and are not taken in the end are those of other cells: they are given
    back with the others."""
    wanted = wanted_places()
    taken = func.coalesce(
        select(wanted.c.amount).where(wanted.c.cell == places.c.cell).scalar_subquery(), NONE
    )
    taking = (
        update(places)
        .where(places.c.questionnaire_id == ID, is_wanted(places.c.cell), some(ticket))
        .values(taken=places.c.taken + taken, held=places.c.held - own_places(own, places.c.cell))
    )
    if own is None:
        return [taking.cte("taking")]
    ending = delete(held_places).where(
        held_places.c.questionnaire_id == ID,
        held_places.c.name.in_(select(own.c.name)),
        some(ticket),
    )
    return [taking.cte("taking"), ending.cte("hold_ended")]


@cache
def _statement(kind: _Kind, queue: Queue) -> Any:
    """The whole of it, with how far it came in its one row."""
    hand_offs = questionnaires.c.links["hand_offs"].label("hand_offs")
    opening = select(questionnaires.c.id, hand_offs).where(takes()).cte("opening")
    came = came_by(kind.by, opening) if kind.by in ("link", "pass") else opening
    room, own = came, None
    if kind.placed:
        locked = place_locks(some(came))
        own = own_hold(locked) if kind.held else None
        room = select(ONE).where(some(came), ~no_room(locked, own)).cte("room")
    stripe = once = room
    if kind.personal:
        stripe = locked_stripe(room)
        once = once_more(room, stripe)
    ticket = _ticket(once)
    entry = _entry(kind, ticket)
    named = func.jsonb_build_object(
        literal("questionnaire_id"), entry.c.questionnaire_id, literal("entry_id"), entry.c.id
    )
    done = select(entry.c.number, queue.asking("dispatch_entry", named).label("asked")).cte("done")
    steps = (opening, came, room, stripe, once, ticket)
    reached = sum((cast(some(one), Integer) for one in dict.fromkeys(steps)), NONE)
    onward = select(opening.c.hand_offs).scalar_subquery()
    return (
        select(done.c.number, done.c.asked, onward, reached)
        .select_from(select(ONE.label("n")).subquery("one").outerjoin(done, true()))
        .add_cte(*_takings(kind, entry, ticket, own))
    )


def _stage(kind: _Kind, reached: int) -> Stage:
    """What came after so many steps that went well."""
    steps: list[Stage] = ["edition"]
    steps += ["way"] if kind.by in ("link", "pass") else []
    steps += ["places"] if kind.placed else []
    steps += ["gate", "person"] if kind.personal else []
    return [*steps, "gate"][reached]


def _way_of(submission: Submission) -> By:
    came = submission.came
    if came.pass_id or came.link_id:
        return "pass" if came.pass_id else "link"
    known = submission.about or came.contact_id or came.subject_id or came.mail_id or came.entry
    known = known or came.staff_id
    return "known" if known else "plain"


def _values(submission: Submission, taking: Taking, begun: datetime, by: By) -> dict[str, Any]:
    own = ("questionnaire_id", *_GIVEN)
    values = {f"new_{name}": getattr(submission, name) for name in own}
    came = submission.came
    if by != "plain":
        values |= {f"new_{name}": value for name, value in vars(came).items() if name in _WAYS}
        values["new_about"] = submission.about
        values["new_entered"] = came.entered or None
        values["new_claims"] = dict(submission.claims)
        values["new_from_questionnaire"], values["new_from_entry"] = came.entry or (None, None)
    values |= {
        "new_begun": begun,
        "new_signed_in": came.subject_id is not None or came.staff_id is not None,
        "new_day": submission.arrived.date().isoformat(),
        "new_gate_revision": taking.gate_revision,
        "new_numbers": f"numbers_{submission.questionnaire_id.hex}",
    }
    if submission.sealed is not None:
        values["new_sealed"], values["new_key_id"] = submission.sealed
    if taking.person is not None:
        values |= {
            "new_person": taking.person,
            "new_person_most": taking.most,
            "new_person_since": taking.since,
            "new_person_paused": taking.paused,
        }
    if taking.person is not None or taking.is_placed:
        values["new_takes"] = {one.cell: one.amount for one in taking.takes}
    if taking.is_placed:
        given_back = taking.held - {one.cell for one in taking.takes}
        whole = (*taking.takes, *(Take(cell, 0, None) for cell in given_back))
        wanted = [{"cell": one.cell, "amount": one.amount, "most": one.most} for one in whole]
        values |= {"new_wanted": wanted, "new_hold": taking.hold}
    return values


async def add(
    conn: Connection,
    submission: Submission,
    taking: Taking,
    begun: datetime,
    queue: Queue,
    stripe: int,
) -> Outcome:
    """Store a submission and ask for its dispatch, where the gate is at the revision that it was
    let in by, the edition was not replaced before the moment `begun`, and there is room. Counted in
    `stripe`, which has to be there.

    Where it is not stored nothing was done. Raises AlreadyThere where the idempotency key is known.
    """
    by = _way_of(submission)
    sealing = submission.sealed is not None
    personal = taking.person is not None
    kind = _Kind(by, sealing, taking.is_placed, bool(taking.held), personal)
    values = _values(submission, taking, begun, by)
    values["new_stripe"] = stripe
    row = (await conn.execute(_statement(kind, queue), values)).one()
    number, _, hand_offs, reached = row
    if number is not None:
        return Outcome("stored", number, tuple(hand_offs or ()))
    return Outcome(_stage(kind, reached))
