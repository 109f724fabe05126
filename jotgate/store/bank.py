"""The question bank: questions kept for reuse, each with its revision."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter
from sqlalchemy import Column, Integer, Table, delete, insert, select, update
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.items import AnyQuestion, Question
from jotgate.core.records.questionnaires import Banked
from jotgate.store.base import Connection, dumped, metadata, time_column, uuid_column

bank = Table(
    "bank",
    metadata,
    uuid_column("id", primary_key=True),
    Column("item", JSONB, nullable=False),
    Column("revision", Integer, nullable=False),
    time_column("changed"),
)

_QUESTION: TypeAdapter[Question] = TypeAdapter(AnyQuestion)


def _banked(row: Sequence[Any]) -> Banked:
    id, item, revision, changed = row
    return Banked(id, revision, _QUESTION.validate_python(item), changed)


async def every(conn: Connection) -> list[Banked]:
    """All of it, what was changed last first."""
    query = select(bank).order_by(bank.c.changed.desc(), bank.c.id)
    return [_banked(tuple(row)) for row in await conn.execute(query)]


async def add(conn: Connection, id: UUID, item: Question, now: datetime) -> Banked:
    await conn.execute(insert(bank).values(id=id, item=dumped(item), revision=1, changed=now))
    return Banked(id, 1, item, now)


async def change(
    conn: Connection, id: UUID, item: Question, revision: int, now: datetime
) -> Banked | None:
    """Another wording over `revision`; None where it is another by now, or gone."""
    query = (
        update(bank)
        .where(bank.c.id == id, bank.c.revision == revision)
        .values(item=dumped(item), revision=bank.c.revision + 1, changed=now)
        .returning(bank)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _banked(tuple(row))


async def find(conn: Connection, id: UUID) -> Banked | None:
    row = (await conn.execute(select(bank).where(bank.c.id == id))).one_or_none()
    return None if row is None else _banked(tuple(row))


async def remove(conn: Connection, id: UUID) -> bool:
    """Whether it was there."""
    query = delete(bank).where(bank.c.id == id).returning(bank.c.id)
    return (await conn.execute(query)).one_or_none() is not None
