"""Rounds, which portions of them were released, and which steps have gone."""

from collections.abc import Sequence
from datetime import datetime
from functools import lru_cache
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, Text, cast, delete, func, insert, select, update

from jotgate.core.records.rounds import KeptRound, Portion, RoundState, StepRun
from jotgate.core.rounds.round import Round
from jotgate.store.base import Connection, dumped
from jotgate.store.rounds.tables import people, portions, rounds, runs

r = rounds.c
_ROUND = [
    r.id,
    r.questionnaire_id,
    cast(r.document, Text),
    r.revision,
    r.state,
    r.made,
    r.by,
    r.drawn,
    r.drawn_from,
]


_read = lru_cache(maxsize=64)(Round.model_validate_json)
"""Each letter of a round asks for it; what is read is never changed."""


def _round(row: Sequence[Any]) -> KeptRound:
    values = list(row)
    values[2] = _read(values[2])
    return KeptRound(*values)


def _this(questionnaire_id: UUID, id: UUID) -> ColumnElement[bool]:
    return (r.questionnaire_id == questionnaire_id) & (r.id == id)


async def add(conn: Connection, one: KeptRound) -> None:
    values = {name: value for name, value in vars(one).items() if name != "round"}
    await conn.execute(insert(rounds).values(**values, document=dumped(one.round)))


async def every(conn: Connection, questionnaire_id: UUID) -> list[KeptRound]:
    """The newest first."""
    query = select(*_ROUND).where(r.questionnaire_id == questionnaire_id)
    return [_round(row) for row in await conn.execute(query.order_by(r.made.desc(), r.id))]


async def find(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> KeptRound | None:
    query = select(*_ROUND).where(_this(questionnaire_id, id))
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else _round(row)


async def put(conn: Connection, one: KeptRound) -> None:
    """Change one that is locked."""
    query = update(rounds).where(_this(one.questionnaire_id, one.id))
    await conn.execute(query.values(document=dumped(one.round), revision=r.revision + 1))


async def put_drawn(conn: Connection, one: KeptRound) -> None:
    """Keep that people were drawn."""
    values = {name: getattr(one, name) for name in ("state", "drawn", "drawn_from")}
    values["document"] = dumped(one.round)
    query = update(rounds).where(_this(one.questionnaire_id, one.id))
    await conn.execute(query.values(**values, revision=r.revision + 1))


async def put_state(conn: Connection, one: KeptRound, state: RoundState) -> None:
    await conn.execute(
        update(rounds).where(_this(one.questionnaire_id, one.id)).values(state=state)
    )


async def remove(conn: Connection, one: KeptRound) -> None:
    await conn.execute(delete(rounds).where(_this(one.questionnaire_id, one.id)))


async def look_at(conn: Connection, one: KeptRound, at: datetime | None) -> None:
    """When the worker looks at it next; None where nothing of it is to go."""
    query = update(rounds).where(_this(one.questionnaire_id, one.id))
    await conn.execute(query.values(next_at=at))


async def due(conn: Connection, now: datetime) -> KeptRound | None:
    """One that is to be looked at by now, locked; none that another worker is at."""
    query = (
        select(*_ROUND)
        .where(r.state == "running", r.next_at <= now)
        .order_by(r.next_at)
        .limit(1)
        .with_for_update(skip_locked=True)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _round(row)


async def released(conn: Connection, one: KeptRound) -> dict[int, datetime]:
    """When each portion was released."""
    p = portions.c
    query = (
        select(p.number, p.released)
        .where(p.questionnaire_id == one.questionnaire_id, p.round_id == one.id)
        .order_by(p.number)
    )
    return {row.number: row.released for row in await conn.execute(query)}


async def release(conn: Connection, one: KeptRound, portion: Portion) -> None:
    """Raises AlreadyThere where it was released."""
    key = {"questionnaire_id": one.questionnaire_id, "round_id": one.id}
    await conn.execute(insert(portions).values(**key, **vars(portion)))


async def sizes(conn: Connection, one: KeptRound) -> dict[int, int]:
    """How many people each portion has, released or not."""
    p = people.c
    query = (
        select(p.portion, func.count())
        .where(p.questionnaire_id == one.questionnaire_id, p.round_id == one.id)
        .group_by(p.portion)
        .order_by(p.portion)
    )
    return {number: count for number, count in await conn.execute(query)}  # noqa: C416


async def gone(conn: Connection, one: KeptRound) -> list[StepRun]:
    """The steps that went, in the order that they did."""
    c = runs.c
    query = (
        select(c.portion, c.step, c.began, c.asked, c.mailing_id)
        .where(c.questionnaire_id == one.questionnaire_id, c.round_id == one.id)
        .order_by(c.began, c.portion)
    )
    return [StepRun(*row) for row in await conn.execute(query)]


async def add_run(conn: Connection, one: KeptRound, run: StepRun) -> None:
    """Raises AlreadyThere where the step went to this portion."""
    key = {"questionnaire_id": one.questionnaire_id, "round_id": one.id}
    await conn.execute(insert(runs).values(**key, **vars(run)))
