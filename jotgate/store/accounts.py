"""Accounts, their sessions, failed sign-ins, and clearance per questionnaire."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
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
)

from jotgate.core.records.accounts import Account, Session
from jotgate.store.base import Connection, metadata, time_column, uuid_column

accounts = Table(
    "accounts",
    metadata,
    uuid_column("id", primary_key=True),
    Column("email", String, nullable=False, unique=True),
    Column("name", String, nullable=False),
    Column("role", String, nullable=False),
    Column("password_hash", String, nullable=False),
)
sessions = Table(
    "sessions",
    metadata,
    Column("token_hash", LargeBinary, primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE")),
    Column("csrf", String, nullable=False),
    time_column("expires"),
)
sign_in_tries = Table(
    "sign_in_tries",
    metadata,
    Column("who", String, nullable=False),
    time_column("at"),
    Index(None, "who", "at"),
)
clearances = Table(
    "clearances",
    metadata,
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), primary_key=True),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), primary_key=True
    ),
)


_ACCOUNT = (accounts.c.id, accounts.c.email, accounts.c.name, accounts.c.role)


async def add(conn: Connection, account: Account, password_hash: str) -> None:
    await conn.execute(
        insert(accounts).values(
            id=account.id,
            email=account.email,
            name=account.name,
            role=account.role,
            password_hash=password_hash,
        )
    )


async def by_email(conn: Connection, email: str) -> tuple[Account, str] | None:
    """The account with this address (in lower case), and its password hash."""
    query = select(*_ACCOUNT, accounts.c.password_hash).where(accounts.c.email == email)
    row = (await conn.execute(query)).one_or_none()
    return row and (Account(*row[:4]), row[4])


async def start_session(
    conn: Connection, token_hash: bytes, account_id: UUID, csrf: str, expires: datetime
) -> None:
    await conn.execute(
        insert(sessions).values(
            token_hash=token_hash, account_id=account_id, csrf=csrf, expires=expires
        )
    )


async def session(conn: Connection, token_hash: bytes, now: datetime) -> Session | None:
    query = (
        select(*_ACCOUNT, sessions.c.csrf, sessions.c.expires)
        .join(sessions, sessions.c.account_id == accounts.c.id)
        .where(sessions.c.token_hash == token_hash, sessions.c.expires > now)
    )
    row = (await conn.execute(query)).one_or_none()
    return row and Session(Account(*row[:4]), row[4], row[5])


async def end_session(conn: Connection, token_hash: bytes, now: datetime) -> None:
    """End this session, and clear away those that have run out."""
    gone = (sessions.c.token_hash == token_hash) | (sessions.c.expires <= now)
    await conn.execute(delete(sessions).where(gone))


async def note_try(conn: Connection, who: str, now: datetime) -> None:
    await conn.execute(insert(sign_in_tries).values(who=who, at=now))


async def tries(conn: Connection, who: str, since: datetime) -> int:
    query = select(func.count()).where(sign_in_tries.c.who == who, sign_in_tries.c.at > since)
    return (await conn.execute(query)).scalar_one()


async def forget_tries(conn: Connection, who: Sequence[str]) -> None:
    await conn.execute(delete(sign_in_tries).where(sign_in_tries.c.who.in_(who)))


async def forget_old_tries(conn: Connection, before: datetime) -> None:
    await conn.execute(delete(sign_in_tries).where(sign_in_tries.c.at < before))


async def give_clearance(conn: Connection, account_id: UUID, questionnaire_id: UUID) -> None:
    await conn.execute(
        insert(clearances).values(account_id=account_id, questionnaire_id=questionnaire_id)
    )


async def is_cleared(conn: Connection, account_id: UUID, questionnaire_id: UUID) -> bool:
    found = exists().where(
        clearances.c.account_id == account_id,
        clearances.c.questionnaire_id == questionnaire_id,
    )
    return (await conn.execute(select(found))).scalar_one()


async def clearances_of(conn: Connection, account_id: UUID) -> frozenset[UUID]:
    """The questionnaires whose restricted answers an account may read."""
    query = select(clearances.c.questionnaire_id).where(clearances.c.account_id == account_id)
    return frozenset((await conn.execute(query)).scalars())
