"""Who is asked in a round: drawn, listed, written to, rung and visited."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Date, Text, cast, exists, func, literal, select, true, update
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.types import Uuid

from jotgate.core.contacts.asked import BEFORE
from jotgate.core.contacts.fields import BUILT_IN
from jotgate.core.records.rounds import Asked, Drawn, KeptRound
from jotgate.core.rounds.standing import Facts
from jotgate.store.base import Connection, copy_into
from jotgate.store.contacts.contacts import contacts
from jotgate.store.contacts.lists import members
from jotgate.store.entries.entry_tables import entries, entry_ways
from jotgate.store.links.passes import passes
from jotgate.store.rounds.facts import Known, among
from jotgate.store.rounds.tables import attempts, people, rounds

p, c = people.c, contacts.c


def of_round(one: KeptRound) -> Any:
    return (p.questionnaire_id == one.questionnaire_id) & (p.round_id == one.id)


def _said(name: str) -> Any:
    """What is known of a contact under a name of a condition, as text."""
    if name in BUILT_IN:
        return func.coalesce(c[name], "")
    if name in BEFORE:
        return cast(_before(name), Text)
    return c.fields[name].astext


def _before(name: str) -> Any:
    w, e = entry_ways.c, entries.c
    if name in ("before.answered", "before.last_answered"):
        told = func.count() if name == "before.answered" else cast(func.max(e.arrived), Date)
        sent = (e.questionnaire_id == w.questionnaire_id) & (e.id == w.entry_id)
        query = select(told).select_from(entry_ways.join(entries, sent))
        return query.where(w.contact_id == c.id).scalar_subquery()
    other = people.alias("other")
    told = func.count() if name == "before.asked" else cast(func.max(rounds.c.drawn), Date)
    there = (rounds.c.questionnaire_id == other.c.questionnaire_id) & (
        rounds.c.id == other.c.round_id
    )
    query = select(told).select_from(other.join(rounds, there))
    return query.where(other.c.contact_id == c.id).scalar_subquery()


Alike = list[tuple[dict[str, str | None], list[UUID]]]
"""What is known of contacts under some names, each combination once with those it is true of."""


async def alike_on_list(conn: Connection, list_id: UUID, names: Sequence[str]) -> Alike:
    """Of those on a list who did not opt out."""
    on_list = contacts.join(members, members.c.contact_id == c.id)
    return await _alike(conn, names, on_list, members.c.list_id == list_id, c.opted_out.is_(None))


async def alike_in_portion(
    conn: Connection, one: KeptRound, portion: int, names: Sequence[str]
) -> Alike:
    """Of those in a portion of a round."""
    asked = contacts.join(people, p.contact_id == c.id)
    return await _alike(conn, names, asked, of_round(one), p.portion == portion)


async def _alike(conn: Connection, names: Sequence[str], joined: Any, *where: Any) -> Alike:
    said = [_said(name) for name in names]
    query = select(*said, func.array_agg(c.id)).select_from(joined).where(*where)
    found = await conn.execute(query.group_by(*said))
    return [(dict(zip(names, row[:-1], strict=True)), row[-1]) for row in found]


async def draw(conn: Connection, one: KeptRound, drawn: Iterable[Drawn]) -> int:
    """Keep who was drawn; how many."""
    columns = ("questionnaire_id", "round_id", "contact_id", "number", "stratum", "zone", "portion")
    types = ("uuid", "uuid", "uuid", "int4", "text", "text", "int4")
    at = (one.questionnaire_id, one.id)

    def as_row(who: Drawn) -> tuple[Any, ...]:
        return (*at, who.contact_id, who.number, who.stratum, who.zone, who.portion)

    return await copy_into(conn, "round_people", columns, types, drawn, as_row)


async def zones_in(
    conn: Connection, one: KeptRound, contact_ids: Collection[UUID]
) -> dict[UUID, str]:
    """The time zone of each of these contacts in a round."""
    query = select(p.contact_id, p.zone).where(of_round(one), p.contact_id.in_(contact_ids))
    return {row.contact_id: row.zone for row in await conn.execute(query)}


async def zones_of(conn: Connection, ids: Collection[UUID], field: str) -> dict[UUID, str]:
    """What a field of these contacts says."""
    wanted = c.id == func.any(literal(list(ids), ARRAY(Uuid)))
    query = select(c.id, _said(field)).where(wanted)
    return {id: text or "" for id, text in await conn.execute(query)}


async def in_portion(conn: Connection, one: KeptRound, portion: int) -> list[UUID]:
    """Those of a portion who are contacts still, in the order of the draw."""
    there = exists().where(c.id == p.contact_id)
    query = select(p.contact_id).where(of_round(one), p.portion == portion, there)
    return list((await conn.execute(query.order_by(p.number))).scalars())


async def give_passes(conn: Connection, one: KeptRound, portion: int, batch_id: UUID) -> int:
    """Note the passes of a batch at those of a portion; how many."""
    query = (
        update(people)
        .where(
            of_round(one),
            p.portion == portion,
            passes.c.questionnaire_id == one.questionnaire_id,
            passes.c.batch_id == batch_id,
            passes.c.contact_id == p.contact_id,
        )
        .values(pass_id=passes.c.id)
    )
    return (await conn.execute(query)).rowcount


def among_only(found: Known, wanted: Collection[Facts], only: Collection[UUID] | None) -> Any:
    """That somebody's facts are one of these, and that they are one of `only` where it is given."""
    fits = among(found, wanted)
    if only is None:
        return fits
    return fits & (found.rows.c.contact_id == func.any(literal(list(only), ARRAY(Uuid))))


def in_stratum(found: Known, wanted: Collection[Facts], stratum: str | None) -> Any:
    """The same for a stratum, or all of them."""
    fits = among(found, wanted)
    return fits if stratum is None else fits & (found.rows.c.stratum == stratum)


def anybody() -> Any:
    return true()


async def count(conn: Connection, found: Known, where: Any) -> int:
    query = select(func.count()).select_from(found.rows).where(where)
    return int((await conn.execute(query)).scalar_one())


async def page(
    conn: Connection,
    found: Known,
    where: Any,
    after: int,
    limit: int,
) -> list[tuple[int, Asked]]:
    """Those who fit, by their number in the draw, behind `after`; each with it."""
    r = found.rows.c
    told = (
        r.contact_id,
        r.contact_name,
        r.contact_email,
        r.stratum,
        r.portion,
        r.on_step,
        r.next_try,
    )
    query = (
        select(r.number, *told, r.code_why, *found.facts)
        .where(where, r.number > after)
        .order_by(r.number)
        .limit(limit)
    )
    return [
        (
            row[0],
            Asked(row[1], row[2] or row[3] or "", row[4], row[5], Facts(*row[9:]), *row[6:9]),
        )
        for row in await conn.execute(query)
    ]


def ids_among(found: Known, where: Any) -> Any:
    """The statement for the contacts who fit."""
    return select(found.rows.c.contact_id).where(where)


async def put_code(
    conn: Connection, one: KeptRound, contact_id: UUID, code: str, why: str, by: UUID, at: datetime
) -> bool:
    """Keep a disposition by hand, none where `code` is empty; whether they are in the round."""
    query = update(people).where(of_round(one), p.contact_id == contact_id)
    values: Mapping[str, Any] = {
        "code": code,
        "code_why": why,
        "code_by": by,
        "code_at": at if code else None,
    }
    return (await conn.execute(query.values(**values))).rowcount > 0


async def find(
    conn: Connection, one: KeptRound, contact_id: UUID, lock: bool = False
) -> Any | None:
    """The row of somebody in a round."""
    query = select(people).where(of_round(one), p.contact_id == contact_id)
    return (await conn.execute(query.with_for_update() if lock else query)).one_or_none()


async def zones(conn: Connection, one: KeptRound) -> list[str]:
    query = select(p.zone).where(of_round(one)).distinct().order_by(p.zone)
    return list((await conn.execute(query)).scalars())


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """Give what rounds know of one contact to another; where both are in a round, the other stays
    there as somebody who is a contact no more, without what was tried."""
    other = people.alias("other")
    both = exists().where(
        other.c.questionnaire_id == p.questionnaire_id,
        other.c.round_id == p.round_id,
        other.c.contact_id == kept,
    )
    await conn.execute(update(people).where(p.contact_id == gone, ~both).values(contact_id=kept))
    await conn.execute(
        update(attempts).where(attempts.c.contact_id == gone).values(contact_id=kept)
    )
