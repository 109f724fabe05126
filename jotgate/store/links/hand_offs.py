"""Hand-offs under way: from an entry to the questionnaire that it goes on in. Of both secrets, the
token that is good for once and the visit that follows, only hashes are kept."""

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

from jotgate.store.base import Connection, metadata, time_column, uuid_column

hand_offs = Table(
    "hand_offs",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    uuid_column("questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE")),
    uuid_column("from_entry"),
    Column("visit_hash", LargeBinary, unique=True),
    Column("sealed", LargeBinary, nullable=False),
    time_column("until"),
    Index(None, "until"),
)
"""`until` is how long the token can be used, and then how long the visit lasts."""


async def add(
    conn: Connection,
    token_hash: bytes,
    questionnaire_id: UUID,
    from_entry: UUID,
    sealed: bytes,
    until: datetime,
) -> None:
    await conn.execute(
        insert(hand_offs).values(
            token_hash=token_hash,
            questionnaire_id=questionnaire_id,
            from_entry=from_entry,
            sealed=sealed,
            until=until,
        )
    )


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
        update(hand_offs)
        .where(
            hand_offs.c.token_hash == token_hash,
            hand_offs.c.questionnaire_id == questionnaire_id,
            hand_offs.c.visit_hash.is_(None),
            hand_offs.c.until > now,
        )
        .values(visit_hash=visit_hash, until=until)
    )
    return (await conn.execute(query)).rowcount > 0


async def visit(
    conn: Connection, visit_hash: bytes, questionnaire_id: UUID, now: datetime
) -> bytes | None:
    """What is known, sealed, of somebody who was handed on here."""
    query = select(hand_offs.c.sealed).where(
        hand_offs.c.visit_hash == visit_hash,
        hand_offs.c.questionnaire_id == questionnaire_id,
        hand_offs.c.until > now,
    )
    found: bytes | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def end(conn: Connection, questionnaire_id: UUID, from_entry: UUID) -> None:
    """Forget the visits that an entry was handed on to."""
    await conn.execute(
        delete(hand_offs).where(
            hand_offs.c.questionnaire_id == questionnaire_id,
            hand_offs.c.from_entry == from_entry,
        )
    )


async def forget(conn: Connection, now: datetime) -> None:
    await conn.execute(delete(hand_offs).where(hand_offs.c.until < now))
