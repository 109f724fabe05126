"""What is known of everybody in a round, as SQL: counted by what is alike, and found by it."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ColumnElement,
    DateTime,
    FromClause,
    Integer,
    String,
    Uuid,
    bindparam,
    case,
    column,
    false,
    func,
    literal,
    or_,
    select,
    tuple_,
    values,
)
from sqlalchemy.dialects.postgresql import ARRAY

from jotgate.core.contacts.opting import keys
from jotgate.core.records.rounds import KeptRound
from jotgate.core.rounds.standing import Facts
from jotgate.store.base import Connection, joins_many
from jotgate.store.contacts.contacts import contacts
from jotgate.store.contacts.opt_outs import told_to
from jotgate.store.entries.entry_tables import entries, entry_ways
from jotgate.store.links.passes import passes
from jotgate.store.rounds.tables import people

p, c = people.c, contacts.c

Moments = Mapping[int, datetime]
"""As of when each portion is looked at; portions that are not named are not looked at."""


@dataclass(frozen=True)
class Known:
    """Everybody in a round, with what is known of them as of some moments: `rows` to select from,
    `facts` in the order of `Facts`."""

    rows: FromClause
    facts: tuple[ColumnElement[Any], ...]


@dataclass(frozen=True)
class _Of:
    """Whose facts are asked for: values, or parameters of a statement that is put together once."""

    questionnaire_id: Any
    round_id: Any
    since: Any
    postcode: Any
    scopes: Sequence[Any]
    contact_ids: Any = None


def known(one: KeptRound, at: Moments, contact_id: UUID | None = None) -> Known:
    """An answer counts since the draw, by the contact, whichever way it came; of an entry that was
    deleted, that its pass was used."""
    named = column("portion", Integer), column("at", DateTime(timezone=True))
    moments = values(*named, name="as_of").data(list(at.items()))
    postcode = one.round.post.postcode
    scopes = keys(one.questionnaire_id, one.round.kind)
    since = one.drawn or one.made
    ids = None if contact_id is None else literal([contact_id], ARRAY(Uuid))
    of = _Of(one.questionnaire_id, one.id, since, postcode, scopes, ids)
    joined = people.join(moments, moments.c.portion == p.portion)
    return _known(of, joined, moments.c.at)


def _known(of: _Of, joined: FromClause, when: ColumnElement[Any]) -> Known:
    first = _first_entries(of)
    whole = (
        joined.outerjoin(contacts, c.id == p.contact_id)
        .outerjoin(
            passes,
            (passes.c.questionnaire_id == p.questionnaire_id) & (passes.c.id == p.pass_id),
        )
        .outerjoin(first, first.c.contact_id == p.contact_id)
    )
    wanted = [p.questionnaire_id == of.questionnaire_id, p.round_id == of.round_id]
    if of.contact_ids is not None:
        wanted.append(p.contact_id == func.any(of.contact_ids))
    answered = case(
        (first.c.arrived.is_not(None), first.c.arrived <= when),
        else_=func.coalesce(passes.c.used > 0, False),
    )
    facts = (
        answered,
        _by(passes.c.started, when),
        or_(_by(c.opted_out, when), _by(told_to(c.email, of.scopes), when)),
        _by(c.bounced, when),
        case((p.outcome_at <= when, p.outcome), else_=""),
        _by(p.written, when),
        _by(p.called, when),
        case((p.code_at <= when, p.code), else_=""),
        c.email.is_not(None),
        func.coalesce(c.phone, "") != "",
        func.coalesce(c.fields.has_key(of.postcode), False),
        c.id.is_(None),
    )
    told = tuple(
        fact.label(f"fact_{label}") for fact, label in zip(facts, Facts._fields, strict=True)
    )
    inner = (
        select(
            people,
            c.name.label("contact_name"),
            c.email.label("contact_email"),
            func.coalesce(c.fields[of.postcode].astext, "").label("postcode"),
            *told,
        )
        .select_from(whole)
        .where(*wanted)
        .subquery(name="asked")
    )
    return Known(inner, tuple(inner.c[f"fact_{label}"] for label in Facts._fields))


def _by(moment: ColumnElement[Any], when: ColumnElement[Any]) -> ColumnElement[Any]:
    """That something happened by then."""
    return func.coalesce(moment <= when, False)


def _first_entries(of: _Of) -> FromClause:
    """When each contact first answered, since the draw."""
    w, e = entry_ways.c, entries.c
    every = of.contact_ids is None
    whose = w.contact_id.is_not(None) if every else w.contact_id == func.any(of.contact_ids)
    query = (
        select(w.contact_id, func.min(e.arrived).label("arrived"))
        .join(entries, (e.questionnaire_id == w.questionnaire_id) & (e.id == w.entry_id))
        .where(w.questionnaire_id == of.questionnaire_id, whose, e.arrived >= of.since)
        .group_by(w.contact_id)
    )
    return query.subquery(name="first_entries")


async def counted(
    conn: Connection, found: Known, by: Sequence[str] = ("stratum",)
) -> list[tuple[Facts, tuple[str, ...], int]]:
    """How many there are of each combination of facts, and of the columns `by`."""
    columns = [found.rows.c[name] for name in by]
    query = select(*found.facts, *columns, func.count()).group_by(*found.facts, *columns)
    many = len(Facts._fields)
    async with joins_many(conn):
        rows = (await conn.execute(query)).all()
    return [(Facts(*row[:many]), tuple(row[many:-1]), row[-1]) for row in rows]


def among(found: Known, wanted: Collection[Facts]) -> ColumnElement[bool]:
    """That somebody's facts are one of these combinations."""
    return tuple_(*found.facts).in_([tuple(one) for one in wanted]) if wanted else false()


_SOME = _known(
    _Of(
        bindparam("of_questionnaire", type_=Uuid()),
        bindparam("of_round", type_=Uuid()),
        bindparam("of_since", type_=DateTime(timezone=True)),
        bindparam("of_postcode", type_=String()),
        [bindparam(name, type_=String()) for name in ("of_scope", "of_other_scope")],
        bindparam("of_contacts", type_=ARRAY(Uuid)),
    ),
    people,
    bindparam("of_now", type_=DateTime(timezone=True)),
)
_OF_SOME = select(_SOME.rows.c.contact_id, *_SOME.facts)
"""Put together once: letters ask it before they go."""


async def facts_of(
    conn: Connection, one: KeptRound, contact_ids: Collection[UUID], now: datetime
) -> dict[UUID, Facts]:
    """What is known now of those of these contacts who are in the round."""
    scopes = keys(one.questionnaire_id, one.round.kind)
    given = {
        "of_questionnaire": one.questionnaire_id,
        "of_round": one.id,
        "of_since": one.drawn or one.made,
        "of_postcode": one.round.post.postcode,
        "of_scope": scopes[0],
        "of_other_scope": scopes[-1],
        "of_contacts": list(contact_ids),
        "of_now": now,
    }
    found = await conn.execute(_OF_SOME, given)
    return {row.contact_id: Facts(*row[1:]) for row in found}
