"""Contacts and the fields of the office's own that they have."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    Index,
    Integer,
    String,
    Table,
    case,
    delete,
    func,
    insert,
    literal,
    select,
    text,
    tuple_,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.contacts.contact import Contact, Origin
from jotgate.core.contacts.fields import ContactField
from jotgate.store.base import Connection, maybe_time_column, metadata, uuid_column

contact_fields = Table(
    "contact_fields",
    metadata,
    Column("key", String, primary_key=True),
    Column("label", String, nullable=False),
    Column("kind", String, nullable=False),
    Column("options", JSONB, nullable=False),
    Column("position", Integer, nullable=False),
)
contacts = Table(
    "contacts",
    metadata,
    uuid_column("id", primary_key=True),
    Column("key", String),
    Column("name", String, nullable=False),
    Column("email", String),
    Column("phone", String, nullable=False),
    Column("language", String, nullable=False),
    Column("fields", JSONB, nullable=False),
    maybe_time_column("opted_out"),
    maybe_time_column("bounced"),
    Column("revision", Integer, nullable=False, server_default="1"),
    maybe_time_column("added"),
    Column("came", String, nullable=False, server_default=""),
    Index("ix_contacts_key", "key", unique=True),
    Index("ix_contacts_email", "email"),
)
SORTED = func.lower(contacts.c.name)
Index("ix_contacts_name", SORTED, contacts.c.id)

c = contacts.c
COLUMNS: list[Any] = [
    c.id,
    func.coalesce(c.key, ""),
    c.name,
    func.coalesce(c.email, ""),
    c.phone,
    c.language,
    c.fields,
    c.opted_out,
    c.revision,
    c.bounced,
    c.added,
    c.came,
]
"""Those of a `Contact`, in its order."""


def as_row(values: Mapping[str, str]) -> dict[str, Any]:
    """Values by field as the columns hold them: no key and no address are null."""
    own = {name: text for name, text in values.items() if name not in _PLAIN}
    row: dict[str, Any] = {name: values.get(name, "") for name in _PLAIN}
    return {**row, "key": row["key"] or None, "email": row["email"] or None, "fields": own}


_PLAIN = ("key", "name", "email", "phone", "language")


async def fields(conn: Connection) -> tuple[ContactField, ...]:
    f = contact_fields.c
    query = select(f.key, f.label, f.kind, f.options).order_by(f.position, f.key)
    found = await conn.execute(query)
    return tuple(ContactField.model_validate(dict(row._mapping)) for row in found)


async def put_field(conn: Connection, field: ContactField, position: int | None) -> bool:
    """Change a field, or add it at `position` where it is given; whether there was one."""
    values: dict[str, Any] = field.model_dump(mode="json")
    if position is not None:
        await conn.execute(insert(contact_fields).values(**values, position=position))
        return True
    query = update(contact_fields).where(contact_fields.c.key == field.key)
    return (await conn.execute(query.values(**values))).rowcount > 0


async def remove_field(conn: Connection, key: str) -> bool:
    """Remove a field and what every contact has in it."""
    query = delete(contact_fields).where(contact_fields.c.key == key)
    found = (await conn.execute(query)).rowcount > 0
    await conn.execute(
        update(contacts).where(c.fields.has_key(key)).values(fields=c.fields.op("-")(literal(key)))
    )
    return found


async def options_used(conn: Connection, key: str) -> set[str]:
    """What contacts have in a field."""
    query = select(c.fields[key].astext).where(c.fields.has_key(key)).distinct()
    return {row[0] for row in await conn.execute(query)}


async def add(
    conn: Connection, id: UUID, values: Mapping[str, str], out: datetime | None, origin: Origin
) -> None:
    """Raises AlreadyThere where there is one with this key."""
    row = {**as_row(values), "added": origin.at, "came": origin.told}
    await conn.execute(insert(contacts).values(id=id, opted_out=out, **row))


async def put(
    conn: Connection, id: UUID, revision: int, values: Mapping[str, str], out: datetime | None
) -> bool:
    """Change one that was read at `revision`; whether it was that still. Nothing has come back from
    another address yet."""
    query = update(contacts).where(c.id == id, c.revision == revision)
    row = as_row(values)
    bounced = case((c.email.is_distinct_from(row["email"]), None), else_=c.bounced)
    changed = query.values(opted_out=out, revision=c.revision + 1, bounced=bounced, **row)
    return (await conn.execute(changed)).rowcount > 0


async def find(conn: Connection, id: UUID, lock: bool = False) -> Contact | None:
    query = select(*COLUMNS).where(c.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else Contact(*row)


async def of_ids(conn: Connection, ids: Collection[UUID]) -> dict[UUID, Contact]:
    found = await conn.execute(select(*COLUMNS).where(c.id.in_(ids)))
    return {row[0]: Contact(*row) for row in found}


async def by_key(conn: Connection, key: str) -> Contact | None:
    row = (await conn.execute(select(*COLUMNS).where(c.key == key))).one_or_none()
    return None if row is None else Contact(*row)


async def hold_email(conn: Connection, email: str) -> None:
    """Nobody else who holds this address looks for its contacts until the transaction ends, so that
    two who find none do not both add one."""
    key = func.hashtextextended(f"contact {email}", 0)
    await conn.execute(select(func.pg_advisory_xact_lock(key)))


async def by_email(conn: Connection, email: str) -> list[Contact]:
    found = await conn.execute(select(*COLUMNS).where(c.email == email).order_by(c.id).limit(100))
    return [Contact(*row) for row in found]


async def remove(conn: Connection, ids: Collection[UUID]) -> int:
    return (await conn.execute(delete(contacts).where(c.id.in_(ids)))).rowcount


def with_words(words: str) -> Any:
    """Which contacts have all these words in their name, address, key, phone or own fields."""
    held = func.concat_ws(" ", c.name, c.email, c.key, c.phone, c.fields.op("#>>")(text("'{}'")))
    escaped = words.lower().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    parts = [func.lower(held).like(f"%{word}%") for word in escaped.split()[:8]]
    return literal(True) if not parts else parts[0] if len(parts) == 1 else _all(parts)


def _all(parts: list[Any]) -> Any:
    found = parts[0]
    for one in parts[1:]:
        found = found & one
    return found


async def page(
    conn: Connection, query: Any, after: tuple[str, UUID] | None, limit: int
) -> list[Contact]:
    """Contacts that `query` says, in the order of their names, behind `after` (a name and id)."""
    asked = select(*COLUMNS).where(query)
    if after is not None:
        asked = asked.where(tuple_(SORTED, c.id) > tuple_(func.lower(after[0]), after[1]))
    found = await conn.execute(asked.order_by(SORTED, c.id).limit(limit))
    return [Contact(*row) for row in found]


async def count(conn: Connection, query: Any) -> int:
    number: int = (
        await conn.execute(select(func.count()).select_from(contacts).where(query))
    ).scalar_one()
    return number


async def mark_out(conn: Connection, emails: Collection[str], at: datetime | None) -> int:
    """Mark every contact with one of these addresses as opted out, or as not; how many."""
    still = c.opted_out.is_(None) if at else c.opted_out.is_not(None)
    query = update(contacts).where(c.email.in_(sorted(emails)), still)
    return (await conn.execute(query.values(opted_out=at))).rowcount


async def mark_bounced(conn: Connection, email: str, at: datetime) -> int:
    """Mark every contact with this address as one that letters come back from; how many."""
    query = update(contacts).where(c.email == email, c.bounced.is_(None))
    return (await conn.execute(query.values(bounced=at))).rowcount
