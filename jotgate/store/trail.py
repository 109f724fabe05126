"""The trail: who did and who saw what."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
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
from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.store.accounts import accounts
from jotgate.store.base import metadata, time_column, uuid_column

Action = Literal[
    "signed_in",
    "created",
    "published",
    "gate_changed",
    "dispatch_changed",
    "register_created",
    "restricted_seen",
    "set_free",
]

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


@dataclass(frozen=True)
class Mark:
    """One line of the trail. `detail` holds names and keys, never answers."""

    id: int
    at: datetime
    who: str
    action: Action
    questionnaire_id: UUID | None
    entry_id: UUID | None
    detail: dict[str, Any]


async def add(
    conn: AsyncConnection,
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


async def newest(conn: AsyncConnection, before: int | None, limit: int) -> list[Mark]:
    """Marks from the newest back, those with an id under `before` where it is given."""
    t = trail.c
    query = select(
        t.id, t.at, accounts.c.name, t.action, t.questionnaire_id, t.entry_id, t.detail
    ).join(accounts, accounts.c.id == t.account_id)
    if before is not None:
        query = query.where(t.id < before)
    query = query.order_by(t.id.desc()).limit(limit)
    return [Mark(*row) for row in await conn.execute(query)]
