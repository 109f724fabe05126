"""Work with its progress, and the tables that people brought for it."""

from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    Index,
    Integer,
    String,
    Table,
    cast,
    delete,
    false,
    func,
    insert,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.work import UploadedTable, Work, WorkState
from jotgate.ports.queue import Queue
from jotgate.store.base import Connection, metadata, time_column, uuid_column

work = Table(
    "work",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE")),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), nullable=True
    ),
    Column("kind", String, nullable=False),
    Column("state", String, nullable=False),
    Column("done", Integer, nullable=False),
    Column("total", Integer, nullable=False),
    Column("arguments", JSONB, nullable=False),
    Column("result", JSONB, nullable=False),
    time_column("changed"),
    Index(None, "changed"),
)
uploaded_tables = Table(
    "uploaded_tables",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE")),
    Column("name", String, nullable=False),
    Column("columns", JSONB, nullable=False),
    Column("sample", JSONB, nullable=False),
    Column("rows", Integer, nullable=False),
    Column("chunks", Integer, nullable=False),
    time_column("made"),
    Column("kept", Boolean, nullable=False, server_default=false()),
)
_WORK: list[Any] = [work.c[name] for name in Work.__annotations__]
_TABLE: list[Any] = [uploaded_tables.c[name] for name in UploadedTable.__annotations__]


async def ask(conn: Connection, one: Work, queue: Queue) -> None:
    """Keep a piece of work, and ask for it to be done once this transaction is committed."""
    await conn.execute(insert(work).values(**vars(one)))
    named = func.jsonb_build_object(literal("work_id"), literal(str(one.id)))
    await conn.execute(select(queue.asking("do_work", named)))


async def find(conn: Connection, id: UUID, lock: bool = False) -> Work | None:
    query = select(*_WORK).where(work.c.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else Work(*row)


async def advance(conn: Connection, id: UUID, done: int, now: datetime) -> None:
    query = update(work).where(work.c.id == id)
    await conn.execute(query.values(state="running", done=done, changed=now))


async def end(
    conn: Connection, id: UUID, state: WorkState, result: dict[str, Any], now: datetime
) -> None:
    query = update(work).where(work.c.id == id)
    await conn.execute(query.values(state=state, result=result, changed=now))


async def ask_to_stop(conn: Connection, id: UUID) -> None:
    said = work.c.arguments.concat(cast({"stop": True}, JSONB))
    await conn.execute(update(work).where(work.c.id == id).values(arguments=said))


async def forget(conn: Connection, before: datetime) -> None:
    await conn.execute(delete(work).where(work.c.changed < before))


async def add_table(conn: Connection, one: UploadedTable) -> None:
    values = vars(one) | {"columns": list(one.columns), "sample": list(map(list, one.sample))}
    await conn.execute(insert(uploaded_tables).values(**values))


async def table(conn: Connection, id: UUID) -> UploadedTable | None:
    row = (await conn.execute(select(*_TABLE).where(uploaded_tables.c.id == id))).one_or_none()
    if row is None:
        return None
    found = UploadedTable(*row)
    return replace(
        found, columns=tuple(found.columns), sample=tuple(tuple(one) for one in found.sample)
    )


async def keep_table(conn: Connection, id: UUID) -> None:
    await conn.execute(update(uploaded_tables).where(uploaded_tables.c.id == id).values(kept=True))


async def forget_tables(conn: Connection, before: datetime) -> list[UUID]:
    """Forget tables that nothing was made of; their ids."""
    query = delete(uploaded_tables).where(uploaded_tables.c.made < before, ~uploaded_tables.c.kept)
    found = await conn.execute(query.returning(uploaded_tables.c.id))
    return [row.id for row in found]
