"""Keys that other programs make links with: their secrets stand sealed."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import Column, LargeBinary, String, Table, delete, insert, select

from jotgate.store.base import Connection, metadata, questionnaire_key, time_column

link_keys = Table(
    "link_keys",
    metadata,
    questionnaire_key(),
    Column("id", String, primary_key=True),
    Column("sealed", LargeBinary, nullable=False),
    time_column("made"),
)


async def add(
    conn: Connection, questionnaire_id: UUID, id: str, sealed: bytes, made: datetime
) -> None:
    values = {"questionnaire_id": questionnaire_id, "id": id, "sealed": sealed, "made": made}
    await conn.execute(insert(link_keys).values(**values))


async def sealed(conn: Connection, questionnaire_id: UUID, id: str) -> bytes | None:
    query = select(link_keys.c.sealed).where(
        link_keys.c.questionnaire_id == questionnaire_id, link_keys.c.id == id
    )
    found: bytes | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def with_sealed(conn: Connection, questionnaire_id: UUID) -> Sequence[tuple[str, bytes]]:
    """Ids and secrets, the newest first."""
    query = select(link_keys.c.id, link_keys.c.sealed).where(
        link_keys.c.questionnaire_id == questionnaire_id
    )
    found = await conn.execute(query.order_by(link_keys.c.made.desc()))
    return [(row.id, row.sealed) for row in found]


async def every(conn: Connection, questionnaire_id: UUID) -> Sequence[tuple[str, datetime]]:
    """The newest first."""
    query = select(link_keys.c.id, link_keys.c.made).where(
        link_keys.c.questionnaire_id == questionnaire_id
    )
    found = await conn.execute(query.order_by(link_keys.c.made.desc()))
    return [(row.id, row.made) for row in found]


async def remove(conn: Connection, questionnaire_id: UUID, id: str) -> bool:
    query = delete(link_keys).where(
        link_keys.c.questionnaire_id == questionnaire_id, link_keys.c.id == id
    )
    return (await conn.execute(query)).rowcount > 0
