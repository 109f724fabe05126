"""Files of entries that stand in rows of registers."""

from collections.abc import Collection
from uuid import UUID

from sqlalchemy import BigInteger, Column, ForeignKey, Index, Integer, String, Table, select, text
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.common.values import FileFacts
from jotgate.store.base import Connection, metadata, uuid_column
from jotgate.store.files import files
from jotgate.store.registers.rows import rows

row_files = Table(
    "row_files",
    metadata,
    Column(
        "row_id",
        BigInteger,
        ForeignKey("register_rows.id", ondelete="CASCADE"),
        primary_key=True,
    ),
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False),
    Column("size", Integer, nullable=False),
    Column("type", String, nullable=False),
    uuid_column("key_id", nullable=True),
    Index(None, "id"),
    Index(None, "key_id", postgresql_where=text("key_id is not null")),
)
"""Files of entries that stand in cells, by their ids. They stay when the entry is deleted."""


async def add_files(conn: Connection, row_id: int, found: Collection[FileFacts]) -> None:
    """Note the files that stand in the cells of a row."""
    if not found:
        return
    keys = select(files.c.id, files.c.key_id).where(files.c.id.in_([UUID(one.id) for one in found]))
    known = {row.id: row.key_id for row in await conn.execute(keys)}
    given = [
        vars(one) | {"id": UUID(one.id), "row_id": row_id, "key_id": known.get(UUID(one.id))}
        for one in found
    ]
    await conn.execute(upsert(row_files).on_conflict_do_nothing(), given)


async def files_of(conn: Connection, row_id: int) -> list[FileFacts]:
    c = row_files.c
    query = select(c.id, c.name, c.size, c.type).where(c.row_id == row_id)
    return [FileFacts(str(id), *rest) for id, *rest in await conn.execute(query)]


async def stand_in_rows(conn: Connection, ids: Collection[UUID]) -> set[UUID]:
    """Which of these files stand in rows."""
    query = select(row_files.c.id).where(row_files.c.id.in_(ids))
    return set((await conn.execute(query)).scalars())


async def files_alone(conn: Connection, register_id: UUID) -> list[UUID]:
    """The files that stand in no other register, and whose entries are gone."""
    here = select(row_files.c.id).join(rows).where(rows.c.register_id == register_id)
    elsewhere = select(row_files.c.id).join(rows).where(rows.c.register_id != register_id)
    query = here.where(row_files.c.id.not_in(elsewhere), row_files.c.id.not_in(select(files.c.id)))
    return list((await conn.execute(query.distinct())).scalars())
