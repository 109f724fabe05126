"""Runs: what dispatch did with an entry, one line for each effect, each once."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKeyConstraint,
    Integer,
    String,
    Table,
    UniqueConstraint,
    func,
    insert,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.dispatch import Run, RunState
from jotgate.ports.queue import Queue
from jotgate.store.base import Connection, metadata, time_column, uuid_column

runs = Table(
    "runs",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id"),
    uuid_column("entry_id"),
    Column("rule", String, nullable=False),
    Column("position", Integer, nullable=False),
    Column("kind", String, nullable=False),
    Column("state", String, nullable=False),
    Column("detail", JSONB, nullable=False),
    Column("tries", Integer, nullable=False),
    Column("last_error", String),
    time_column("changed"),
    UniqueConstraint("questionnaire_id", "entry_id", "rule", "position"),
    ForeignKeyConstraint(
        ["questionnaire_id", "entry_id"],
        ["entries.questionnaire_id", "entries.id"],
        ondelete="CASCADE",
    ),
)


_RUN = list(runs.c)


async def any_of(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> list[Run]:
    """The runs of one entry, in the order of their rules and acts."""
    query = (
        select(*_RUN)
        .where(runs.c.questionnaire_id == questionnaire_id, runs.c.entry_id == entry_id)
        .order_by(runs.c.changed, runs.c.rule, runs.c.position)
    )
    return [Run(*row) for row in await conn.execute(query)]


async def counts(conn: Connection, questionnaire_id: UUID) -> dict[str, int]:
    """Rule key -> how many entries it has acted on."""
    query = (
        select(runs.c.rule, func.count(runs.c.entry_id.distinct()))
        .where(runs.c.questionnaire_id == questionnaire_id)
        .group_by(runs.c.rule)
    )
    return {row[0]: row[1] for row in await conn.execute(query)}


async def add(conn: Connection, run: Run) -> None:
    await conn.execute(insert(runs).values({c.name: getattr(run, c.name) for c in runs.c}))


async def ask_to_send(conn: Connection, id: UUID, queue: Queue) -> None:
    """Ask for a waiting notice to be sent, once this transaction is committed."""
    named = func.jsonb_build_object(literal("run_id"), literal(str(id)))
    await conn.execute(select(queue.asking("send_notice", named)))


async def take(conn: Connection, id: UUID) -> Run | None:
    """The run, locked until the transaction ends so that two workers never do it at once."""
    query = select(*_RUN).where(runs.c.id == id).with_for_update()
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Run(*row)


async def mark(
    conn: Connection, id: UUID, state: RunState, error: str | None, now: datetime
) -> None:
    """Note the outcome of a try."""
    await conn.execute(
        update(runs)
        .where(runs.c.id == id)
        .values(state=state, last_error=error, changed=now, tries=runs.c.tries + 1)
    )
