"""What became of each row of a register."""

from collections.abc import Sequence

from psycopg.types.json import Jsonb
from sqlalchemy import (
    BigInteger,
    Column,
    ForeignKey,
    Identity,
    Index,
    Integer,
    String,
    Table,
    insert,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.dispatch import RowChange
from jotgate.store.base import Connection, copy_into, metadata, time_column, uuid_column

row_changes = Table(
    "row_changes",
    metadata,
    Column("id", BigInteger, Identity(), primary_key=True),
    Column(
        "row_id", BigInteger, ForeignKey("register_rows.id", ondelete="CASCADE"), nullable=False
    ),
    time_column("at"),
    Column("did", String, nullable=False),
    uuid_column("account_id", nullable=True),
    Column("rule", String, nullable=False),
    Column("entry_number", Integer),
    Column("before", JSONB, nullable=False),
    Column("after", JSONB, nullable=False),
    Index(None, "row_id", "id"),
)


async def note_changes(conn: Connection, changes: Sequence[RowChange]) -> None:
    if not changes:
        return
    given = [vars(one) | {"before": dict(one.before), "after": dict(one.after)} for one in changes]
    await conn.execute(insert(row_changes), given)


async def note_many(conn: Connection, changes: Sequence[RowChange]) -> None:
    """`note_changes` for very many."""
    await copy_into(
        conn,
        "row_changes",
        ("row_id", "at", "did", "account_id", "rule", "before", "after"),
        ("int8", "timestamptz", "text", "uuid", "text", "jsonb", "jsonb"),
        changes,
        lambda one: (
            one.row_id,
            one.at,
            one.did,
            one.account_id,
            one.rule,
            Jsonb(dict(one.before)),
            Jsonb(dict(one.after)),
        ),
    )


async def changes_of(conn: Connection, row_id: int, limit: int) -> list[RowChange]:
    """What became of a row, the last first."""
    c = row_changes.c
    query = select(*(c[name] for name in RowChange.__annotations__)).where(c.row_id == row_id)
    return [RowChange(*one) for one in await conn.execute(query.order_by(c.id.desc()).limit(limit))]


async def changed_by_hand(conn: Connection, row_id: int) -> set[str]:
    """The columns of a row whose cells people changed."""
    c = row_changes.c
    query = select(c.before, c.after).where(c.row_id == row_id, c.account_id.is_not(None))
    return {key for both in await conn.execute(query) for cells in both for key in cells}


async def was_taken_out_by_hand(conn: Connection, row_id: int) -> bool:
    """Whether it was somebody who took a row out the last time, and no replay."""
    c = row_changes.c
    query = select(c.account_id).where(c.row_id == row_id, c.did == "removed")
    found = await conn.execute(query.order_by(c.id.desc()).limit(1))
    return found.scalar_one_or_none() is not None
