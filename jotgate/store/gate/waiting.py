"""The waiting lists of questionnaires, in the order in which people joined."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    Column,
    Identity,
    Index,
    LargeBinary,
    String,
    Table,
    exists,
    func,
    insert,
    select,
    text,
    update,
)

from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)
from jotgate.store.gate.places import places
from jotgate.store.links.passes import passes

WaitingState = Literal["waiting", "offered", "answered", "gone", "left"]
"""Waits; was written to; took the place; did not take it in time; was taken off the list."""

waiting = Table(
    "waiting",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("number", BigInteger, Identity(always=False), nullable=False),
    Column("email", String, nullable=False),
    Column("language", String, nullable=False),
    Column("state", String, nullable=False),
    time_column("joined"),
    uuid_column("pass_id", nullable=True),
    maybe_time_column("until"),
    Column("secret_hash", LargeBinary),
    Index(None, "questionnaire_id", "state", "number"),
    Index(None, "questionnaire_id", "secret_hash"),
    Index(
        "uq_waiting_one_of_each",
        "questionnaire_id",
        "email",
        unique=True,
        postgresql_where=text("state in ('waiting', 'offered')"),
    ),
)
"""`number` is their order; `pass_id` is the pass that holds a place for them `until` then. By the
secret, of which the hash is kept, the browser in which they joined last is known again."""


@dataclass(frozen=True)
class Waiting:
    id: UUID
    number: int
    email: str
    language: str
    state: WaitingState
    joined: datetime
    until: datetime | None


_ONE: list[Any] = [waiting.c[name] for name in Waiting.__annotations__]


async def add(
    conn: Connection, questionnaire_id: UUID, id: UUID, email: str, language: str, now: datetime
) -> int:
    """Put somebody at the end; their number. Raises AlreadyThere where they wait already."""
    query = insert(waiting).values(
        questionnaire_id=questionnaire_id,
        id=id,
        email=email,
        language=language,
        state="waiting",
        joined=now,
    )
    number: int = (await conn.execute(query.returning(waiting.c.number))).scalar_one()
    return number


async def know(conn: Connection, questionnaire_id: UUID, email: str, secret_hash: bytes) -> None:
    """Somebody who waits is known by this secret from now on."""
    w = waiting.c
    query = update(waiting).where(
        w.questionnaire_id == questionnaire_id, w.email == email, w.state == "waiting"
    )
    await conn.execute(query.values(secret_hash=secret_hash))


async def place_of(conn: Connection, questionnaire_id: UUID, secret_hash: bytes) -> int | None:
    """The place on the list, from 1, of whoever is known by a secret and waits."""
    w = waiting.c
    own = (
        select(w.number)
        .where(
            w.questionnaire_id == questionnaire_id,
            w.secret_hash == secret_hash,
            w.state == "waiting",
        )
        .order_by(w.number.desc())
        .limit(1)
        .scalar_subquery()
    )
    query = select(func.count()).where(
        w.questionnaire_id == questionnaire_id, w.state == "waiting", w.number <= own
    )
    return (await conn.execute(query)).scalar_one() or None


async def next_of(conn: Connection, questionnaire_id: UUID) -> Waiting | None:
    """Who is next, locked."""
    w = waiting.c
    query = (
        select(*_ONE)
        .where(w.questionnaire_id == questionnaire_id, w.state == "waiting")
        .order_by(w.number)
        .limit(1)
        .with_for_update()
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Waiting(*row)


async def offer(
    conn: Connection, questionnaire_id: UUID, id: UUID, pass_id: UUID, until: datetime
) -> None:
    await conn.execute(
        update(waiting)
        .where(waiting.c.questionnaire_id == questionnaire_id, waiting.c.id == id)
        .values(state="offered", pass_id=pass_id, until=until)
    )


async def leave(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    """Take off the list somebody who waits; whether they did."""
    w = waiting.c
    query = update(waiting).where(
        w.questionnaire_id == questionnaire_id, w.id == id, w.state == "waiting"
    )
    return (await conn.execute(query.values(state="left"))).rowcount > 0


async def every(conn: Connection, questionnaire_id: UUID, most: int) -> list[Waiting]:
    """Who waits or was written to, in their order."""
    w = waiting.c
    query = (
        select(*_ONE)
        .where(w.questionnaire_id == questionnaire_id, w.state.in_(("waiting", "offered")))
        .order_by(w.number)
        .limit(most)
    )
    return [Waiting(*row) for row in await conn.execute(query)]


async def with_some(conn: Connection) -> list[UUID]:
    """The questionnaires that people wait for."""
    query = select(places.c.questionnaire_id).where(places.c.waiting > 0).distinct()
    return [row.questionnaire_id for row in await conn.execute(query)]


async def settle(conn: Connection, now: datetime) -> None:
    """Note of those who were written to whether they took the place, or did not in time."""
    w, p = waiting.c, passes.c
    used = exists().where(p.questionnaire_id == w.questionnaire_id, p.id == w.pass_id, p.used > 0)
    offered = w.state == "offered"
    await conn.execute(update(waiting).where(offered, used).values(state="answered"))
    await conn.execute(update(waiting).where(offered, w.until <= now).values(state="gone"))
