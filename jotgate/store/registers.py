"""Registers and the rows that are filed to them."""

from collections.abc import Mapping
from dataclasses import asdict
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    Column,
    ForeignKey,
    Identity,
    Index,
    Integer,
    String,
    Table,
    func,
    insert,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.about import Thing
from jotgate.core.entries.register import Column as RegisterColumn
from jotgate.core.entries.register import Register
from jotgate.core.records.dispatch import Row
from jotgate.store.base import Connection, metadata, nothing, time_column, uuid_column

registers = Table(
    "registers",
    metadata,
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False, unique=True),
    Column("columns", JSONB, nullable=False),
)
rows = Table(
    "register_rows",
    metadata,
    Column("id", BigInteger, Identity(), primary_key=True),
    uuid_column("register_id", ForeignKey("registers.id", ondelete="CASCADE")),
    Column("values", JSONB, nullable=False),
    uuid_column("questionnaire_id"),
    uuid_column("entry_id"),
    Column("entry_number", Integer, nullable=False),
    Column("about", JSONB),
    time_column("filed"),
    Index(None, "register_id", "id"),
)
"""Rows name the entry that they came from, and stay when it is deleted. `about` is the thing in
another system that the entry is about: id, name and address."""


async def add(conn: Connection, register: Register) -> None:
    await conn.execute(
        insert(registers).values(
            id=register.id,
            name=register.name,
            columns=[column.model_dump() for column in register.columns],
        )
    )


def _register(id: UUID, name: str, columns: list[dict[str, str]]) -> Register:
    parsed = tuple(RegisterColumn.model_validate(column) for column in columns)
    return Register(id=id, name=name, columns=parsed)


async def every(conn: Connection) -> dict[UUID, Register]:
    """All registers by id, in the order of their names."""
    query = select(registers.c.id, registers.c.name, registers.c.columns).order_by(registers.c.name)
    return {row[0]: _register(*row) for row in await conn.execute(query)}


async def counts(conn: Connection) -> dict[UUID, int]:
    query = select(rows.c.register_id, func.count()).group_by(rows.c.register_id)
    return {row[0]: row[1] for row in await conn.execute(query)}


async def file(
    conn: Connection,
    register_id: UUID,
    values: Mapping[str, str | bool],
    source: tuple[UUID, UUID, int],
    about: Thing | None,
    now: datetime,
) -> int:
    """File a row that comes from `source` (questionnaire, entry, entry number); its id."""
    query = (
        insert(rows)
        .values(
            register_id=register_id,
            values=dict(values),
            questionnaire_id=source[0],
            entry_id=source[1],
            entry_number=source[2],
            about=asdict(about) if about else nothing(),
            filed=now,
        )
        .returning(rows.c.id)
    )
    id: int = (await conn.execute(query)).scalar_one()
    return id


async def newest(conn: Connection, register_id: UUID, before: int | None, limit: int) -> list[Row]:
    """Rows from the newest back, those with an id under `before` where it is given."""
    columns = (rows.c.id, rows.c["values"], rows.c.entry_number, rows.c.filed, rows.c.about)
    query = select(*columns).where(rows.c.register_id == register_id)
    if before is not None:
        query = query.where(rows.c.id < before)
    query = query.order_by(rows.c.id.desc()).limit(limit)
    found = await conn.execute(query)
    return [Row(*row[:-1], about=row.about and Thing(**row.about)) for row in found]
