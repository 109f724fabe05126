"""Mail addresses that must not be written to. They stay when the contact is taken out: else it
would be written to again once it is brought in anew."""

from collections.abc import Collection
from datetime import datetime

from sqlalchemy import Column, String, Table, delete, select
from sqlalchemy.dialects.postgresql import insert

from jotgate.store.base import Connection, metadata, time_column

opt_outs = Table(
    "opt_outs",
    metadata,
    Column("email", String, primary_key=True),
    time_column("at"),
)


async def add(conn: Connection, email: str, at: datetime) -> bool:
    """Whether it was not there before."""
    query = insert(opt_outs).values(email=email, at=at).on_conflict_do_nothing()
    return (await conn.execute(query)).rowcount > 0


async def remove(conn: Connection, email: str) -> bool:
    return (await conn.execute(delete(opt_outs).where(opt_outs.c.email == email))).rowcount > 0


async def since(conn: Connection, email: str) -> datetime | None:
    query = select(opt_outs.c.at).where(opt_outs.c.email == email)
    found: datetime | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def among(conn: Connection, emails: Collection[str]) -> set[str]:
    found = await conn.execute(select(opt_outs.c.email).where(opt_outs.c.email.in_(emails)))
    return {row.email for row in found}
