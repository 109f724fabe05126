"""Registers, the rows that are filed to them, and what became of each row."""

from collections.abc import Collection, Mapping
from dataclasses import asdict
from datetime import datetime
from typing import Any
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
    cast,
    func,
    insert,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.about import Thing
from jotgate.core.records.dispatch import Row, RowChange
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column as RegisterColumn
from jotgate.core.registers.columns import Register
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
    Index(
        "ix_register_rows_values",
        "values",
        postgresql_using="gin",
        postgresql_ops={"values": "jsonb_path_ops"},
    ),
)
"""Rows name the entry that they came from, and stay when it is deleted. `about` is the thing in
another system that the entry is about: id, name and address."""

row_changes = Table(
    "row_changes",
    metadata,
    Column("id", BigInteger, Identity(), primary_key=True),
    Column(
        "row_id", BigInteger, ForeignKey("register_rows.id", ondelete="CASCADE"), nullable=False
    ),
    time_column("at"),
    uuid_column("account_id", nullable=True),
    Column("rule", String, nullable=False),
    Column("entry_number", Integer),
    Column("before", JSONB),
    Column("after", JSONB, nullable=False),
    Index(None, "row_id", "id"),
)


async def add(conn: Connection, register: Register) -> None:
    await conn.execute(
        insert(registers).values(
            id=register.id,
            name=register.name,
            columns=[column.model_dump() for column in register.columns],
        )
    )


def _register(id: UUID, name: str, columns: list[dict[str, Any]]) -> Register:
    parsed = tuple(RegisterColumn.model_validate(column) for column in columns)
    return Register(id=id, name=name, columns=parsed)


async def every(conn: Connection, ids: Collection[UUID] | None = None) -> dict[UUID, Register]:
    """Registers by id, in the order of their names; those of `ids` where that is given."""
    query = select(registers.c.id, registers.c.name, registers.c.columns).order_by(registers.c.name)
    if ids is not None:
        query = query.where(registers.c.id.in_(ids))
    return {row[0]: _register(*row) for row in await conn.execute(query)}


async def counts(conn: Connection) -> dict[UUID, int]:
    query = select(rows.c.register_id, func.count()).group_by(rows.c.register_id)
    return {row[0]: row[1] for row in await conn.execute(query)}


async def file(
    conn: Connection,
    register_id: UUID,
    values: Mapping[str, Cell],
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


_ROW: tuple[Any, ...] = (
    rows.c.id,
    rows.c["values"],
    rows.c.entry_number,
    rows.c.filed,
    rows.c.about,
)


def _row(row: Any) -> Row:
    id, values, number, filed, about = row
    return Row(id, values, number, filed, about and Thing(**about))


async def alike(
    conn: Connection, register_id: UUID, cells: Mapping[str, Cell], lock: bool = False
) -> list[Row]:
    """The rows whose cells are the same as these, the oldest first. With `lock` nobody else looks
    for such rows until the transaction ends, so that two that find none do not both add one."""
    wanted = cast(literal(dict(cells), JSONB), JSONB)
    if lock:
        key = func.hashtextextended(f"{register_id} {sorted(cells.items())}", 0)
        await conn.execute(select(func.pg_advisory_xact_lock(key)))
    query = select(*_ROW).where(
        rows.c.register_id == register_id, rows.c["values"].contains(wanted)
    )
    if lock:
        query = query.with_for_update()
    found = await conn.execute(query.order_by(rows.c.id))
    return [row for row in map(_row, found) if all(row.values[k] == v for k, v in cells.items())]


async def put(conn: Connection, id: int, values: Mapping[str, Cell]) -> None:
    """Store what the cells of a row, which is locked, are by now."""
    await conn.execute(update(rows).where(rows.c.id == id).values({"values": dict(values)}))


async def note_change(conn: Connection, change: RowChange) -> None:
    values = vars(change) | {
        "before": nothing() if change.before is None else dict(change.before),
        "after": dict(change.after),
    }
    await conn.execute(insert(row_changes).values(**values))


async def newest(conn: Connection, register_id: UUID, before: int | None, limit: int) -> list[Row]:
    """Rows from the newest back, those with an id under `before` where it is given."""
    query = select(*_ROW).where(rows.c.register_id == register_id)
    if before is not None:
        query = query.where(rows.c.id < before)
    found = await conn.execute(query.order_by(rows.c.id.desc()).limit(limit))
    return [_row(row) for row in found]


async def row(conn: Connection, register_id: UUID, id: int) -> tuple[Row, UUID, UUID] | None:
    """A row, and the questionnaire and the entry that it came from."""
    query = select(*_ROW, rows.c.questionnaire_id, rows.c.entry_id).where(
        rows.c.register_id == register_id, rows.c.id == id
    )
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else (_row(found[:-2]), found[-2], found[-1])


async def changes_of(conn: Connection, row_id: int, limit: int) -> list[RowChange]:
    """What became of a row, the last first."""
    c = row_changes.c
    query = select(*(c[name] for name in RowChange.__annotations__)).where(c.row_id == row_id)
    return [RowChange(*one) for one in await conn.execute(query.order_by(c.id.desc()).limit(limit))]
