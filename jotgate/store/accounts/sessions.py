"""Sessions, the devices that people have signed in on, and failed tries."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    Table,
    delete,
    exists,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.records.accounts import Account, OpenSession, Session
from jotgate.store.accounts.accounts import ACCOUNT, accounts, open_at
from jotgate.store.base import Connection, metadata, time_column, uuid_column

sessions = Table(
    "sessions",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    uuid_column("id", unique=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), index=True),
    Column("csrf", String, nullable=False),
    time_column("started"),
    time_column("seen"),
    time_column("confirmed"),
    time_column("expires"),
    Column("limited", Boolean, nullable=False),
    Column("agent", String, nullable=False),
    Column("place", String, nullable=False),
)
devices = Table(
    "devices",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    uuid_column(
        "account_id", ForeignKey("accounts.id", ondelete="CASCADE"), primary_key=True, index=True
    ),
    time_column("seen"),
)
sign_in_tries = Table(
    "sign_in_tries",
    metadata,
    Column("who", String, nullable=False),
    time_column("at"),
    Index(None, "who", "at"),
)
used_once = Table(
    "used_once",
    metadata,
    Column("name", LargeBinary, primary_key=True),
    time_column("expires"),
)
"""What may be used one time only, by its hash, until it would have run out anyway."""


async def start(conn: Connection, token_hash: bytes, made: Session, agent: str, place: str) -> None:
    await conn.execute(
        insert(sessions).values(
            token_hash=token_hash,
            id=made.id,
            account_id=made.account.id,
            csrf=made.csrf,
            started=made.seen,
            seen=made.seen,
            confirmed=made.confirmed,
            expires=made.expires,
            limited=made.limited,
            agent=agent,
            place=place,
        )
    )
    await conn.execute(
        update(accounts).where(accounts.c.id == made.account.id).values(seen=made.seen)
    )


async def find(conn: Connection, token_hash: bytes, now: datetime) -> Session | None:
    """A session whose account is open."""
    s = sessions.c
    query = (
        select(*ACCOUNT, s.id, s.csrf, s.expires, s.seen, s.confirmed, s.limited)
        .join(sessions, s.account_id == accounts.c.id)
        .where(s.token_hash == token_hash, s.expires > now, open_at(now))
    )
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    csrf, expires, seen, confirmed, limited = row[5:]
    return Session(row[4], Account(*row[:4]), csrf, expires, seen, confirmed, limited)


async def note_seen(conn: Connection, token_hash: bytes, now: datetime) -> None:
    await conn.execute(update(sessions).where(sessions.c.token_hash == token_hash).values(seen=now))


async def confirm(conn: Connection, id: UUID, now: datetime) -> None:
    await conn.execute(update(sessions).where(sessions.c.id == id).values(confirmed=now))


async def unlimited(conn: Connection, id: UUID) -> None:
    await conn.execute(update(sessions).where(sessions.c.id == id).values(limited=False))


async def of_account(conn: Connection, account_id: UUID, now: datetime) -> list[OpenSession]:
    """The open sessions of somebody, the one used last first."""
    s = sessions.c
    query = (
        select(s.id, s.started, s.seen, s.expires, s.agent, s.place)
        .where(s.account_id == account_id, s.expires > now)
        .order_by(s.seen.desc(), s.id)
    )
    return [OpenSession(*row) for row in await conn.execute(query)]


async def end(conn: Connection, account_id: UUID, id: UUID) -> bool:
    s = sessions.c
    query = delete(sessions).where(s.account_id == account_id, s.id == id).returning(s.id)
    return (await conn.execute(query)).one_or_none() is not None


async def end_all(conn: Connection, account_id: UUID, but: UUID | None = None) -> None:
    query = delete(sessions).where(sessions.c.account_id == account_id)
    await conn.execute(query if but is None else query.where(sessions.c.id != but))


async def end_by_token(conn: Connection, token_hash: bytes) -> None:
    await conn.execute(delete(sessions).where(sessions.c.token_hash == token_hash))


async def forget_old(conn: Connection, now: datetime, tries_before: datetime) -> None:
    """Clear away what has run out: sessions, tries, and names of what was used once."""
    await conn.execute(delete(sessions).where(sessions.c.expires <= now))
    await conn.execute(delete(used_once).where(used_once.c.expires <= now))
    await conn.execute(delete(sign_in_tries).where(sign_in_tries.c.at < tries_before))


async def is_known(conn: Connection, token_hash: bytes, account_id: UUID, since: datetime) -> bool:
    """Whether somebody has signed in on a device."""
    d = devices.c
    found = exists().where(d.token_hash == token_hash, d.account_id == account_id, d.seen > since)
    return (await conn.execute(select(found))).scalar_one()


async def note_device(
    conn: Connection, token_hash: bytes, account_id: UUID, now: datetime
) -> tuple[bool, bool]:
    """Note that somebody signed in on a device: whether it is new, whether they had none before."""
    d = devices.c
    query = select(func.count()).where(d.account_id == account_id)
    before = (await conn.execute(query)).scalar_one()
    known = await conn.execute(
        select(d.seen).where(d.token_hash == token_hash, d.account_id == account_id)
    )
    new = known.one_or_none() is None
    await conn.execute(
        upsert(devices)
        .values(token_hash=token_hash, account_id=account_id, seen=now)
        .on_conflict_do_update(index_elements=["token_hash", "account_id"], set_={"seen": now})
    )
    return new, before == 0


async def forget_devices(conn: Connection, account_id: UUID) -> None:
    await conn.execute(delete(devices).where(devices.c.account_id == account_id))


async def note_try(conn: Connection, who: str, now: datetime) -> None:
    await conn.execute(insert(sign_in_tries).values(who=who, at=now))


async def tries(conn: Connection, who: str, since: datetime) -> int:
    query = select(func.count()).where(sign_in_tries.c.who == who, sign_in_tries.c.at > since)
    return (await conn.execute(query)).scalar_one()


async def forget_tries(conn: Connection, who: Sequence[str]) -> None:
    await conn.execute(delete(sign_in_tries).where(sign_in_tries.c.who.in_(who)))


async def forget_try(conn: Connection, who: str, at: datetime) -> None:
    t = sign_in_tries.c
    await conn.execute(delete(sign_in_tries).where(t.who == who, t.at == at))


async def use_once(conn: Connection, name: bytes, expires: datetime) -> bool:
    """Whether `name` is used for the first time."""
    query = upsert(used_once).values(name=name, expires=expires).on_conflict_do_nothing()
    return (await conn.execute(query.returning(used_once.c.name))).one_or_none() is not None
