"""Indexes that are made once somebody sorts by a column of many entries, and dropped again."""

from collections.abc import Collection, Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    String,
    Table,
    column,
    delete,
    func,
    literal,
    select,
    table,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.ports.queue import Queue
from jotgate.store.base import Connection, maybe_time_column, metadata, time_column, uuid_column
from jotgate.store.entry_table.sorting import IndexSpec

entry_row_indexes = Table(
    "entry_row_indexes",
    metadata,
    Column("name", String, primary_key=True),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), index=True
    ),
    Column("spec", JSONB, nullable=False),
    time_column("used"),
    maybe_time_column("made"),
)
_I = entry_row_indexes.c

NOTED = timedelta(hours=6)
"""How exact it is known when an index was used last."""


async def want(conn: Connection, specs: Collection[IndexSpec], now: datetime, queue: Queue) -> bool:
    """Ask for these indexes, and note that they are used; whether one of them is being made."""
    by_name = {one.name: one for one in specs}
    if not by_name:
        return False
    query = select(_I.name, _I.used, _I.made).where(_I.name.in_(by_name))
    known = {row.name: row for row in await conn.execute(query)}
    old = [name for name, row in known.items() if row.used < now - NOTED]
    if old:
        await conn.execute(update(entry_row_indexes).where(_I.name.in_(old)).values(used=now))
    missing = [one for name, one in by_name.items() if name not in known]
    for one in missing:
        row = {"name": one.name, "questionnaire_id": one.questionnaire_id}
        adding = upsert(entry_row_indexes).values(**row, spec=one.as_json, used=now)
        added = await conn.execute(adding.on_conflict_do_nothing().returning(_I.name))
        if added.first() is not None:
            named = func.jsonb_build_object(literal("name"), literal(one.name))
            await conn.execute(select(queue.asking("index_entries", named)))
    return bool(missing) or any(row.made is None for row in known.values())


async def make(conn: Connection, name: str, now: datetime) -> None:
    """Make one that was asked for; one that is not wanted any more is left."""
    query = select(_I.questionnaire_id, _I.spec).where(_I.name == name)
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return
    spec = literal(row.spec, JSONB)
    await conn.execute(select(func.index_entry_rows(name, row.questionnaire_id, spec)))
    await conn.execute(update(entry_row_indexes).where(_I.name == name).values(made=now))


async def too_many(conn: Connection, questionnaire_id: UUID, most: int) -> Sequence[str]:
    """Those of a questionnaire over `most`, of which each was used longer ago than the others."""
    query = select(_I.name).where(_I.questionnaire_id == questionnaire_id)
    return list((await conn.execute(query.order_by(_I.used.desc()).offset(most))).scalars())


async def unused(conn: Connection, since: datetime) -> Sequence[str]:
    """Those that nobody has used since, and those that no questionnaire has any more."""
    old = list((await conn.execute(select(_I.name).where(_I.used < since))).scalars())
    there: Any = select(column("indexname")).select_from(table("pg_indexes"))
    there = there.where(column("tablename") == "entry_rows", column("indexname").like("er\\_%"))
    left = there.where(column("indexname").not_in(select(_I.name)))
    return [*old, *(await conn.execute(left)).scalars()]


async def drop(conn: Connection, name: str) -> None:
    await conn.execute(select(func.drop_entry_rows_index(name)))
    await conn.execute(delete(entry_row_indexes).where(_I.name == name))


async def questionnaire_of(conn: Connection, name: str) -> UUID | None:
    found: UUID | None = (
        await conn.execute(select(_I.questionnaire_id).where(_I.name == name))
    ).scalar_one_or_none()
    return found
