"""Visits of people who are known before they begin: they were handed on to a questionnaire, or
signed in. Of both secrets, the token that is good for once and that of the visit, only hashes are
kept."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    Index,
    LargeBinary,
    Table,
    delete,
    insert,
    select,
    update,
)

from jotgate.core.walking.arrival import Came
from jotgate.store.base import Connection, metadata, time_column, uuid_column

visits = Table(
    "visits",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    uuid_column("questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE")),
    uuid_column("from_entry", nullable=True),
    uuid_column("subject_id", nullable=True),
    Column("visit_hash", LargeBinary, unique=True),
    Column("sealed", LargeBinary, nullable=False),
    time_column("until"),
    Index(None, "until"),
    Index(None, "questionnaire_id", "subject_id"),
)
"""`until` is how long the token can be used, and then how long the visit lasts. `from_entry` was
handed on, `subject_id` signed in; who is known otherwise than by being handed on has no token."""


async def add(
    conn: Connection,
    token_hash: bytes,
    questionnaire_id: UUID,
    from_entry: UUID,
    sealed: bytes,
    until: datetime,
) -> None:
    await conn.execute(
        insert(visits).values(
            token_hash=token_hash,
            questionnaire_id=questionnaire_id,
            from_entry=from_entry,
            sealed=sealed,
            until=until,
        )
    )


async def begin(
    conn: Connection,
    visit_hash: bytes,
    questionnaire_id: UUID,
    came: Came,
    sealed: bytes,
    until: datetime,
) -> None:
    """A visit of somebody who signed in, or confirmed a mail address. Its own secret stands in the
    place of a token."""
    values = {"token_hash": visit_hash, "visit_hash": visit_hash, "subject_id": came.subject_id}
    known = {"questionnaire_id": questionnaire_id, "sealed": sealed, "until": until}
    from_entry = came.entry[1] if came.entry else None
    await conn.execute(insert(visits).values(**values, **known, from_entry=from_entry))


async def use(
    conn: Connection,
    token_hash: bytes,
    questionnaire_id: UUID,
    visit_hash: bytes,
    now: datetime,
    until: datetime,
) -> bool:
    """Use a token up, for a visit until then; whether it was good still."""
    query = (
        update(visits)
        .where(
            visits.c.token_hash == token_hash,
            visits.c.questionnaire_id == questionnaire_id,
            visits.c.visit_hash.is_(None),
            visits.c.until > now,
        )
        .values(visit_hash=visit_hash, until=until)
    )
    return (await conn.execute(query)).rowcount > 0


async def visit(
    conn: Connection, visit_hash: bytes, questionnaire_id: UUID, now: datetime
) -> bytes | None:
    """What is known, sealed, of somebody who was handed on here."""
    query = select(visits.c.sealed).where(
        visits.c.visit_hash == visit_hash,
        visits.c.questionnaire_id == questionnaire_id,
        visits.c.until > now,
    )
    found: bytes | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def end(conn: Connection, questionnaire_id: UUID, came: Came) -> None:
    """Forget the visits of whoever came so."""
    whose = visits.c.subject_id == came.subject_id
    if came.entry is not None:
        whose = visits.c.from_entry == came.entry[1]
    await conn.execute(delete(visits).where(visits.c.questionnaire_id == questionnaire_id, whose))


async def leave(conn: Connection, questionnaire_id: UUID, visit_hash: bytes) -> None:
    """Forget one visit."""
    query = delete(visits).where(visits.c.questionnaire_id == questionnaire_id)
    await conn.execute(query.where(visits.c.visit_hash == visit_hash))


async def signed_in(
    conn: Connection, questionnaire_id: UUID, subject_id: UUID, now: datetime
) -> bool:
    """Whether somebody signed in here lately, and has not answered yet."""
    query = select(visits.c.until).where(
        visits.c.questionnaire_id == questionnaire_id,
        visits.c.subject_id == subject_id,
        visits.c.until > now,
    )
    return (await conn.execute(query.limit(1))).first() is not None


async def forget(conn: Connection, now: datetime) -> None:
    await conn.execute(delete(visits).where(visits.c.until < now))
