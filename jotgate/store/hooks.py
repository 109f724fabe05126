"""Other systems that are called: their addresses, and the secrets that calls are signed with."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    delete,
    false,
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
    Column("cleared", Boolean, nullable=False, server_default=false()),
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
    query = select(h.id, h.name, h.address, h.cleared).where(h.questionnaire_id == questionnaire_id)
    return {row.id: Hook(*row) for row in await conn.execute(query.order_by(h.name))}


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


@dataclass(frozen=True)
class Called:
    """What is called, and the sealed `secrets` that are good now, the newest first."""

    hook: Hook
    secrets: Sequence[bytes]


async def find(conn: Connection, id: UUID, now: datetime) -> Called | None:
    h = hooks.c
    named = (h.id, h.name, h.address, h.cleared)
    query = select(*named, h.sealed, h.before, h.before_until).where(h.id == id)
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    lasting = row.before is not None and row.before_until > now
    return Called(Hook(*row[:4]), [row.sealed, *([row.before] if lasting else [])])


async def remove(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    h = hooks.c
    query = delete(hooks).where(h.questionnaire_id == questionnaire_id, h.id == id)
    return (await conn.execute(query)).rowcount > 0
