"""Consent to be on a contact list: what was asked in which entry, and what was answered. It stays
when the entry is deleted, and goes with its contact or list."""

from typing import Any
from uuid import UUID

from sqlalchemy import Column, ForeignKey, Integer, String, Table, literal, select
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.contacts.lists import Consent
from jotgate.store.base import Connection, maybe_time_column, metadata, time_column, uuid_column


def consent_columns() -> list[Column[Any]]:
    """What was asked and answered in which entry."""
    return [
        uuid_column("questionnaire_id"),
        Column("entry_number", Integer, nullable=False),
        Column("title", String, nullable=False),
        Column("edition", Integer, nullable=False),
        Column("question", String, nullable=False),
        Column("answer", String, nullable=False),
        time_column("given"),
    ]


list_consents = Table(
    "list_consents",
    metadata,
    uuid_column("contact_id", ForeignKey("contacts.id", ondelete="CASCADE"), primary_key=True),
    uuid_column(
        "list_id", ForeignKey("contact_lists.id", ondelete="CASCADE"), primary_key=True, index=True
    ),
    uuid_column("entry_id", primary_key=True),
    *consent_columns(),
    maybe_time_column("confirmed"),
)

_CONSENT: list[Any] = [list_consents.c[name] for name in Consent.__annotations__]


async def put(conn: Connection, contact_id: UUID, entry_id: UUID, consent: Consent) -> None:
    """Keep a consent; that of the same entry as it is by now."""
    values = vars(consent)
    row = {"contact_id": contact_id, "entry_id": entry_id, **values}
    keys = ["contact_id", "list_id", "entry_id"]
    await conn.execute(
        upsert(list_consents).values(**row).on_conflict_do_update(index_elements=keys, set_=values)
    )


async def of_contact(conn: Connection, contact_id: UUID) -> list[Consent]:
    """The newest first."""
    c = list_consents.c
    query = select(*_CONSENT).where(c.contact_id == contact_id).order_by(c.given.desc())
    return [Consent(*row) for row in await conn.execute(query)]


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """What one contact consented to, another one did too."""
    c = list_consents.c
    row = [one for one in c if one is not c.contact_id]
    source = select(*row).add_columns(literal(kept)).where(c.contact_id == gone)
    names = [*(one.name for one in row), "contact_id"]
    await conn.execute(upsert(list_consents).from_select(names, source).on_conflict_do_nothing())
