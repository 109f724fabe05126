"""Contact lists and who is on them."""

from collections.abc import Collection
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
    exists,
    func,
    insert,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.types import Uuid

from jotgate.core.contacts.lists import ContactList
from jotgate.store.base import Connection, metadata, time_column, uuid_column
from jotgate.store.contacts.contacts import SORTED, contacts, with_words

contact_lists = Table(
    "contact_lists",
    metadata,
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False),
    time_column("made"),
)
Index("ix_contact_lists_name", func.lower(contact_lists.c.name), unique=True)
members = Table(
    "contact_list_members",
    metadata,
    uuid_column("list_id", ForeignKey("contact_lists.id", ondelete="CASCADE"), primary_key=True),
    uuid_column("contact_id", ForeignKey("contacts.id", ondelete="CASCADE"), primary_key=True),
    Index(None, "contact_id"),
)


def wanted(words: str, list_id: UUID | None) -> Any:
    """Which contacts have all these words in what is known of them, of this list where one is
    given."""
    m = members.c
    on_list = exists().where(m.list_id == list_id, m.contact_id == contacts.c.id)
    return with_words(words) if list_id is None else with_words(words) & on_list


async def every(conn: Connection) -> list[ContactList]:
    l, m, c = contact_lists.c, members.c, contacts.c  # noqa: E741
    reached = c.opted_out.is_(None)
    counted = (
        select(m.list_id, func.count().label("all"), func.count().filter(reached).label("reached"))
        .join(contacts, c.id == m.contact_id)
        .group_by(m.list_id)
        .subquery()
    )
    query = (
        select(
            l.id,
            l.name,
            l.made,
            func.coalesce(counted.c.all, 0),
            func.coalesce(counted.c.reached, 0),
        )
        .outerjoin(counted, counted.c.list_id == l.id)
        .order_by(func.lower(l.name))
    )
    return [ContactList(*row) for row in await conn.execute(query)]


async def names(conn: Connection) -> dict[UUID, str]:
    """What each list is called, in the order of that."""
    c = contact_lists.c
    found = await conn.execute(select(c.id, c.name).order_by(func.lower(c.name)))
    return {row.id: row.name for row in found}


async def name_of(conn: Connection, id: UUID) -> str | None:
    query = select(contact_lists.c.name).where(contact_lists.c.id == id)
    found: str | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def add(conn: Connection, id: UUID, name: str, now: datetime) -> None:
    """Raises AlreadyThere where there is one of this name."""
    await conn.execute(insert(contact_lists).values(id=id, name=name, made=now))


async def put(conn: Connection, id: UUID, name: str) -> bool:
    query = update(contact_lists).where(contact_lists.c.id == id).values(name=name)
    return (await conn.execute(query)).rowcount > 0


async def remove(conn: Connection, id: UUID) -> bool:
    query = delete(contact_lists).where(contact_lists.c.id == id)
    return (await conn.execute(query)).rowcount > 0


async def has(conn: Connection, id: UUID, email: str) -> bool:
    """Whether a contact with this address is on a list."""
    m, c = members.c, contacts.c
    query = select(m.contact_id).join(contacts, c.id == m.contact_id)
    found = await conn.execute(query.where(m.list_id == id, c.email == email).limit(1))
    return found.first() is not None


async def put_on(conn: Connection, id: UUID, ids: Collection[UUID]) -> int:
    """Put contacts on a list; how many were not on it before."""
    wanted = contacts.c.id == func.any(literal(list(ids), ARRAY(Uuid)))
    source = select(literal(id), contacts.c.id).where(wanted)
    query = upsert(members).from_select(["list_id", "contact_id"], source).on_conflict_do_nothing()
    return len((await conn.execute(query.returning(members.c.contact_id))).all())


async def take_off(conn: Connection, id: UUID, ids: Collection[UUID]) -> int:
    query = delete(members).where(members.c.list_id == id, members.c.contact_id.in_(ids))
    return (await conn.execute(query)).rowcount


async def of_contact(conn: Connection, contact_id: UUID) -> list[tuple[UUID, str]]:
    query = (
        select(contact_lists.c.id, contact_lists.c.name)
        .join(members, members.c.list_id == contact_lists.c.id)
        .where(members.c.contact_id == contact_id)
        .order_by(func.lower(contact_lists.c.name))
    )
    return [(row.id, row.name) for row in await conn.execute(query)]


async def reachable(conn: Connection, id: UUID, by_mail: bool = False) -> list[UUID]:
    """Who is on a list and did not opt out, in the order of their names; only those with a mail
    address where it is `by_mail`."""
    query = (
        select(contacts.c.id)
        .join(members, members.c.contact_id == contacts.c.id)
        .where(members.c.list_id == id, contacts.c.opted_out.is_(None))
    )
    if by_mail:
        query = query.where(contacts.c.email.is_not(None))
    return list((await conn.execute(query.order_by(SORTED, contacts.c.id))).scalars())


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """Put one contact on every list that another is on."""
    source = select(members.c.list_id, literal(kept)).where(members.c.contact_id == gone)
    query = upsert(members).from_select(["list_id", "contact_id"], source)
    await conn.execute(query.on_conflict_do_nothing())
