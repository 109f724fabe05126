"""The trail: who did and who saw what."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    Column,
    ForeignKey,
    Identity,
    Index,
    String,
    Table,
    insert,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.trail import Action, TrailEntry
from jotgate.store.accounts import accounts
from jotgate.store.base import Connection, metadata, time_column, uuid_column

trail = Table(
    "trail",
    metadata,
    Column("id", BigInteger, Identity(), primary_key=True),
    time_column("at"),
    uuid_column("account_id", ForeignKey("accounts.id")),
    Column("action", String, nullable=False),
    uuid_column("questionnaire_id", nullable=True),
    uuid_column("entry_id", nullable=True),
    Column("detail", JSONB, nullable=False),
    Index(None, "at"),
)


async def add(
    conn: Connection,
    at: datetime,
    account_id: UUID,
    action: Action,
    questionnaire_id: UUID | None = None,
    entry_id: UUID | None = None,
    **detail: Any,
) -> None:
    await conn.execute(
        insert(trail).values(
            at=at,
            account_id=account_id,
            action=action,
            questionnaire_id=questionnaire_id,
            entry_id=entry_id,
            detail=detail,
        )
    )


async def newest(conn: Connection, before: int | None, limit: int) -> list[TrailEntry]:
    """Marks from the newest back, those with an id under `before` where it is given."""
    t = trail.c
    query = select(
        t.id, t.at, accounts.c.name, t.action, t.questionnaire_id, t.entry_id, t.detail
    ).join(accounts, accounts.c.id == t.account_id)
    if before is not None:
        query = query.where(t.id < before)
    query = query.order_by(t.id.desc()).limit(limit)
    return [TrailEntry(*row) for row in await conn.execute(query)]
