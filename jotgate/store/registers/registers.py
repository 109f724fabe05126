"""Registers, and views of them under a name."""

from collections.abc import Collection
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    Integer,
    String,
    Table,
    Uuid,
    bindparam,
    delete,
    false,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from jotgate.core.registers.columns import Column as RegisterColumn
from jotgate.core.registers.columns import Register
from jotgate.store.base import Connection, dumped, metadata, uuid_column

registers = Table(
    "registers",
    metadata,
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False, unique=True),
    Column("columns", JSONB, nullable=False),
    Column("revision", Integer, nullable=False, server_default="1"),
    Column("cleared", Boolean, nullable=False, server_default=false()),
)


async def add(conn: Connection, register: Register) -> None:
    await conn.execute(
        insert(registers).values(
            id=register.id,
            name=register.name,
            columns=[dumped(column) for column in register.columns],
            cleared=register.cleared,
        )
    )


def _register(
    id: UUID, name: str, columns: list[dict[str, Any]], revision: int, cleared: bool
) -> Register:
    parsed = tuple(RegisterColumn.model_validate(column) for column in columns)
    return Register(id=id, name=name, columns=parsed, revision=revision, cleared=cleared)


_REGISTER = tuple(registers.c[one] for one in ("id", "name", "columns", "revision", "cleared"))


_EVERY = select(*_REGISTER).order_by(registers.c.name)
_THOSE = _EVERY.where(registers.c.id == func.any(bindparam("wanted", type_=ARRAY(Uuid))))


async def every(conn: Connection, ids: Collection[UUID] | None = None) -> dict[UUID, Register]:
    """Registers by id, in the order of their names; those of `ids` where that is given."""
    if ids is None:
        found = await conn.execute(_EVERY)
    else:
        found = await conn.execute(_THOSE, {"wanted": list(ids)})
    return {row[0]: _register(*row) for row in found}


async def locked(conn: Connection, id: UUID) -> Register | None:
    """A register that nobody else changes until the transaction ends, nor writes to the rows of."""
    query = select(*_REGISTER).where(registers.c.id == id).with_for_update()
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else _register(*found)


async def shared(conn: Connection, id: UUID) -> Register | None:
    """A register whose columns nobody changes until the transaction ends."""
    query = select(*_REGISTER).where(registers.c.id == id).with_for_update(read=True)
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else _register(*found)


async def is_at(conn: Connection, id: UUID, revision: int) -> bool:
    """Whether a register has the columns of `revision`, which nobody changes until the transaction
    ends."""
    r = registers.c
    query = select(r.id).where(r.id == id, r.revision == revision)
    found = await conn.execute(query.with_for_update(read=True, key_share=True))
    return found.one_or_none() is not None


async def put(conn: Connection, register: Register) -> None:
    """Store its name and columns, and whether it is cleared. Raises AlreadyThere for a name that is
    taken."""
    columns = [dumped(column) for column in register.columns]
    values = {"name": register.name, "columns": columns, "revision": register.revision}
    values["cleared"] = register.cleared
    await conn.execute(update(registers).where(registers.c.id == register.id).values(values))


async def remove(conn: Connection, id: UUID) -> None:
    """With its rows, its views, and the parts that people have in it."""
    await conn.execute(delete(registers).where(registers.c.id == id))
