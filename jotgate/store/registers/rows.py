"""The rows of registers, filed or written by hand."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg.types.json import Jsonb
from sqlalchemy import (
    BigInteger,
    Column,
    DateTime,
    ForeignKey,
    Identity,
    Index,
    Integer,
    Table,
    Uuid,
    bindparam,
    cast,
    func,
    insert,
    literal,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from jotgate.core.entries.about import Thing
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.store.base import (
    Connection,
    copy_into,
    maybe_time_column,
    metadata,
    time_column,
    uuid_column,
)
from jotgate.store.registers.registers import registers

TOUCHED = text("(pg_current_xact_id()::text::bigint)")
"""The number of this transaction."""

rows = Table(
    "register_rows",
    metadata,
    Column("id", BigInteger, Identity(), primary_key=True),
    uuid_column("register_id", ForeignKey("registers.id", ondelete="CASCADE")),
    Column("values", JSONB, nullable=False),
    uuid_column("questionnaire_id", nullable=True),
    uuid_column("entry_id", nullable=True),
    Column("entry_number", Integer),
    Column("about", JSONB),
    time_column("filed"),
    maybe_time_column("removed"),
    Column("touched", BigInteger, nullable=False, server_default=TOUCHED),
    Index(None, "register_id", "id"),
    Index(None, "register_id", "touched"),
    Index(
        "ix_register_rows_values",
        "values",
        postgresql_using="gin",
        postgresql_ops={"values": "jsonb_path_ops"},
    ),
)
"""Rows name the entry that they came from, if they came from one, and stay when it is deleted.
`about` is the thing in another system that the entry is about: id, name and address. `touched` is
the transaction that wrote the row last, by which those who look on find what is new."""


async def file(
    conn: Connection,
    register_id: UUID,
    revision: int,
    values: Mapping[str, Cell],
    source: tuple[UUID, UUID, int] | None,
    about: Thing | None,
    now: datetime,
) -> int | None:
    """Add a row that comes from `source` (questionnaire, entry, entry number), or from none; its
    id. None where the register is gone, or has other columns than at `revision` by now."""
    questionnaire_id, entry_id, number = source or (None, None, None)
    given = {
        "wanted": register_id,
        "at": revision,
        "cells": dict(values),
        "of": questionnaire_id,
        "entry": entry_id,
        "number": number,
        "thing": asdict(about) if about else None,
        "now": now,
    }
    id: int | None = (await conn.execute(_FILE, given)).scalar_one_or_none()
    return id


_FILE = (
    insert(rows)
    .from_select(
        ["register_id", "values", "questionnaire_id", "entry_id", "entry_number", "about", "filed"],
        select(
            registers.c.id,
            cast(bindparam("cells", type_=JSONB), JSONB),
            bindparam("of", type_=Uuid),
            bindparam("entry", type_=Uuid),
            bindparam("number", type_=Integer),
            cast(bindparam("thing", type_=JSONB(none_as_null=True)), JSONB),
            bindparam("now", type_=DateTime(timezone=True)),
        )
        .where(
            registers.c.id == bindparam("wanted", type_=Uuid),
            registers.c.revision == bindparam("at", type_=Integer),
        )
        .with_for_update(read=True, key_share=True),
    )
    .returning(rows.c.id)
)


ROW: tuple[Any, ...] = (
    rows.c.id,
    rows.c["values"],
    rows.c.entry_number,
    rows.c.filed,
    rows.c.about,
    rows.c.removed,
)


def row_of(found: Any) -> Row:
    id, values, number, filed, about, removed = found
    return Row(id, values, number, filed, about and Thing(**about), removed)


async def alike(
    conn: Connection, register_id: UUID, cells: Mapping[str, Cell], lock: bool = False
) -> list[Row]:
    """The rows whose cells are the same as these, the oldest first. With `lock` nobody else looks
    for such rows until the transaction ends, so that two that find none do not both add one."""
    wanted = cast(literal(dict(cells), JSONB), JSONB)
    if lock:
        key = func.hashtextextended(f"{register_id} {sorted(cells.items())}", 0)
        await conn.execute(select(func.pg_advisory_xact_lock(key)))
    query = select(*ROW).where(
        rows.c.register_id == register_id,
        rows.c["values"].contains(wanted),
        rows.c.removed.is_(None),
    )
    if lock:
        query = query.with_for_update()
    found = await conn.execute(query.order_by(rows.c.id))
    return [row for row in map(row_of, found) if all(row.values[k] == v for k, v in cells.items())]


async def put(conn: Connection, id: int, values: Mapping[str, Cell]) -> None:
    """Store what the cells of a row, which is locked, are by now."""
    changed = {"values": dict(values), "touched": TOUCHED}
    await conn.execute(update(rows).where(rows.c.id == id).values(changed))


async def put_many(conn: Connection, changed: Mapping[int, Mapping[str, Cell]]) -> None:
    """`put` for several rows, which are locked."""
    if not changed:
        return
    query = update(rows).where(rows.c.id == bindparam("row"))
    cells = bindparam("cells", type_=JSONB)
    given = [{"row": id, "cells": dict(one)} for id, one in changed.items()]
    await conn.execute(query.values({"values": cells, "touched": TOUCHED}), given)


async def locked(
    conn: Connection, register_id: UUID, ids: Collection[int], removed: bool = False
) -> dict[int, Row]:
    """Those of these rows that are there, or were `removed`, which nobody else changes until the
    transaction ends."""
    query = select(*ROW).where(
        rows.c.register_id == register_id,
        rows.c.id == func.any(literal(sorted(ids), ARRAY(BigInteger))),
        rows.c.removed.is_not(None) if removed else rows.c.removed.is_(None),
    )
    found = await conn.execute(query.order_by(rows.c.id).with_for_update())
    return {row.id: row for row in map(row_of, found)}


async def add_many(
    conn: Connection, register_id: UUID, some: Sequence[Mapping[str, Cell]], now: datetime
) -> list[int]:
    """Add many rows that come from no entry; their ids. The register is locked."""
    ids = list((await conn.execute(_IDS, {"count": len(some)})).scalars())
    await copy_into(
        conn,
        "register_rows",
        ("id", "register_id", "values", "filed"),
        ("int8", "uuid", "jsonb", "timestamptz"),
        zip(ids, some, strict=True),
        lambda one: (one[0], register_id, Jsonb(dict(one[1])), now),
    )
    return ids


_IDS = text(
    "select nextval(pg_get_serial_sequence('register_rows', 'id')) from generate_series(1, :count)"
)


async def set_removed(conn: Connection, ids: Collection[int], removed: datetime | None) -> None:
    """Take rows, which are locked, out of their register, or put them back."""
    query = update(rows).where(rows.c.id == func.any(literal(sorted(ids), ARRAY(BigInteger))))
    await conn.execute(query.values(removed=removed, touched=TOUCHED))


async def row(
    conn: Connection, register_id: UUID, id: int
) -> tuple[Row, UUID | None, UUID | None] | None:
    """A row, and the questionnaire and the entry that it came from, if it came from one."""
    query = select(*ROW, rows.c.questionnaire_id, rows.c.entry_id).where(
        rows.c.register_id == register_id, rows.c.id == id
    )
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else (row_of(found[:-2]), found[-2], found[-1])


async def counts(conn: Connection) -> dict[UUID, int]:
    query = select(rows.c.register_id, func.count()).where(rows.c.removed.is_(None))
    return {row[0]: row[1] for row in await conn.execute(query.group_by(rows.c.register_id))}
