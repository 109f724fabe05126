"""What people of the office write to each other about an entry."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import Column, ForeignKey, Index, String, Table, delete, func, insert, select

from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import Connection, entry_key, metadata, time_column, uuid_column

entry_notes = Table(
    "entry_notes",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id"),
    uuid_column("entry_id"),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("words", String, nullable=False),
    time_column("written"),
    entry_key(),
    Index(None, "questionnaire_id", "entry_id"),
)
_N = entry_notes.c


@dataclass(frozen=True)
class Note:
    """`who` is empty where they have no account any more."""

    id: UUID
    account_id: UUID | None
    who: str
    words: str
    written: datetime


_NOTE = (_N.id, _N.account_id, func.coalesce(accounts.c.name, ""), _N.words, _N.written)


async def of_entry(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> list[Note]:
    """The oldest first."""
    query = select(*_NOTE).outerjoin(accounts, accounts.c.id == _N.account_id)
    query = query.where(_N.questionnaire_id == questionnaire_id, _N.entry_id == entry_id)
    return [Note(*row) for row in await conn.execute(query.order_by(_N.written, _N.id))]


async def add(
    conn: Connection, questionnaire_id: UUID, entry_id: UUID, account_id: UUID, note: Note
) -> None:
    row = {"id": note.id, "words": note.words, "written": note.written, "account_id": account_id}
    where = {"questionnaire_id": questionnaire_id, "entry_id": entry_id}
    await conn.execute(insert(entry_notes).values(**row, **where))


async def remove(conn: Connection, id: UUID, account_id: UUID) -> bool:
    """Remove one that somebody wrote themselves; whether it was there."""
    query = delete(entry_notes).where(_N.id == id, _N.account_id == account_id)
    return (await conn.execute(query)).rowcount > 0
