"""Other systems that are called: their addresses, and the secrets that calls are signed with."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    delete,
    insert,
    select,
    update,
)

from jotgate.core.dispatch.known import Hook
from jotgate.store.base import Connection, maybe_time_column, metadata, time_column, uuid_column

hooks = Table(
    "hooks",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE")),
    Column("name", String, nullable=False),
    Column("address", String, nullable=False),
    Column("sealed", LargeBinary, nullable=False),
    Column("before", LargeBinary),
    maybe_time_column("before_until"),
    time_column("made"),
    UniqueConstraint("questionnaire_id", "name"),
)
"""`sealed` is the secret, `before` the one before it, which is signed with too until a moment."""


async def every(conn: Connection, questionnaire_id: UUID) -> dict[UUID, Hook]:
    """By id, in the order of their names."""
    h = hooks.c
    query = select(h.id, h.name, h.address).where(h.questionnaire_id == questionnaire_id)
    found = await conn.execute(query.order_by(h.name))
    return {row.id: Hook(row.id, row.name, row.address) for row in found}


async def add(
    conn: Connection, questionnaire_id: UUID, hook: Hook, sealed: bytes, made: datetime
) -> None:
    values = {**vars(hook), "questionnaire_id": questionnaire_id, "sealed": sealed, "made": made}
    await conn.execute(insert(hooks).values(**values))


async def put(conn: Connection, questionnaire_id: UUID, id: UUID, **values: Any) -> bool:
    """Change its name, address or secrets; whether it is there."""
    h = hooks.c
    query = update(hooks).where(h.questionnaire_id == questionnaire_id, h.id == id)
    return (await conn.execute(query.values(**values))).rowcount > 0


async def sealed(conn: Connection, id: UUID, now: datetime) -> tuple[str, Sequence[bytes]] | None:
    """The address, and the secrets that are good now, the newest first."""
    h = hooks.c
    query = select(h.address, h.sealed, h.before, h.before_until).where(h.id == id)
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    lasting = row.before is not None and row.before_until > now
    return row.address, [row.sealed, *([row.before] if lasting else [])]


async def remove(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    h = hooks.c
    query = delete(hooks).where(h.questionnaire_id == questionnaire_id, h.id == id)
    return (await conn.execute(query)).rowcount > 0
