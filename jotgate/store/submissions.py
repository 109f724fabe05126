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
    BigInteger,
    Boolean,
    ColumnElement,
    DateTime,
    Integer,
    LargeBinary,
    String,
    Uuid,
    and_,
    bindparam,
    cast,
    column,
    delete,
    exists,
    func,
    literal,
    literal_column,
    or_,
    select,
    true,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, REGCLASS, insert

from jotgate.core.records.entries import Submission, Taking
from jotgate.ports.queue import Queue
from jotgate.store.base import Connection
from jotgate.store.entries import entries, entry_ways, restricted_answers
from jotgate.store.gate.admissions import admissions, persons
from jotgate.store.gate.places import held_places, places
from jotgate.store.links.named_links import named_links
from jotgate.store.links.passes import passes, usable
from jotgate.store.questionnaires import editions, questionnaires
from jotgate.store.tallies import link_tallies, tallies

By = Literal["plain", "known", "link", "pass"]
"""Whether anything is known of its way: a named link is counted with the entry, a pass used."""

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
}

_WAYS: dict[str, Any] = {
    "about": String(),
    "link_id": Uuid(),
    "pass_id": Uuid(),
    "contact_id": Uuid(),
    "subject_id": Uuid(),
    "from_questionnaire": Uuid(),
    "from_entry": Uuid(),
}

_MOMENT = DateTime(timezone=True)

_ONE, _NONE = literal_column("1", Integer()), literal_column("0", Integer())
"""Numbers that stand in the statement, and are not sent along each time."""


def _new(name: str, kind: Any) -> Any:
    """Parameters are called `new_...`, so that an update does not take them for its own."""
    return bindparam(f"new_{name}", type_=kind)


_ID, _ARRIVED = _new("questionnaire_id", Uuid()), _new("arrived", _MOMENT)


def _some(cte: Any) -> ColumnElement[bool]:
    return exists(select(_ONE).select_from(cte))


def _takes() -> ColumnElement[bool]:
    """Whether the edition that was answered is taken, and whoever answered signed in where that is
    needed. That the gate is as it was known is asked with the stripe."""
    edition = _new("edition", Integer())
    needed = questionnaires.c.links[("sign_in", "needed")].astext
    later = editions.alias("later")
    begun_in_time = exists().where(
        later.c.questionnaire_id == questionnaires.c.id,
        later.c.number == edition + _ONE,
        later.c.published >= _new("begun", _MOMENT),
    )
    return and_(
        questionnaires.c.id == _ID,
        or_(needed.is_distinct_from(literal("true")), _new("signed_in", Boolean())),
        or_(questionnaires.c.edition == edition, begun_in_time),
    )


def _came_by(by: By, opening: Any) -> Any:
    """What the visitor came by, where it lets them in: a named link that was not shut when it could
    have been begun, a pass that is good for one more, which is locked."""
    if by == "link":
        shut = named_links.c.shut
        known = or_(shut.is_(None), shut > _new("begun", _MOMENT))
        named = named_links.c.id == _new("link_id", Uuid())
        query = select(named_links.c.id).where(named_links.c.questionnaire_id == _ID, named, known)
        return query.where(_some(opening)).cte("came_by")
    named = passes.c.id == _new("pass_id", Uuid())
    query = select(passes.c.id).where(passes.c.questionnaire_id == _ID, named, usable(_ARRIVED))
    return query.where(_some(opening)).with_for_update(of=passes).cte("came_by")


def _wanted() -> Any:
    """The places that the entry takes: cell, amount, and how many there are."""
    return (
        func.unnest(
            _new("cells", ARRAY(String)),
            _new("amounts", ARRAY(BigInteger)),
            _new("mosts", ARRAY(BigInteger)),
        )
        .table_valued(
            column("cell", String), column("amount", BigInteger), column("most", BigInteger)
        )
        .render_derived()
    )


def _place_locks(before: ColumnElement[bool]) -> tuple[Any, Any]:
    """The rows of places, locked in their order, and then what is held for this visitor."""
    p, h = places.c, held_places.c
    locked = (
        select(p.cell, p.taken, p.held, p.waiting)
        .where(p.questionnaire_id == _ID, p.cell == func.any(_new("cells", ARRAY(String))), before)
        .order_by(p.cell)
        .with_for_update()
        .cte("locked")
    )
    all_locked = select(func.count()).select_from(locked).scalar_subquery() >= _NONE
    kept = func.jsonb_object_keys(h.takes).column_valued("kept")
    elsewhere = exists(select(_ONE).where(kept != func.all(_new("cells", ARRAY(String)))))
    named = h.name == _new("hold", LargeBinary())
    own = (
        select(h.name, h.takes)
        .where(h.questionnaire_id == _ID, named, all_locked, ~elsewhere)
        .with_for_update()
        .cte("own")
    )
    return locked, own


def _own_places(own: Any, cell: Any) -> Any:
    return func.coalesce(
        select(cast(own.c.takes.op("->>")(cell), BigInteger)).scalar_subquery(), _NONE
    )


def _no_room(locked: Any, own: Any) -> ColumnElement[bool]:
    """Whether some cell that is limited has no room: what is free where people wait is theirs."""
    wanted = _wanted()
    w, now, mine = wanted.c, locked.c, _own_places(own, wanted.c.cell)
    fits = or_(
        w.most.is_(None),
        w.amount <= mine,
        and_(now.waiting == _NONE, now.taken + now.held - mine + w.amount <= w.most),
    )
    query = select(_ONE).select_from(wanted.outerjoin(locked, now.cell == w.cell))
    return exists(query.where(or_(now.cell.is_(None), ~fits)))


def _once(room: Any, stripe: Any) -> Any:
    """Note that the person sends one more entry, where they may."""
    own = select(
        _ID.label("questionnaire_id"),
        _new("person", LargeBinary()).label("person"),
        func.array_append(cast(literal("{}"), ARRAY(_MOMENT)), _ARRIVED).label("times"),
    ).where(_some(room), _some(stripe))
    adding = insert(persons).from_select(["questionnaire_id", "person", "times"], own)
    times = func.unnest(persons.c.times).column_valued("before")
    lately = select(func.count()).where(times > _new("person_since", _MOMENT)).scalar_subquery()
    paused = select(func.count()).where(times > _new("person_paused", _MOMENT)).scalar_subquery()
    return (
        adding.on_conflict_do_update(
            index_elements=["questionnaire_id", "person"],
            set_={"times": func.array_append(persons.c.times, _ARRIVED)},
            where=and_(lately < _new("person_most", Integer()), paused == _NONE),
        )
        .returning(persons.c.person)
        .cte("once")
    )


def _stripe_is(stripes: Any) -> ColumnElement[bool]:
    """The stripe that was chosen, where the gate is at the revision that it is known by."""
    return and_(
        stripes.c.questionnaire_id == _ID,
        stripes.c.stripe == _new("stripe", Integer()),
        stripes.c.gate_revision == _new("gate_revision", Integer()),
    )


def _stripe(room: Any) -> Any:
    """It is locked first where the person is to be noted before the entry is counted."""
    query = select(tallies.c.stripe).where(_stripe_is(tallies), _some(room))
    return query.with_for_update().cte("stripe")


def _ticket(admitted: Any) -> Any:
    """Count the entry; where that happens, all the rest does."""
    day = _new("day", String())
    today = func.coalesce(cast(tallies.c.days[day].astext, Integer), _NONE)
    return (
        update(tallies)
        .where(_stripe_is(tallies), _some(admitted))
        .values(
            entries=tallies.c.entries + _ONE,
            days=tallies.c.days.concat(func.jsonb_build_object(day, today + _ONE)),
        )
        .returning(tallies.c.questionnaire_id, tallies.c.stripe)
        .cte("ticket")
    )


def _entry(ticket: Any) -> Any:
    number = cast(func.nextval(cast(_new("numbers", String()), REGCLASS)), Integer)
    given = [_new(name, kind) for name, kind in _GIVEN.items()]
    source: Any = select(ticket.c.questionnaire_id, ticket.c.stripe, number, *given)
    columns = ["questionnaire_id", "stripe", "number", *_GIVEN]
    adding = insert(entries).from_select(columns, source)
    added = adding.returning(entries.c.number, entries.c.questionnaire_id, entries.c.id)
    return added.cte("added")


def _takings(kind: _Kind, entry: Any, ticket: Any, own: Any) -> list[Any]:
    """What goes along with the entry: the way is noted, a link counted or a pass used, answers
    sealed, places taken and a hold ended."""
    found = []
    if kind.by != "plain":
        ways = [_new(name, one) for name, one in _WAYS.items()]
        way = select(entry.c.questionnaire_id, entry.c.id, *ways)
        columns = ["questionnaire_id", "entry_id", *_WAYS]
        found.append(insert(entry_ways).from_select(columns, way).cte("way"))
    if kind.by == "pass":
        named = passes.c.id == _new("pass_id", Uuid())
        using = update(passes).where(passes.c.questionnaire_id == _ID, named, _some(ticket))
        found.append(using.values(used=passes.c.used + _ONE).cte("used"))
    if kind.by == "link":
        found.append(_by_link(ticket))
    if kind.sealing:
        row = select(entry.c.questionnaire_id, entry.c.id, _new("sealed", LargeBinary()))
        columns = ["questionnaire_id", "entry_id", "sealed"]
        found.append(insert(restricted_answers).from_select(columns, row).cte("kept"))
    if kind.placed:
        found += _placed(ticket, own)
    if kind.placed or kind.personal:
        person = _new("person", LargeBinary()) if kind.personal else literal(None, LargeBinary())
        row = select(entry.c.questionnaire_id, entry.c.id, person, _new("takes", JSONB()))
        columns = ["questionnaire_id", "entry_id", "person", "takes"]
        found.append(insert(admissions).from_select(columns, row).cte("admission"))
    return found


def _by_link(ticket: Any) -> Any:
    source = select(
        ticket.c.questionnaire_id,
        _new("link_id", Uuid()).label("link_id"),
        ticket.c.stripe,
        _ONE.label("entries"),
        _ARRIVED.label("latest"),
    )
    columns = ["questionnaire_id", "link_id", "stripe", "entries", "latest"]
    adding = insert(link_tallies).from_select(columns, source)
    more = {"entries": link_tallies.c.entries + _ONE, "latest": adding.excluded.latest}
    return adding.on_conflict_do_update(
        index_elements=["questionnaire_id", "link_id", "stripe"], set_=more
    ).cte("by_link")


def _placed(ticket: Any, own: Any) -> list[Any]:
    """Places that were held and are not taken in the end are those of other cells: they are given
    back with the others."""
    wanted = _wanted()
    taken = func.coalesce(
        select(wanted.c.amount).where(wanted.c.cell == places.c.cell).scalar_subquery(), 0
    )
    taking = (
        update(places)
        .where(
            places.c.questionnaire_id == _ID,
            places.c.cell == func.any(_new("cells", ARRAY(String))),
            _some(ticket),
        )
        .values(taken=places.c.taken + taken, held=places.c.held - _own_places(own, places.c.cell))
    )
    ending = delete(held_places).where(
        held_places.c.questionnaire_id == _ID,
        held_places.c.name.in_(select(own.c.name)),
        _some(ticket),
    )
    return [taking.cte("taking"), ending.cte("hold_ended")]


@cache
def _statement(kind: _Kind, queue: Queue) -> Any:
    """The whole of it, with how far it came in its one row."""
    hand_offs = questionnaires.c.links["hand_offs"].label("hand_offs")
    opening = select(questionnaires.c.id, hand_offs).where(_takes()).cte("opening")
    came = _came_by(kind.by, opening) if kind.by in ("link", "pass") else opening
    room, own = came, None
    if kind.placed:
        locked, own = _place_locks(_some(came))
        room = select(_ONE).where(_some(came), ~_no_room(locked, own)).cte("room")
    stripe = once = room
    if kind.personal:
        stripe = _stripe(room)
        once = _once(room, stripe)
    ticket = _ticket(once)
    entry = _entry(ticket)
    named = func.jsonb_build_object(
        literal("questionnaire_id"), entry.c.questionnaire_id, literal("entry_id"), entry.c.id
    )
    done = select(entry.c.number, queue.asking("dispatch_entry", named).label("asked")).cte("done")
    steps = (opening, came, room, stripe, once, ticket)
    reached = sum((cast(_some(one), Integer) for one in dict.fromkeys(steps)), _NONE)
    onward = select(opening.c.hand_offs).scalar_subquery()
    return (
        select(done.c.number, done.c.asked, onward, reached)
        .select_from(select(_ONE.label("n")).subquery("one").outerjoin(done, true()))
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
    known = submission.about or came.contact_id or came.subject_id or came.entry
    return "known" if known else "plain"


def _values(submission: Submission, taking: Taking, begun: datetime, by: By) -> dict[str, Any]:
    own = ("questionnaire_id", *_GIVEN)
    values = {f"new_{name}": getattr(submission, name) for name in own}
    came = submission.came
    if by != "plain":
        values |= {f"new_{name}": value for name, value in vars(came).items() if name != "entry"}
        values["new_about"] = submission.about
        values["new_from_questionnaire"], values["new_from_entry"] = came.entry or (None, None)
    values |= {
        "new_begun": begun,
        "new_signed_in": came.subject_id is not None,
        "new_day": submission.arrived.date().isoformat(),
        "new_gate_revision": taking.gate_revision,
        "new_numbers": f"numbers_{submission.questionnaire_id.hex}",
    }
    if submission.sealed is not None:
        values["new_sealed"] = submission.sealed
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
        amounts = {one.cell: (one.amount, one.most) for one in taking.takes}
        cells = sorted({*amounts, *taking.held})
        values |= {
            "new_cells": cells,
            "new_amounts": [amounts.get(cell, (0, None))[0] for cell in cells],
            "new_mosts": [amounts.get(cell, (0, None))[1] for cell in cells],
            "new_hold": taking.hold,
        }
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
    kind = _Kind(by, sealing, taking.is_placed, taking.person is not None)
    values = _values(submission, taking, begun, by)
    values["new_stripe"] = stripe
    row = (await conn.execute(_statement(kind, queue), values)).one()
    number, _, hand_offs, reached = row
    if number is not None:
        return Outcome("stored", number, tuple(hand_offs or ()))
    return Outcome(_stage(kind, reached))
