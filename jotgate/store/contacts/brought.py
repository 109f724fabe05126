"""Rows of a table that are to become contacts: looked at here, then written in a few statements."""

from collections.abc import AsyncIterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Column, Integer, String, Table, text
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.contacts.bringing import RowRead
from jotgate.core.contacts.contact import Origin
from jotgate.store.base import Connection, copy_into, metadata, uuid_column

contact_rows = Table(
    "contact_rows",
    metadata,
    uuid_column("table_id", primary_key=True),
    Column("number", Integer, primary_key=True),
    uuid_column("id"),
    Column("key", String),
    Column("name", String, nullable=False),
    Column("email", String),
    Column("phone", String, nullable=False),
    Column("language", String, nullable=False),
    Column("fields", JSONB, nullable=False),
    Column("state", String),
    uuid_column("found", nullable=True),
    Column("of_number", Integer),
    prefixes=["UNLOGGED"],
)
"""Unlogged: what is lost with the server is looked at again. `state` is `new`, `known` (a contact
already: `found`), `doubled` (it repeats the row `of_number`) or `clash`."""

COLUMNS = ("table_id", "number", "id", "key", "name", "email", "phone", "language", "fields")
TYPES = ("uuid", "int4", "uuid", "text", "text", "text", "text", "text", "jsonb")


async def put(conn: Connection, table_id: UUID, rows: AsyncIterable[tuple[UUID, RowRead]]) -> int:
    """Keep rows, each with the id that its contact will have where it is a new one; how many."""

    def as_row(made: tuple[UUID, RowRead]) -> tuple[Any, ...]:
        id, row = made
        left = dict(row.values)
        named = (left.pop("key", None), left.pop("name", ""), left.pop("email", None))
        others = (left.pop("phone", ""), left.pop("language", ""), left)
        return (table_id, row.number, id, *named, *others)

    await forget(conn, [table_id])
    count = await copy_into(conn, "contact_rows", COLUMNS, TYPES, rows, as_row)
    return count


async def forget(conn: Connection, table_ids: Sequence[UUID]) -> None:
    query = text("delete from contact_rows where table_id = any(:ids)")
    await conn.execute(query, {"ids": list(table_ids)})


_DOUBLED = text("""
    update contact_rows r set state = 'doubled', of_number = d.first
    from (
        select number, first_value(number) over same as first, row_number() over same as nth
        from (
            select number, key, email,
                coalesce('k' || key, 'e' || email) as ident
            from contact_rows where table_id = :id
        ) named
        where ident is not null
        window same as (partition by ident order by number)
    ) d
    where r.table_id = :id and r.number = d.number and d.nth > 1
""")
"""The same key twice, or the same address twice without one: the first row counts."""

_NAMELESS = text("""
    update contact_rows r set state = 'doubled', of_number = k.number
    from (
        select email, min(number) as number from contact_rows
        where table_id = :id and key is not null and email is not null group by email
    ) k
    where r.table_id = :id and r.key is null and r.state is null and r.email = k.email
""")
"""A row without a key whose address stands in one that has a key."""

_BY_KEY = text("""
    update contact_rows r set found = c.id, state = 'known'
    from contacts c where r.table_id = :id and r.state is null and r.key = c.key
""")
_BY_EMAIL = text("""
    update contact_rows r
    set found = m.id, state = case when m.many > 1 then 'clash' else 'known' end
    from (
        select w.number, min(c.id::text)::uuid as id, count(*) as many
        from contact_rows w join contacts c on c.email = w.email
        where w.table_id = :id and w.state is null and (w.key is null or c.key is null)
        group by w.number
    ) m
    where r.table_id = :id and r.number = m.number
""")
"""An address counts where one of the two has no key; several contacts with it are a clash."""

_ONCE = text("""
    update contact_rows r set state = 'doubled', of_number = d.first
    from (
        select number, first_value(number) over same as first, row_number() over same as nth
        from contact_rows where table_id = :id and state = 'known'
        window same as (partition by found order by number)
    ) d
    where r.table_id = :id and r.number = d.number and d.nth > 1
""")
_NEW = text("update contact_rows set state = 'new' where table_id = :id and state is null")


@dataclass(frozen=True)
class Seen:
    """How many rows are new, are contacts already, stand there twice, or could be several."""

    new: int
    known: int
    doubled: int
    clash: int
    out: int


async def look(conn: Connection, table_id: UUID) -> Seen:
    """Find out what each row is."""
    known = {"id": table_id}
    for query in (_DOUBLED, _NAMELESS, _BY_KEY, _BY_EMAIL, _ONCE, _NEW):
        await conn.execute(query, known)
    counts = text("""
        select count(*) filter (where state = 'new'), count(*) filter (where state = 'known'),
            count(*) filter (where state = 'doubled'), count(*) filter (where state = 'clash'),
            count(*) filter (where state in ('new', 'known') and exists
                (select from opt_outs o where o.email = r.email and o.scope = ''))
        from contact_rows r where table_id = :id
    """)
    return Seen(*(await conn.execute(counts, known)).one())


@dataclass(frozen=True)
class Told:
    """A row that is not simply new: its name, and whom it is, or which row it repeats."""

    number: int
    state: str
    called: str
    of_number: int | None
    of_contact: str


async def told(conn: Connection, table_id: UUID, most: int) -> list[Told]:
    """Rows that are there already, twice or unclear, at most so many of each."""
    query = text("""
        select number, state, called, of_number, of_contact from (
            select r.number, r.state, r.of_number,
                coalesce(nullif(r.name, ''), r.email, r.key, r.phone) as called,
                coalesce(nullif(c.name, ''), c.email, c.key, '') as of_contact,
                row_number() over (partition by r.state order by r.number) as nth
            from contact_rows r left join contacts c on c.id = r.found
            where r.table_id = :id and r.state <> 'new'
        ) shown where nth <= :most order by number
    """)
    found = await conn.execute(query, {"id": table_id, "most": most})
    return [Told(*row) for row in found]


_ADDED = text("""
    insert into contacts (id, key, name, email, phone, language, fields, opted_out, added, came)
    select r.id, r.key, r.name, r.email, r.phone, r.language, r.fields, o.at, :at, :told
    from contact_rows r left join opt_outs o on o.email = r.email and o.scope = ''
    where r.table_id = :id and r.state = 'new'
""")
_CHANGED = text("""
    update contacts c set
        key = coalesce(r.key, c.key), name = coalesce(nullif(r.name, ''), c.name),
        email = coalesce(r.email, c.email), phone = coalesce(nullif(r.phone, ''), c.phone),
        language = coalesce(nullif(r.language, ''), c.language), fields = c.fields || r.fields,
        opted_out = coalesce(c.opted_out,
            (select o.at from opt_outs o where o.email = r.email and o.scope = '')),
        revision = c.revision + 1
    from contact_rows r where r.table_id = :id and r.state = 'known' and r.found = c.id
""")
_LISTED = text("""
    insert into contact_list_members (list_id, contact_id)
    select :list, coalesce(r.found, r.id) from contact_rows r
    where r.table_id = :id and r.state in ('new', 'known')
    on conflict do nothing
""")


async def write(
    conn: Connection, table_id: UUID, update: bool, list_id: UUID | None, origin: Origin
) -> tuple[int, int]:
    """Make contacts of the new rows, bring those that are known up to date where `update` says so,
    and put both on a list; how many were added and changed."""
    known: dict[str, Any] = {"id": table_id}
    added = (await conn.execute(_ADDED, {**known, **origin._asdict()})).rowcount
    changed = (await conn.execute(_CHANGED, known)).rowcount if update else 0
    if list_id is not None:
        await conn.execute(_LISTED, {**known, "list": list_id})
    return added, changed


async def was_looked_at(conn: Connection, table_id: UUID) -> bool:
    query = text("select exists (select from contact_rows where table_id = :id)")
    return bool((await conn.execute(query, {"id": table_id})).scalar_one())


async def forget_old(conn: Connection, before: datetime) -> None:
    """Forget rows whose table has gone, or was brought before then."""
    query = text("""
        delete from contact_rows r where not exists
            (select from uploaded_tables t where t.id = r.table_id and t.made >= :before)
    """)
    await conn.execute(query, {"before": before})
