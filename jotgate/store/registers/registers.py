"""Registers, and views of them under a name."""

from collections.abc import Collection
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    Integer,
    String,
    Table,
    UniqueConstraint,
    Uuid,
    bindparam,
    delete,
    false,
    func,
    insert,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from jotgate.core.registers.columns import Column as RegisterColumn
from jotgate.core.registers.columns import Register
from jotgate.core.registers.views import RowView, SavedView
from jotgate.store.base import Connection, dumped, metadata, time_column, uuid_column

registers = Table(
    "registers",
    metadata,
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False, unique=True),
    Column("columns", JSONB, nullable=False),
    Column("revision", Integer, nullable=False, server_default="1"),
    Column("cleared", Boolean, nullable=False, server_default=false()),
)
views = Table(
    "register_views",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("register_id", ForeignKey("registers.id", ondelete="CASCADE")),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), nullable=True),
    Column("name", String, nullable=False),
    Column("view", JSONB, nullable=False),
    time_column("made"),
    UniqueConstraint("register_id", "account_id", "name", postgresql_nulls_not_distinct=True),
)
"""`account_id` is of whom a view is for alone; null where it is for all."""


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


_VIEW = tuple(views.c[name] for name in ("id", "register_id", "account_id", "name", "view", "made"))


def _view(row: Any) -> SavedView:
    id, register_id, account_id, name, view, made = row
    return SavedView(id, register_id, account_id, name, RowView.model_validate(view), made)


async def views_of(conn: Connection, register_id: UUID, account_id: UUID) -> list[SavedView]:
    """The views for all and those of `account_id`, by name."""
    mine = or_(views.c.account_id.is_(None), views.c.account_id == account_id)
    query = select(*_VIEW).where(views.c.register_id == register_id, mine)
    return [_view(row) for row in await conn.execute(query.order_by(views.c.name, views.c.made))]


async def view(conn: Connection, register_id: UUID, id: UUID) -> SavedView | None:
    query = select(*_VIEW).where(views.c.register_id == register_id, views.c.id == id)
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else _view(found)


async def add_view(conn: Connection, one: SavedView) -> None:
    """Raises AlreadyThere."""
    await conn.execute(insert(views).values({**vars(one), "view": dumped(one.view)}))


async def put_view(conn: Connection, one: SavedView) -> None:
    """Raises AlreadyThere."""
    values = {"name": one.name, "account_id": one.account_id, "view": dumped(one.view)}
    await conn.execute(update(views).where(views.c.id == one.id).values(values))


async def remove_view(conn: Connection, id: UUID) -> None:
    await conn.execute(delete(views).where(views.c.id == id))
