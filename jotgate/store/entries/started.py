"""Started entries: answers on their way, sealed, under a secret that only the respondent has."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    String,
    Table,
    delete,
    func,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import insert

from jotgate.core.records.entries import Started
from jotgate.store.base import Connection, metadata, time_column, uuid_column

started = Table(
    "started",
    metadata,
    Column("token_hash", String, primary_key=True),
    uuid_column("questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE")),
    Column("edition", Integer, nullable=False),
    Column("sealed", LargeBinary, nullable=False),
    Column("letters", Integer, nullable=False, server_default="0"),
    time_column("touched"),
    Column("page", String, nullable=False, server_default=""),
    Index(None, "touched"),
)
"""`page` is where it was saved last, empty where that would give something restricted away;
`letters` counts the letters with a link that were asked for."""


async def save(conn: Connection, one: Started) -> bool:
    """Keep it in place of what was saved under its secret for the same questionnaire; whether
    it is the first."""
    query = insert(started).values(**vars(one))
    newer = {name: query.excluded[name] for name in ("edition", "sealed", "touched", "page")}
    same = started.c.questionnaire_id == query.excluded.questionnaire_id
    saving = query.on_conflict_do_update(index_elements=["token_hash"], set_=newer, where=same)
    made = (await conn.execute(saving.returning(text("xmax = 0 AS made")))).one_or_none()
    return made is not None and bool(made[0])


async def find(conn: Connection, token_hash: str, questionnaire_id: UUID) -> Started | None:
    query = select(*(started.c[name] for name in Started.__annotations__)).where(
        started.c.token_hash == token_hash, started.c.questionnaire_id == questionnaire_id
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Started(*row)


async def remove(conn: Connection, token_hash: str) -> None:
    await conn.execute(delete(started).where(started.c.token_hash == token_hash))


async def remove_untouched(conn: Connection, before: datetime) -> int:
    return (await conn.execute(delete(started).where(started.c.touched < before))).rowcount


async def count_letter(conn: Connection, token_hash: str) -> int:
    """Count one more letter; how many that makes."""
    query = update(started).where(started.c.token_hash == token_hash)
    counted = query.values(letters=started.c.letters + 1).returning(started.c.letters)
    made: int = (await conn.execute(counted)).scalar_one()
    return made


async def stopped(
    conn: Connection, questionnaire_id: UUID, edition: int, before: datetime
) -> dict[str, int]:
    """How many of an edition that were touched last before then stand on each page."""
    query = (
        select(started.c.page, func.count().label("many"))
        .where(
            started.c.questionnaire_id == questionnaire_id,
            started.c.edition == edition,
            started.c.touched < before,
        )
        .group_by(started.c.page)
    )
    return {row.page: row.many for row in await conn.execute(query)}


async def lately(conn: Connection, questionnaire_id: UUID, since: datetime) -> int:
    """How many started entries were saved since a moment."""
    query = select(func.count()).where(
        started.c.touched > since, started.c.questionnaire_id == questionnaire_id
    )
    found: int = (await conn.execute(query)).scalar_one()
    return found
