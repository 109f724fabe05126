"""Who has a draft or a register open, and where in it: rows that are forgotten after moments."""

from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import Column, ForeignKey, String, Table, delete, select
from sqlalchemy.dialects.postgresql import insert

from jotgate.core.records.questionnaires import Present
from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import Connection, metadata, time_column, uuid_column

presence = Table(
    "presence",
    metadata,
    uuid_column("thing_id", primary_key=True),
    Column("tab", String, primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE")),
    Column("at", String, nullable=False),
    time_column("seen"),
    prefixes=["UNLOGGED"],
)
"""`thing_id` is of a questionnaire or a register. Unlogged: after a crash of the database nobody
is there, and the next sign of life says so."""

GONE = timedelta(seconds=12)
"""After this long without a sign of life a tab counts as closed."""


async def note(conn: Connection, id: UUID, tab: str, account: UUID, at: str, now: datetime) -> None:
    """Somebody is there; tabs that have been silent for long are forgotten."""
    values = {"account_id": account, "at": at, "seen": now}
    query = insert(presence).values(thing_id=id, tab=tab, **values)
    await conn.execute(query.on_conflict_do_update(constraint="pk_presence", set_=values))
    await conn.execute(delete(presence).where(presence.c.seen < now - 10 * GONE))


async def others(conn: Connection, id: UUID, tab: str, now: datetime) -> list[Present]:
    """Who is in other tabs, by name."""
    query = (
        select(presence.c.tab, accounts.c.name, presence.c.at)
        .join(accounts, accounts.c.id == presence.c.account_id)
        .where(
            presence.c.thing_id == id,
            presence.c.tab != tab,
            presence.c.seen > now - GONE,
        )
        .order_by(accounts.c.name, presence.c.tab)
    )
    return [Present(*row) for row in await conn.execute(query)]
