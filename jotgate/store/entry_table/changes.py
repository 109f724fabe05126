"""How entries stood before somebody changed many of them at once, so that it can be undone."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import Column, ForeignKey, Integer, Table, select
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.store.base import Connection, insert_all, metadata, uuid_column

entry_changes = Table(
    "entry_changes",
    metadata,
    uuid_column("work_id", ForeignKey("work.id", ondelete="CASCADE"), primary_key=True),
    Column("number", Integer, primary_key=True),
    Column("before", JSONB, nullable=False),
    Column("after", JSONB, nullable=False),
)
_C = entry_changes.c

Change = tuple[int, dict[str, Any], dict[str, Any]]
"""The number of an entry, how it stood before, and after."""


async def add(conn: Connection, work_id: UUID, changes: Sequence[Change]) -> None:
    rows = [
        {"work_id": work_id, "number": number, "before": before, "after": after}
        for number, before, after in changes
    ]
    await insert_all(conn, entry_changes, rows)


async def following(conn: Connection, work_id: UUID, after: int, limit: int) -> list[Change]:
    """From the smallest number over `after` on."""
    query = select(_C.number, _C.before, _C.after)
    query = query.where(_C.work_id == work_id, _C.number > after).order_by(_C.number)
    return [(row.number, row.before, row.after) for row in await conn.execute(query.limit(limit))]
