"""Letters that ask whether somebody wants to be on a contact list, and what was said."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    Index,
    String,
    Table,
    delete,
    insert,
    select,
    update,
)

from jotgate.core.contacts.lists import Consent, Joining, ListQuestion
from jotgate.store.base import Connection, maybe_time_column, metadata, time_column, uuid_column
from jotgate.store.contacts.consents import consent_columns

list_questions = Table(
    "list_questions",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("list_id", ForeignKey("contact_lists.id", ondelete="CASCADE")),
    uuid_column(
        "contact_id", ForeignKey("contacts.id", ondelete="CASCADE"), nullable=True, index=True
    ),
    Column("email", String, nullable=False, index=True),
    Column("name", String, nullable=False),
    Column("language", String, nullable=False),
    uuid_column("entry_id"),
    *consent_columns(),
    time_column("asked"),
    maybe_time_column("agreed"),
    Index(None, "list_id", "email"),
)

q = list_questions.c
_WHO = ("contact_id", "email", "name", "language", "entry_id")
_CONSENT = tuple(name for name in Consent.__annotations__ if name != "confirmed")
_COLUMNS: list[Any] = [q[name] for name in ("id", "asked", "agreed", *_WHO, *_CONSENT)]


def _question(row: Sequence[Any]) -> ListQuestion:
    id, asked, agreed, *more = row
    who = dict(zip(_WHO, more, strict=False))
    consent = Consent(*more[len(_WHO) :])
    return ListQuestion(id, Joining(**who, consent=consent), asked, agreed)


async def add(conn: Connection, one: ListQuestion) -> None:
    who, consent = one.joining, one.joining.consent
    row = {name: getattr(who, name) for name in _WHO}
    row |= {name: getattr(consent, name) for name in _CONSENT}
    query = insert(list_questions).values(id=one.id, asked=one.asked, agreed=one.agreed, **row)
    await conn.execute(query)


async def find(conn: Connection, id: UUID, lock: bool = False) -> ListQuestion | None:
    query = select(*_COLUMNS).where(q.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else _question(row)


async def newest(conn: Connection, list_id: UUID, email: str) -> ListQuestion | None:
    """The last one of a list to an address."""
    query = select(*_COLUMNS).where(q.list_id == list_id, q.email == email)
    row = (await conn.execute(query.order_by(q.asked.desc(), q.id).limit(1))).one_or_none()
    return None if row is None else _question(row)


async def agree(conn: Connection, id: UUID, at: datetime) -> None:
    await conn.execute(update(list_questions).where(q.id == id).values(agreed=at))


async def forget(conn: Connection, before: datetime) -> None:
    """Forget those that were asked before then."""
    await conn.execute(delete(list_questions).where(q.asked < before))
