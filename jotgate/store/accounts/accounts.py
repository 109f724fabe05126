"""Accounts: who works here, and the one-time links that let people in."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    BigInteger,
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
    or_,
    select,
    update,
)

from jotgate.core.records.accounts import Account, Link, LinkPurpose, Person
from jotgate.store.accounts.parts import team_members
from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    time_column,
    uuid_column,
)

accounts = Table(
    "accounts",
    metadata,
    uuid_column("id", primary_key=True),
    Column("email", String, nullable=False, unique=True),
    Column("name", String, nullable=False),
    Column("role", String),
    Column("password_hash", String),
    Column("note", String, nullable=False, server_default=""),
    maybe_time_column("until"),
    maybe_time_column("left"),
    maybe_time_column("seen"),
    Column("totp", LargeBinary),
    Column("totp_step", BigInteger),
    Column("subject", String, unique=True),
)
"""`totp` is the sealed secret of one-time codes, `totp_step` the last step whose code was used,
`subject` who this is at the identity provider."""

one_time_links = Table(
    "one_time_links",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    Column("purpose", String, nullable=False),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), nullable=True),
    time_column("expires"),
    Index(None, "account_id"),
)

ACCOUNT = (accounts.c.id, accounts.c.email, accounts.c.name, accounts.c.role)


def open_at(now: datetime) -> Any:
    """The condition that an account is open."""
    a = accounts.c
    return a.left.is_(None) & or_(a.until.is_(None), a.until > now)


async def add(
    conn: Connection,
    account: Account,
    password_hash: str | None,
    note: str = "",
    until: datetime | None = None,
) -> None:
    await conn.execute(
        insert(accounts).values(
            id=account.id,
            email=account.email,
            name=account.name,
            role=account.role,
            password_hash=password_hash,
            note=note,
            until=until,
        )
    )


async def change(conn: Connection, id: UUID, **values: Any) -> bool:
    """Change columns of an account, if it is there."""
    query = update(accounts).where(accounts.c.id == id).values(**values).returning(accounts.c.id)
    return (await conn.execute(query)).one_or_none() is not None


async def by_email(conn: Connection, email: str, now: datetime) -> tuple[Account, str] | None:
    """The open account with this address (in lower case), and its password hash, which is empty
    where it has no password."""
    query = select(*ACCOUNT, func.coalesce(accounts.c.password_hash, "")).where(
        accounts.c.email == email, open_at(now)
    )
    row = (await conn.execute(query)).one_or_none()
    return row and (Account(*row[:4]), row[4])


async def by_id(conn: Connection, id: UUID, now: datetime) -> Account | None:
    """The open account with this id."""
    query = select(*ACCOUNT).where(accounts.c.id == id, open_at(now))
    row = (await conn.execute(query)).one_or_none()
    return row and Account(*row)


async def by_subject(conn: Connection, subject: str, now: datetime) -> Account | None:
    query = select(*ACCOUNT).where(accounts.c.subject == subject, open_at(now))
    row = (await conn.execute(query)).one_or_none()
    return row and Account(*row)


async def password_hash(conn: Connection, id: UUID) -> str:
    """The hash of somebody's password, empty where there is none."""
    query = select(func.coalesce(accounts.c.password_hash, "")).where(accounts.c.id == id)
    return str((await conn.execute(query)).scalar_one())


async def subject(conn: Connection, id: UUID) -> str | None:
    """Who somebody is at the identity provider."""
    query = select(accounts.c.subject).where(accounts.c.id == id)
    found: str | None = (await conn.execute(query)).scalar_one()
    return found


async def address_taken(conn: Connection, email: str) -> bool:
    found = exists().where(accounts.c.email == email)
    return (await conn.execute(select(found))).scalar_one()


async def any_account(conn: Connection) -> bool:
    return (await conn.execute(select(exists(select(accounts.c.id))))).scalar_one()


async def lasting_owners(conn: Connection, now: datetime) -> frozenset[UUID]:
    """Owners of the office whose accounts are open and have no end; their rows stay locked, so
    that two of them cannot take away each other."""
    a = accounts.c
    query = select(a.id).where(a.role == "owner", a.left.is_(None), a.until.is_(None))
    found = await conn.execute(query.order_by(a.id).with_for_update())
    return frozenset(found.scalars())


def _people() -> Any:
    from jotgate.store.accounts.factors import passkeys

    a, m = accounts.c, team_members.c
    in_teams = (
        select(func.coalesce(func.array_agg(m.team_id), []))
        .where(m.account_id == a.id)
        .scalar_subquery()
    )
    has_passkey = exists().where(passkeys.c.account_id == a.id)
    return select(
        a.id,
        a.email,
        a.name,
        a.role,
        a.note,
        a.until,
        a.left,
        a.password_hash.is_not(None),
        a.seen,
        a.totp.is_not(None) | has_passkey,
        in_teams,
    )


def _person(row: Any) -> Person:
    values: list[Any] = list(row)
    values[-1] = tuple(values[-1])
    return Person(*values)


async def people(conn: Connection) -> list[Person]:
    """Everybody in the order of their names, those who have left too."""
    query = _people().order_by(func.lower(accounts.c.name), accounts.c.id)
    return [_person(row) for row in await conn.execute(query)]


async def person(conn: Connection, id: UUID) -> Person | None:
    row = (await conn.execute(_people().where(accounts.c.id == id))).one_or_none()
    return None if row is None else _person(row)


async def add_link(
    conn: Connection,
    token_hash: bytes,
    purpose: LinkPurpose,
    account_id: UUID | None,
    expires: datetime,
) -> None:
    """Keep a one-time link; earlier ones of the same person for the same purpose end."""
    links = one_time_links.c
    same = links.account_id == account_id if account_id is not None else links.account_id.is_(None)
    await conn.execute(delete(one_time_links).where(links.purpose == purpose, same))
    await conn.execute(
        insert(one_time_links).values(
            token_hash=token_hash, purpose=purpose, account_id=account_id, expires=expires
        )
    )


async def link(conn: Connection, token_hash: bytes, now: datetime) -> Link | None:
    """A link that can still be used."""
    query = select(one_time_links.c.purpose, one_time_links.c.account_id).where(
        one_time_links.c.token_hash == token_hash, one_time_links.c.expires > now
    )
    row = (await conn.execute(query)).one_or_none()
    return row and Link(*row)


async def use_link(conn: Connection, token_hash: bytes, now: datetime) -> Link | None:
    """Take a link away, so that nobody uses it again: what it was for."""
    found = await link(conn, token_hash, now)
    gone = delete(one_time_links).where(one_time_links.c.token_hash == token_hash)
    taken = (await conn.execute(gone.returning(one_time_links.c.purpose))).one_or_none()
    return found if taken is not None else None


async def forget_links(conn: Connection, account_id: UUID) -> None:
    await conn.execute(delete(one_time_links).where(one_time_links.c.account_id == account_id))


async def forget_old_links(conn: Connection, now: datetime) -> None:
    await conn.execute(delete(one_time_links).where(one_time_links.c.expires <= now))
