"""What has to hold for an entry to be stored, as parts of the statement that stores it: the
edition, what the visitor came by, places, the person, and the gate."""

from functools import cache
from typing import Any, Literal

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
    exists,
    func,
    literal,
    literal_column,
    or_,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB, insert

from jotgate.store.entries.tallies import tallies
from jotgate.store.gate.admissions import persons
from jotgate.store.gate.places import held_places, places
from jotgate.store.links.named_links import named_links
from jotgate.store.links.passes import passes, usable
from jotgate.store.questionnaires import editions, questionnaires

By = Literal["plain", "known", "link", "pass"]
"""Whether anything is known of its way: a named link is counted with the entry, a pass used."""

MOMENT = DateTime(timezone=True)

ONE, NONE = literal_column("1", Integer()), literal_column("0", Integer())
"""Numbers that stand in the statement, and are not sent along each time."""


def new(name: str, kind: Any) -> Any:
    """Parameters are called `new_...`, so that an update does not take them for its own."""
    return bindparam(f"new_{name}", type_=kind)


ID, ARRIVED = new("questionnaire_id", Uuid()), new("arrived", MOMENT)


def some(cte: Any) -> ColumnElement[bool]:
    return exists(select(ONE).select_from(cte))


def takes() -> ColumnElement[bool]:
    """Whether the edition that was answered is taken, and whoever answered signed in where that is
    needed. That the gate is as it was known is asked with the stripe."""
    edition = new("edition", Integer())
    needed = questionnaires.c.links[("sign_in", "needed")].astext
    later = editions.alias("later")
    begun_in_time = exists().where(
        later.c.questionnaire_id == questionnaires.c.id,
        later.c.number == edition + ONE,
        later.c.published >= new("begun", MOMENT),
    )
    return and_(
        questionnaires.c.id == ID,
        or_(needed.is_distinct_from(literal("true")), new("signed_in", Boolean())),
        or_(questionnaires.c.edition == edition, begun_in_time),
    )


def came_by(by: By, opening: Any) -> Any:
    """What the visitor came by, where it lets them in: a named link that was not shut when it could
    have been begun, a pass that is good for one more, which is locked."""
    if by == "link":
        shut = named_links.c.shut
        known = or_(shut.is_(None), shut > new("begun", MOMENT))
        named = named_links.c.id == new("link_id", Uuid())
        query = select(named_links.c.id).where(named_links.c.questionnaire_id == ID, named, known)
        return query.where(some(opening)).cte("came_by")
    named = passes.c.id == new("pass_id", Uuid())
    query = select(passes.c.id).where(passes.c.questionnaire_id == ID, named, usable(ARRIVED))
    return query.where(some(opening)).with_for_update(of=passes).cte("came_by")


@cache
def wanted_places() -> Any:
    """The places that the entry takes: cell, amount, and how many there are. Those that are held
    for it and not taken are there with no amount. They come as JSON, which is written and read
    quicker than arrays are."""
    columns = column("cell", String), column("amount", BigInteger), column("most", BigInteger)
    given = func.jsonb_to_recordset(new("wanted", JSONB()))
    rows = given.table_valued(*columns, name="given").render_derived(with_types=True)
    return select(rows.c.cell, rows.c.amount, rows.c.most).cte("wanted")


def is_wanted(cell: Any) -> ColumnElement[bool]:
    """Whether a cell is among them, asked so that its row is found by its key."""
    cells = func.array(select(wanted_places().c.cell).scalar_subquery())
    is_one: ColumnElement[bool] = cell == func.any(cells)
    return is_one


def place_locks(before: ColumnElement[bool]) -> Any:
    """The rows of places, locked in their order."""
    p = places.c
    return (
        select(p.cell, p.taken, p.held, p.waiting)
        .where(p.questionnaire_id == ID, is_wanted(p.cell), before)
        .order_by(p.cell)
        .with_for_update()
        .cte("locked")
    )


def own_hold(locked: Any) -> Any:
    """What is held for this visitor, locked once places are; nothing where it is of other cells
    than those."""
    h = held_places.c
    all_locked = select(func.count()).select_from(locked).scalar_subquery() >= NONE
    kept = func.jsonb_object_keys(h.takes).column_valued("kept")
    cells = select(wanted_places().c.cell)
    elsewhere = exists(select(ONE).where(kept.not_in(cells)))
    named = h.name == new("hold", LargeBinary())
    query = select(h.name, h.takes).where(h.questionnaire_id == ID, named, all_locked, ~elsewhere)
    return query.with_for_update().cte("own")


def own_places(own: Any, cell: Any) -> Any:
    if own is None:
        return NONE
    held = cast(own.c.takes.op("->>")(cell), BigInteger)
    return func.coalesce(select(held).scalar_subquery(), NONE)


def no_room(locked: Any, own: Any) -> ColumnElement[bool]:
    """Whether some cell that is limited has no room: what is free where people wait is theirs."""
    wanted = wanted_places()
    w, now, mine = wanted.c, locked.c, own_places(own, wanted.c.cell)
    fits = or_(
        w.most.is_(None),
        w.amount <= mine,
        and_(now.waiting == NONE, now.taken + now.held - mine + w.amount <= w.most),
    )
    query = select(ONE).select_from(wanted.outerjoin(locked, now.cell == w.cell))
    return exists(query.where(or_(now.cell.is_(None), ~fits)))


def once_more(room: Any, stripe: Any) -> Any:
    """Note that the person sends one more entry, where they may."""
    own = select(
        ID.label("questionnaire_id"),
        new("person", LargeBinary()).label("person"),
        func.array_append(cast(literal("{}"), ARRAY(MOMENT)), ARRIVED).label("times"),
    ).where(some(room), some(stripe))
    adding = insert(persons).from_select(["questionnaire_id", "person", "times"], own)
    times = func.unnest(persons.c.times).column_valued("before")
    lately = select(func.count()).where(times > new("person_since", MOMENT)).scalar_subquery()
    paused = select(func.count()).where(times > new("person_paused", MOMENT)).scalar_subquery()
    return (
        adding.on_conflict_do_update(
            index_elements=["questionnaire_id", "person"],
            set_={"times": func.array_append(persons.c.times, ARRIVED)},
            where=and_(lately < new("person_most", Integer()), paused == NONE),
        )
        .returning(persons.c.person)
        .cte("once")
    )


def stripe_is(stripes: Any) -> ColumnElement[bool]:
    """The stripe that was chosen, where the gate is at the revision that it is known by."""
    return and_(
        stripes.c.questionnaire_id == ID,
        stripes.c.stripe == new("stripe", Integer()),
        stripes.c.gate_revision == new("gate_revision", Integer()),
    )


def locked_stripe(room: Any) -> Any:
    """It is locked first where the person is to be noted before the entry is counted."""
    query = select(tallies.c.stripe).where(stripe_is(tallies), some(room))
    return query.with_for_update().cte("stripe")
