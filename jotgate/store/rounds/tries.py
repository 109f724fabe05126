"""The worklist of calls and visits: who is up, who has whom, and what came of it."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import false, func, insert, literal, or_, select, update

from jotgate.core.records.rounds import Attempt, KeptRound
from jotgate.core.rounds.standing import Facts
from jotgate.store.base import Connection
from jotgate.store.rounds.facts import Known, among
from jotgate.store.rounds.people import of_round, p
from jotgate.store.rounds.tables import attempts, people, rounds


async def put_on_worklist(
    conn: Connection, one: KeptRound, ids: Any, step: str, at: Mapping[str, datetime | None]
) -> int:
    """Put those whom a statement finds on the worklist of a step, up at the moment for their time
    zone; how many."""
    count = 0
    for zone, moment in at.items():
        query = update(people).where(of_round(one), p.contact_id.in_(ids), p.zone == zone)
        count += (await conn.execute(query.values(on_step=step, next_try=moment))).rowcount
    return count


def on_steps(found: Known, wanted: Mapping[str, Collection[Facts]]) -> Any:
    """That somebody is on the worklist of a step that still goes to them: `wanted` says which facts
    each goes to."""
    step = found.rows.c.on_step
    return or_(false(), *((step == key) & among(found, some) for key, some in wanted.items()))


async def take(
    conn: Connection,
    one: KeptRound,
    found: Known,
    where: Any,
    by: UUID,
    held: tuple[datetime, datetime],
    another: bool,
) -> UUID | None:
    """Give `by` whoever they have already, else with `another` whoever fits, is up for the longest,
    and nobody has, now and until: two who ask at once get two different ones."""
    now, until = held
    r = found.rows.c
    mine = (p.taken_by == by) & (p.taken_until > now)
    free = (p.taken_until.is_(None) | (p.taken_until <= now)) & another
    fits = select(literal(1)).select_from(found.rows).where(r.contact_id == p.contact_id, where)
    query = (
        select(p.contact_id)
        .where(of_round(one), p.next_try <= now, mine | free, fits.exists())
        .order_by(func.coalesce(mine, False).desc(), p.next_try, p.number)
        .limit(1)
        .with_for_update(of=people, skip_locked=True)
    )
    id: UUID | None = (await conn.execute(query)).scalar_one_or_none()
    if id is not None:
        taken = update(people).where(of_round(one), p.contact_id == id)
        await conn.execute(taken.values(taken_by=by, taken_until=until))
    return id


async def waiting(
    conn: Connection, found: Known, where: Any, now: datetime
) -> tuple[int, datetime | None]:
    """How many who fit are up by now, and when the next one is after that."""
    r = found.rows.c
    up = func.count().filter(r.next_try <= now)
    later = func.min(r.next_try).filter(r.next_try > now)
    query = select(up, later).select_from(found.rows).where(where, r.next_try.is_not(None))
    row = (await conn.execute(query)).one()
    return row[0], row[1]


async def let_go(conn: Connection, one: KeptRound, by: UUID) -> None:
    """Give back whoever somebody has."""
    query = update(people).where(of_round(one), p.taken_by == by)
    await conn.execute(query.values(taken_by=None, taken_until=None))


async def tried(
    conn: Connection, one: KeptRound, attempt: Attempt, next_try: datetime | None
) -> None:
    """Keep what came of a call or a visit."""
    key = {"questionnaire_id": one.questionnaire_id, "round_id": one.id}
    await conn.execute(insert(attempts).values(**key, **vars(attempt)))
    query = update(people).where(of_round(one), p.contact_id == attempt.contact_id)
    await conn.execute(
        query.values(
            called=func.coalesce(p.called, attempt.at),
            outcome=attempt.outcome,
            outcome_at=attempt.at,
            next_try=next_try,
            taken_by=None,
            taken_until=None,
        )
    )


_ATTEMPT = [attempts.c[name] for name in Attempt.__annotations__]


async def attempts_of(conn: Connection, one: KeptRound, ids: Collection[UUID]) -> list[Attempt]:
    """Calls and visits of these, the first ones first."""
    a = attempts.c
    query = (
        select(*_ATTEMPT)
        .where(
            a.questionnaire_id == one.questionnaire_id,
            a.round_id == one.id,
            a.contact_id.in_(ids),
        )
        .order_by(a.at, a.id)
    )
    return [Attempt(*row) for row in await conn.execute(query)]


async def of_contact(conn: Connection, contact_id: UUID) -> list[dict[str, Any]]:
    """What rounds know of a contact: in which they were drawn, how they were coded, and what was
    tried, the first one first."""
    theirs = (p.questionnaire_id == rounds.c.questionnaire_id) & (p.round_id == rounds.c.id)
    query = (
        select(rounds.c.id, rounds.c.document["name"].astext, rounds.c.drawn, p.stratum, p.code)
        .add_columns(p.code_why)
        .join(people, theirs)
        .where(p.contact_id == contact_id)
        .order_by(rounds.c.drawn, rounds.c.id)
    )
    found = []
    for id, name, drawn, stratum, code, why in list(await conn.execute(query)):
        a = attempts.c
        tried = select(a.way, a.at, a.outcome, a.note).where(
            a.round_id == id, a.contact_id == contact_id
        )
        told = [
            {"way": way, "at": at, "outcome": outcome, "note": said}
            for way, at, outcome, said in await conn.execute(tried.order_by(a.at))
        ]
        one = {"round": name, "drawn": drawn, "stratum": stratum, "code": code, "why": why}
        found.append({**one, "tried": told})
    return found


async def forget(conn: Connection, ids: Collection[UUID]) -> None:
    """Keep of contacts who are taken out only what rates count: not what was noted of them."""
    await conn.execute(update(attempts).where(attempts.c.contact_id.in_(ids)).values(note=""))
    await conn.execute(update(people).where(p.contact_id.in_(ids)).values(code_why=""))
