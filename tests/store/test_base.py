"""What all tables share."""

from datetime import UTC, datetime
from uuid import uuid4

from sqlalchemy import Column, LargeBinary, MetaData, String, Table, select
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.services.context import Context
from jotgate.store.base import insert_all, maybe_time_column, uuid_column


async def test_rows_are_stored_at_once_as_one_by_one(context: Context) -> None:
    """Lists in JSON are values of one cell, however long and deep."""
    table = Table(
        "some",
        MetaData(),
        uuid_column("id", primary_key=True),
        Column("name", String),
        Column("said", JSONB(none_as_null=True)),
        Column("hash", LargeBinary),
        maybe_time_column("at"),
        prefixes=["temporary"],
    )
    now = datetime(2026, 3, 1, 8, tzinfo=UTC)
    rows = [
        {"id": uuid4(), "name": name, "said": said, "hash": hash, "at": at}
        for name, said, hash, at in (
            ("a", {"b": [1, "x"]}, b"\x00\xff", now),
            (None, [["x"], []], None, None),
            ('q"{},\\', "text", b"", now),
            ("", [], b"x", None),
            ("no", None, b"y", None),
        )
    ]
    async with context.engine.connect() as conn:
        await conn.run_sync(table.create)
        await insert_all(conn, table, rows[:1])
        await insert_all(conn, table, rows[1:])
        found = [dict(row._mapping) for row in await conn.execute(select(table))]
    assert found == rows
