"""The gate of a questionnaire as it was, each time that somebody changed it."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import Column, ForeignKey, Integer, Table, insert, select
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.gate.settings import Gate
from jotgate.core.records.questionnaires import GateVersion
from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import (
    Connection,
    dumped,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)

gate_versions = Table(
    "gate_versions",
    metadata,
    questionnaire_key(),
    Column("revision", Integer, primary_key=True),
    time_column("at"),
    uuid_column("by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("gate", JSONB, nullable=False),
)


async def add(
    conn: Connection, id: UUID, revision: int, gate: Gate, at: datetime, by: UUID | None
) -> None:
    await conn.execute(
        insert(gate_versions).values(
            questionnaire_id=id, revision=revision, at=at, by=by, gate=dumped(gate)
        )
    )


async def since(conn: Connection, id: UUID, moment: datetime, most: int) -> list[GateVersion]:
    """How the gate was from a moment on, the oldest first: what held then, and each change after,
    the newest `most` of them."""
    v = gate_versions.c
    columns = select(v.revision, v.at, accounts.c.name, v.gate).outerjoin(
        accounts, accounts.c.id == v.by
    )
    here = columns.where(v.questionnaire_id == id)
    before = here.where(v.at <= moment).order_by(v.revision.desc()).limit(1)
    after = here.where(v.at > moment).order_by(v.revision.desc()).limit(most)
    found = [*await conn.execute(after), *await conn.execute(before)]
    return [
        GateVersion(row.revision, row.at, row.name or "", Gate.model_validate(row.gate))
        for row in reversed(found)
    ]
