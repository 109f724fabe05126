"""Mail addresses that must not be written to. They stay when the contact is taken out: else it
would be written to again once it is brought in anew."""

from collections.abc import Collection
from datetime import datetime
from typing import Any

from sqlalchemy import Column, String, Table, delete, func, select
from sqlalchemy.dialects.postgresql import insert

from jotgate.core.contacts.opting import EVERYTHING, OptOut, Scope
from jotgate.store.base import Connection, metadata, time_column

opt_outs = Table(
    "opt_outs",
    metadata,
    Column("email", String, primary_key=True),
    Column("scope", String, primary_key=True, server_default=""),
    Column("told", String, nullable=False, server_default=""),
    time_column("at"),
)
"""`scope` is of what; `told` how people read that, or of everything where it came from."""

o = opt_outs.c


async def add(conn: Connection, email: str, at: datetime, scope: Scope = EVERYTHING) -> bool:
    """Whether it was not there before."""
    query = insert(opt_outs).values(email=email, scope=scope.key, told=scope.told, at=at)
    found = await conn.execute(query.on_conflict_do_nothing().returning(o.email))
    return found.first() is not None


async def add_many(conn: Connection, emails: Collection[str], at: datetime, told: str) -> int:
    """Have no letter go to any of these; of how many that is new."""
    rows = [{"email": email, "at": at, "told": told} for email in sorted(set(emails))]
    if not rows:
        return 0
    query = insert(opt_outs).values(rows).on_conflict_do_nothing().returning(o.email)
    return len((await conn.execute(query)).all())


async def remove(conn: Connection, email: str, scopes: Collection[str] = ("",)) -> bool:
    query = delete(opt_outs).where(o.email == email, o.scope.in_(scopes))
    return (await conn.execute(query)).rowcount > 0


async def since(conn: Connection, email: str) -> datetime | None:
    """Since when nothing goes to an address."""
    query = select(o.at).where(o.email == email, o.scope == "")
    found: datetime | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def of(conn: Connection, email: str) -> list[OptOut]:
    """All that an address opted out of, everything first, then the newest."""
    query = select(o.email, o.scope, o.told, o.at).where(o.email == email)
    found = await conn.execute(query.order_by((o.scope == "").desc(), o.at.desc()))
    return [OptOut(*row) for row in found]


async def stopped(
    conn: Connection, emails: Collection[str], scopes: Collection[str]
) -> frozenset[str]:
    """Those of these addresses that opted out of everything, or of one of `scopes`."""
    query = select(o.email).where(o.email.in_(emails), o.scope.in_(["", *scopes]))
    return frozenset((await conn.execute(query)).scalars())


async def count(conn: Connection) -> int:
    """How many addresses nothing goes to."""
    query = select(func.count()).select_from(opt_outs).where(o.scope == "")
    return int((await conn.execute(query)).scalar_one())


async def page(conn: Connection, words: str, after: str, limit: int) -> list[OptOut]:
    """Addresses that nothing goes to, in their order, behind `after`, with `words` in them."""
    query = select(o.email, o.scope, o.told, o.at).where(o.scope == "", o.email > after)
    if words:
        query = query.where(func.strpos(o.email, words.lower()) > 0)
    found = await conn.execute(query.order_by(o.email).limit(limit))
    return [OptOut(*row) for row in found]


def told_to(email: Any, scopes: Collection[Any]) -> Any:
    """The first moment that an address opted out of one of these, as SQL."""
    query = select(func.min(o.at)).where(o.email == email, o.scope.in_(scopes))
    return query.scalar_subquery()
