"""Second factors: one-time codes, the codes for recovery, passkeys."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    Column,
    ForeignKey,
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

from jotgate.core.records.accounts import Passkey
from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    time_column,
    uuid_column,
)

recovery_codes = Table(
    "recovery_codes",
    metadata,
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), primary_key=True),
    Column("code_hash", LargeBinary, primary_key=True),
)
"""Those that were not used yet."""

passkeys = Table(
    "passkeys",
    metadata,
    Column("id", LargeBinary, primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), index=True),
    Column("public_key", LargeBinary, nullable=False),
    Column("count", BigInteger, nullable=False),
    Column("name", String, nullable=False),
    time_column("added"),
    maybe_time_column("used"),
)

_PASSKEY = tuple(passkeys.c)


async def totp(conn: Connection, account_id: UUID) -> tuple[bytes, int] | None:
    """The sealed secret of somebody's one-time codes, and the last step whose code was used; their
    row stays locked, so that a code is used once."""
    a = accounts.c
    query = select(a.totp, a.totp_step).where(a.id == account_id, a.totp.is_not(None))
    row = (await conn.execute(query.with_for_update())).one_or_none()
    return row and (row[0], row[1] or 0)


async def use_step(conn: Connection, account_id: UUID, step: int) -> None:
    query = update(accounts).where(accounts.c.id == account_id)
    await conn.execute(query.values(totp_step=step))


async def put_totp(conn: Connection, account_id: UUID, sealed: bytes, step: int) -> None:
    query = update(accounts).where(accounts.c.id == account_id)
    await conn.execute(query.values(totp=sealed, totp_step=step))


async def put_recovery_codes(conn: Connection, account_id: UUID, hashes: Sequence[bytes]) -> None:
    """Keep new codes; the old ones end."""
    await conn.execute(delete(recovery_codes).where(recovery_codes.c.account_id == account_id))
    if hashes:
        rows = [{"account_id": account_id, "code_hash": one} for one in hashes]
        await conn.execute(insert(recovery_codes), rows)


async def use_recovery_code(conn: Connection, account_id: UUID, code_hash: bytes) -> bool:
    r = recovery_codes.c
    query = delete(recovery_codes).where(r.account_id == account_id, r.code_hash == code_hash)
    return (await conn.execute(query.returning(r.account_id))).one_or_none() is not None


async def recovery_codes_left(conn: Connection, account_id: UUID) -> int:
    query = select(func.count()).where(recovery_codes.c.account_id == account_id)
    return (await conn.execute(query)).scalar_one()


async def add_passkey(conn: Connection, passkey: Passkey) -> None:
    await conn.execute(insert(passkeys).values(**vars(passkey)))


async def passkeys_of(conn: Connection, account_id: UUID) -> list[Passkey]:
    query = select(*_PASSKEY).where(passkeys.c.account_id == account_id).order_by(passkeys.c.added)
    return [Passkey(*row) for row in await conn.execute(query)]


async def passkey(conn: Connection, id: bytes) -> Passkey | None:
    query = select(*_PASSKEY).where(passkeys.c.id == id).with_for_update()
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Passkey(*row)


async def use_passkey(conn: Connection, id: bytes, count: int, now: datetime) -> None:
    query = update(passkeys).where(passkeys.c.id == id).values(count=count, used=now)
    await conn.execute(query)


async def remove_passkey(conn: Connection, account_id: UUID, id: bytes) -> bool:
    p = passkeys.c
    query = delete(passkeys).where(p.account_id == account_id, p.id == id).returning(p.id)
    return (await conn.execute(query)).one_or_none() is not None


async def has_any(conn: Connection, account_id: UUID) -> tuple[bool, bool]:
    """Whether somebody has one-time codes, and whether they have a passkey."""
    a = accounts.c
    with_passkey = exists().where(passkeys.c.account_id == account_id)
    query = select(a.totp.is_not(None), with_passkey).where(a.id == account_id)
    row = (await conn.execute(query)).one()
    return row[0], row[1]


async def forget(conn: Connection, account_id: UUID) -> None:
    """Take every second factor of somebody."""
    await forget_totp(conn, account_id)
    await conn.execute(delete(passkeys).where(passkeys.c.account_id == account_id))


async def forget_totp(conn: Connection, account_id: UUID) -> None:
    query = update(accounts).where(accounts.c.id == account_id)
    await conn.execute(query.values(totp=None, totp_step=None))
    await put_recovery_codes(conn, account_id, ())
