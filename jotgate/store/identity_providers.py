"""The identity providers that visitors sign in at; their secrets stand sealed."""

from collections.abc import Collection
from typing import Any
from uuid import UUID

from sqlalchemy import Column, Integer, LargeBinary, Table, delete, func, insert, select, update
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.identity_providers import KeptProvider
from jotgate.core.sign_in import IdentityProvider
from jotgate.store.base import Connection, dumped, metadata, uuid_column

identity_providers = Table(
    "identity_providers",
    metadata,
    uuid_column("id", primary_key=True),
    Column("settings", JSONB, nullable=False),
    Column("sealed", LargeBinary, nullable=False),
    Column("revision", Integer, nullable=False),
)


def _kept(row: Any) -> KeptProvider:
    settings = IdentityProvider.model_validate(row.settings)
    return KeptProvider(row.id, settings, row.sealed, row.revision)


async def every(conn: Connection) -> list[KeptProvider]:
    p = identity_providers.c
    query = select(identity_providers).order_by(func.lower(p.settings["name"].astext), p.id)
    return [_kept(row) for row in await conn.execute(query)]


async def of_ids(conn: Connection, ids: Collection[UUID]) -> dict[UUID, KeptProvider]:
    query = select(identity_providers).where(identity_providers.c.id.in_(ids))
    return {row.id: _kept(row) for row in await conn.execute(query)}


async def add(conn: Connection, id: UUID, settings: IdentityProvider, sealed: bytes) -> None:
    values = {"id": id, "settings": dumped(settings), "sealed": sealed, "revision": 1}
    await conn.execute(insert(identity_providers).values(**values))


async def put(
    conn: Connection, id: UUID, revision: int, settings: IdentityProvider, sealed: bytes | None
) -> bool:
    """Change one that was read at `revision`, its secret where one is given; whether it was that
    still."""
    p = identity_providers.c
    values: dict[str, Any] = {"settings": dumped(settings), "revision": revision + 1}
    if sealed is not None:
        values["sealed"] = sealed
    query = update(identity_providers).where(p.id == id, p.revision == revision)
    return (await conn.execute(query.values(**values))).rowcount > 0


async def remove(conn: Connection, id: UUID) -> bool:
    query = delete(identity_providers).where(identity_providers.c.id == id)
    return (await conn.execute(query)).rowcount > 0
