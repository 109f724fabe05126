"""The trail: who did and who saw what. Rows are added, never changed."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import (
    BigInteger,
    Column,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Table,
    and_,
    func,
    or_,
    select,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.trail import Link, TrailEntry, TrailFilter, TrailMark
from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import Connection, insert_all, metadata, time_column, uuid_column

trail = Table(
    "trail",
    metadata,
    Column("id", BigInteger, primary_key=True, autoincrement=False),
    time_column("at"),
    uuid_column("account_id", ForeignKey("accounts.id"), nullable=True),
    Column("action", String, nullable=False),
    uuid_column("questionnaire_id", nullable=True),
    uuid_column("entry_id", nullable=True),
    uuid_column("register_id", nullable=True),
    uuid_column("about_id", ForeignKey("accounts.id"), nullable=True),
    Column("detail", JSONB, nullable=False),
    Index(None, "at"),
    Index(None, "account_id"),
    Index(None, "about_id"),
    Index(None, "questionnaire_id"),
    Index(None, "entry_id"),
)
trail_links = Table(
    "trail_links",
    metadata,
    Column("trail_id", BigInteger, ForeignKey("trail.id"), primary_key=True, autoincrement=False),
    Column("hash", LargeBinary, nullable=False),
)
"""The chain: the hash of each row and of the link before it."""

LOCK = 0x7261_696C
"""Of the chain (PostgreSQL, advisory locks), held until the transaction ends: every link is made
from the one before."""

_MARK = (
    trail.c.id,
    trail.c.at,
    trail.c.account_id,
    trail.c.action,
    trail.c.questionnaire_id,
    trail.c.entry_id,
    trail.c.register_id,
    trail.c.about_id,
    trail.c.detail,
)


async def lock(conn: Connection) -> None:
    await conn.execute(text("select pg_advisory_xact_lock(:lock)"), {"lock": LOCK})


async def last(conn: Connection) -> Link | None:
    """The last link of the chain."""
    query = select(trail_links.c.trail_id, trail_links.c.hash)
    row = (await conn.execute(query.order_by(trail_links.c.trail_id.desc()).limit(1))).one_or_none()
    return row and Link(*row)


async def last_id(conn: Connection) -> int:
    """The number of the last row; 0 where there is none."""
    query = select(func.coalesce(func.max(trail.c.id), 0))
    return int((await conn.execute(query)).scalar_one())


async def add(conn: Connection, marks: Sequence[TrailMark]) -> None:
    await insert_all(conn, trail, [vars(mark) for mark in marks])


async def add_links(conn: Connection, links: Sequence[Link]) -> None:
    rows = [{"trail_id": link.id, "hash": link.hash} for link in links]
    await insert_all(conn, trail_links, rows)


async def following(
    conn: Connection, after: int, limit: int
) -> list[tuple[TrailMark, bytes | None]]:
    """Rows from the oldest on, each with its link of the chain."""
    query = (
        select(*_MARK, trail_links.c.hash)
        .outerjoin(trail_links, trail_links.c.trail_id == trail.c.id)
        .where(trail.c.id > after)
        .order_by(trail.c.id)
        .limit(limit)
    )
    return [(TrailMark(*row[:9]), row[9]) for row in await conn.execute(query)]


def _matching(wanted: TrailFilter) -> Any:
    t = trail.c
    conditions: list[Any] = []
    if wanted.person is not None:
        conditions.append(or_(t.account_id == wanted.person, t.about_id == wanted.person))
    if wanted.questionnaire is not None:
        conditions.append(t.questionnaire_id == wanted.questionnaire)
    if wanted.entry is not None:
        conditions.append(t.entry_id == wanted.entry)
    if wanted.register is not None:
        conditions.append(t.register_id == wanted.register)
    if wanted.actions:
        conditions.append(t.action.in_(wanted.actions))
    if wanted.key is not None:
        conditions.append(t.detail["keys"].contains([wanted.key]))
    if wanted.since is not None:
        conditions.append(t.at >= wanted.since)
    if wanted.until is not None:
        conditions.append(t.at < wanted.until)
    return and_(True, *conditions)


async def newest(
    conn: Connection, wanted: TrailFilter, before: int | None, limit: int
) -> list[TrailEntry]:
    """What matches from the newest back, those with an id under `before` where it is given."""
    t, about = trail.c, accounts.alias()
    query = (
        select(
            t.id,
            t.at,
            t.account_id,
            func.coalesce(accounts.c.name, ""),
            t.action,
            t.questionnaire_id,
            t.entry_id,
            t.register_id,
            t.about_id,
            func.coalesce(about.c.name, ""),
            t.detail,
        )
        .outerjoin(accounts, accounts.c.id == t.account_id)
        .outerjoin(about, about.c.id == t.about_id)
        .where(_matching(wanted))
    )
    if before is not None:
        query = query.where(t.id < before)
    query = query.order_by(t.id.desc()).limit(limit)
    return [TrailEntry(*row) for row in await conn.execute(query)]
