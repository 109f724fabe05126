"""The office: one row."""

from sqlalchemy import CheckConstraint, Column, Integer, Table, select, update
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.office import Office
from jotgate.core.records.questionnaires import Saved
from jotgate.store.base import Connection, dumped, metadata

office = Table(
    "office",
    metadata,
    Column("id", Integer, primary_key=True, autoincrement=False),
    Column("settings", JSONB, nullable=False),
    Column("revision", Integer, nullable=False),
    CheckConstraint("id = 1", name="ck_office_one"),
)


async def find(conn: Connection) -> Saved[Office]:
    row = (await conn.execute(select(office.c.revision, office.c.settings))).one()
    return Saved(row[0], Office.model_validate(row[1]))


async def save(conn: Connection, value: Office, revision: int) -> int | None:
    """Save what was read at `revision`: the new revision, or None where it is stale."""
    current = office.c.revision
    query = (
        update(office)
        .where(current == revision)
        .values(settings=dumped(value), revision=current + 1)
        .returning(current)
    )
    new: int | None = (await conn.execute(query)).scalar_one_or_none()
    return new
