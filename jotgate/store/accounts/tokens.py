"""Tokens that let scripts work under somebody's account."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    DateTime,
    ForeignKey,
    LargeBinary,
    Select,
    String,
    Table,
    bindparam,
    delete,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.accounts import Account
from jotgate.core.records.tokens import Scope, Token
from jotgate.store.accounts.accounts import ACCOUNT, accounts, open_at
from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    time_column,
    uuid_column,
)

tokens = Table(
    "tokens",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), index=True),
    Column("token_hash", LargeBinary, nullable=False, unique=True),
    Column("name", String, nullable=False),
    Column("scopes", JSONB, nullable=False),
    Column("cleared", Boolean, nullable=False),
    time_column("made"),
    time_column("expires"),
    maybe_time_column("used"),
)

_TOKEN = (
    tokens.c.id,
    tokens.c.name,
    tokens.c.scopes,
    tokens.c.cleared,
    tokens.c.made,
    tokens.c.expires,
    tokens.c.used,
)


def _token(row: Sequence[object]) -> Token:
    values: list[object] = list(row)
    scopes: list[Scope] = list(values[2])  # type: ignore[call-overload]
    values[2] = tuple(scopes)
    return Token(*values)  # type: ignore[arg-type]


async def add(conn: Connection, account_id: UUID, token_hash: bytes, made: Token) -> None:
    values = {**vars(made), "scopes": list(made.scopes)}
    await conn.execute(
        insert(tokens).values(account_id=account_id, token_hash=token_hash, **values)
    )


async def of_account(conn: Connection, account_id: UUID) -> list[Token]:
    """The tokens of somebody, the newest first, those that have ended too."""
    query = select(*_TOKEN).where(tokens.c.account_id == account_id).order_by(tokens.c.made.desc())
    return [_token(row) for row in await conn.execute(query)]


def _find() -> Select[Any]:
    hash: Any = bindparam("hash", type_=LargeBinary())
    now: Any = bindparam("now", type_=DateTime(timezone=True))
    query = select(*ACCOUNT, *_TOKEN).join(tokens, tokens.c.account_id == accounts.c.id)
    return query.where(tokens.c.token_hash == hash, tokens.c.expires > now, open_at(now))


_FIND = _find()


async def find(conn: Connection, token_hash: bytes, now: datetime) -> tuple[Account, Token] | None:
    """A token that has not ended, with the open account that it works under."""
    row = (await conn.execute(_FIND, {"hash": token_hash, "now": now})).one_or_none()
    return row and (Account(*row[:4]), _token(row[4:]))


async def note_used(conn: Connection, id: UUID, now: datetime) -> None:
    await conn.execute(update(tokens).where(tokens.c.id == id).values(used=now))


async def end(conn: Connection, account_id: UUID, id: UUID) -> bool:
    t = tokens.c
    query = delete(tokens).where(t.account_id == account_id, t.id == id).returning(t.id)
    return (await conn.execute(query)).one_or_none() is not None


async def end_all(conn: Connection, account_id: UUID) -> None:
    await conn.execute(delete(tokens).where(tokens.c.account_id == account_id))
