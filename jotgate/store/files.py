"""Files that respondents sent, and what their pages show; the bytes are in the files port."""

from collections.abc import Collection
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    Index,
    Integer,
    String,
    Table,
    and_,
    delete,
    func,
    insert,
    or_,
    select,
    text,
    update,
)

from jotgate.core.records.files import Medium, SentFile
from jotgate.store.base import Connection, metadata, time_column, uuid_column

files = Table(
    "files",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE")),
    Column("edition", Integer, nullable=False),
    Column("item", String, nullable=False),
    Column("name", String, nullable=False),
    Column("size", Integer, nullable=False),
    Column("received", Integer, nullable=False),
    Column("type", String),
    uuid_column("entry_id", nullable=True),
    time_column("begun"),
    uuid_column("key_id", nullable=True),
    Index(None, "entry_id"),
    Index(None, "key_id", postgresql_where=text("key_id is not null")),
    Index("ix_files_unclaimed", "questionnaire_id", postgresql_where=text("entry_id IS NULL")),
)
"""`type` is None until the whole of it has arrived and was found to be what is asked for."""

media = Table(
    "media",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), nullable=True
    ),
    Column("name", String, nullable=False),
    Column("type", String, nullable=False),
    Column("size", Integer, nullable=False),
    time_column("added"),
)


_KEY_OF = """
select key_id from files where id = :id
union all select key_id from row_files where id = :id
limit 1
"""


def _file(row: Any) -> SentFile:
    return SentFile(**row._mapping)


async def add(conn: Connection, file: SentFile) -> None:
    await conn.execute(insert(files).values(**vars(file)))


async def find(conn: Connection, id: UUID, lock: bool = False) -> SentFile | None:
    query = select(files).where(files.c.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else _file(row)


async def key_of(conn: Connection, id: UUID) -> UUID | None:
    """The data key of a file, which may be left only in rows of registers."""
    found = await conn.execute(text(_KEY_OF), {"id": id})
    key: UUID | None = found.scalars().first()
    return key


async def find_all(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> list[SentFile]:
    """Those of `ids` that have arrived whole for this questionnaire."""
    query = select(files).where(
        files.c.questionnaire_id == questionnaire_id, files.c.id.in_(ids), files.c.type.is_not(None)
    )
    return [_file(row) for row in await conn.execute(query)]


async def of_entry(conn: Connection, entry_id: UUID) -> list[SentFile]:
    query = select(files).where(files.c.entry_id == entry_id)
    return [_file(row) for row in await conn.execute(query)]


async def advance(conn: Connection, id: UUID, received: int, type: str | None) -> None:
    await conn.execute(update(files).where(files.c.id == id).values(received=received, type=type))


async def unclaimed_bytes(conn: Connection, questionnaire_id: UUID) -> int:
    """How much has arrived for a questionnaire and belongs to no entry."""
    query = select(func.coalesce(func.sum(files.c.received), 0)).where(
        files.c.questionnaire_id == questionnaire_id, files.c.entry_id.is_(None)
    )
    return int((await conn.execute(query)).scalar_one())


async def claim(conn: Connection, entry_id: UUID, ids: Collection[UUID]) -> int:
    """Give free files to an entry; how many of them it got."""
    query = update(files).where(files.c.id.in_(ids), files.c.entry_id.is_(None))
    return (await conn.execute(query.values(entry_id=entry_id))).rowcount


async def rename(conn: Connection, id: UUID, name: str) -> None:
    await conn.execute(update(files).where(files.c.id == id).values(name=name))


async def remove(conn: Connection, id: UUID) -> None:
    await conn.execute(delete(files).where(files.c.id == id))


async def unclaimed(
    conn: Connection, unsent: datetime, cut_off: datetime, limit: int
) -> list[UUID]:
    """Files that no entry has: begun before `unsent`, or, where they never arrived whole,
    before `cut_off`."""
    old = or_(files.c.begun < unsent, and_(files.c.type.is_(None), files.c.begun < cut_off))
    query = select(files.c.id).where(files.c.entry_id.is_(None), old)
    return list((await conn.execute(query.limit(limit))).scalars())


async def add_medium(conn: Connection, medium: Medium) -> None:
    await conn.execute(insert(media).values(**vars(medium)))


async def medium(conn: Connection, id: UUID) -> Medium | None:
    row = (await conn.execute(select(media).where(media.c.id == id))).one_or_none()
    return None if row is None else Medium(**row._mapping)
