"""Data keys of what was deleted or replaced: triggers note them in the same transaction."""

from collections.abc import Collection
from uuid import UUID

from sqlalchemy import Table, delete, select

from jotgate.store.base import Connection, metadata, uuid_column
from jotgate.store.files import files
from jotgate.store.registers.row_files import row_files

erased_keys = Table("erased_keys", metadata, uuid_column("key_id", primary_key=True))


async def some(conn: Connection, limit: int) -> list[UUID]:
    """Keys that are to be destroyed, locked until the transaction ends."""
    query = select(erased_keys.c.key_id).limit(limit).with_for_update(skip_locked=True)
    return list((await conn.execute(query)).scalars())


async def still_held(conn: Connection, ids: Collection[UUID]) -> set[UUID]:
    """Those of files that are left elsewhere: of an entry, or of a row of a register."""
    held = select(files.c.key_id).where(files.c.key_id.in_(ids))
    rows = select(row_files.c.key_id).where(row_files.c.key_id.in_(ids))
    return {*(await conn.execute(held.union(rows))).scalars()}


async def forget(conn: Connection, ids: Collection[UUID]) -> None:
    await conn.execute(delete(erased_keys).where(erased_keys.c.key_id.in_(ids)))
