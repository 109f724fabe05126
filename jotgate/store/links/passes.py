"""Passes and their batches. Of its secret a pass has only the hash, and none once it is revoked: so
a revoked one is looked up just as one that never was."""

from collections.abc import AsyncIterable, Collection, Iterable, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    LargeBinary,
    String,
    Table,
    bindparam,
    func,
    insert,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.contacts.contact import Contact
from jotgate.core.records.links import Batch, Pass
from jotgate.core.records.questionnaires import PublicState
from jotgate.store.base import (
    Connection,
    copy_into,
    maybe_time_column,
    metadata,
    nothing,
    questionnaire_key,
    time_column,
    uuid_column,
)
from jotgate.store.contacts.contacts import COLUMNS as CONTACT
from jotgate.store.contacts.contacts import contacts
from jotgate.store.questionnaires import STANDING, as_public_state, questionnaires

batches = Table(
    "pass_batches",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False),
    time_column("made"),
    uuid_column("by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("passes", Integer, nullable=False),
    maybe_time_column("expires"),
    Column("uses", Integer),
)
passes = Table(
    "passes",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("id", primary_key=True),
    uuid_column("batch_id"),
    Column("number", Integer, nullable=False),
    Column("hash", LargeBinary),
    uuid_column("contact_id", nullable=True),
    Column("sealed", LargeBinary),
    maybe_time_column("expires"),
    Column("uses", Integer),
    Column("used", Integer, nullable=False, server_default="0"),
    maybe_time_column("revoked"),
    maybe_time_column("started"),
    ForeignKeyConstraint(
        ["questionnaire_id", "batch_id"],
        ["pass_batches.questionnaire_id", "pass_batches.id"],
        ondelete="CASCADE",
    ),
    Index("ix_passes_batch", "questionnaire_id", "batch_id", "number", unique=True),
    Index("ix_passes_contact", "contact_id"),
    Index("ix_passes_hash", "questionnaire_id", "hash", unique=True),
)
_BATCH: list[Any] = [
    batches.c[name] for name in Batch.__annotations__ if name not in ("live", "used")
]
PASS: list[Any] = [passes.c[name] for name in Pass.__annotations__]

COPIED = ("questionnaire_id", "id", "batch_id", "number", "hash", "contact_id", "sealed")
COPIED_TYPES = ("uuid", "uuid", "uuid", "int4", "bytea", "uuid", "bytea", "timestamptz", "int4")


async def add_batch(conn: Connection, batch: Batch) -> None:
    values = {name: value for name, value in vars(batch).items() if name not in ("live", "used")}
    await conn.execute(insert(batches).values(**values))


async def one_more(conn: Connection, batch: Batch) -> int:
    """Count one more pass of a batch that grows, which is made where it is not there; how many
    that makes."""
    values = {name: value for name, value in vars(batch).items() if name not in ("live", "used")}
    query = upsert(batches).values({**values, "passes": 1})
    counted = query.on_conflict_do_update(
        index_elements=["questionnaire_id", "id"], set_={"passes": batches.c.passes + 1}
    ).returning(batches.c.passes)
    number: int = (await conn.execute(counted)).scalar_one()
    return number


async def add(
    conn: Connection, made: Iterable[tuple[Pass, bytes]] | AsyncIterable[tuple[Pass, bytes]]
) -> int:
    """Store passes, each with the hash of its secret; how many."""
    columns = (*COPIED, "expires", "uses")
    return await copy_into(conn, "passes", columns, COPIED_TYPES, made, _copied)


def _copied(made: tuple[Pass, bytes]) -> tuple[Any, ...]:
    one, hash = made
    named = (one.questionnaire_id, one.id, one.batch_id, one.number, hash, one.contact_id)
    return (*named, one.sealed, one.expires, one.uses)


_BY_HASH = (
    select(*STANDING, *PASS, *CONTACT)
    .outerjoin(
        passes,
        (passes.c.questionnaire_id == questionnaires.c.id)
        & (passes.c.hash == bindparam("wanted_hash", type_=LargeBinary())),
    )
    .outerjoin(contacts, contacts.c.id == passes.c.contact_id)
    .where(
        questionnaires.c.address == bindparam("wanted", type_=String()),
        questionnaires.c.edition.is_not(None),
    )
)
"""Put together once, and asked at once: every visit by a pass needs both."""


async def by_hash(
    conn: Connection, address: str, hash: bytes
) -> tuple[PublicState, Pass | None, Contact | None] | None:
    """The published questionnaire at a public address, its pass with this hash, and the contact
    that the pass was made for."""
    row = (await conn.execute(_BY_HASH, {"wanted": address, "wanted_hash": hash})).one_or_none()
    if row is None:
        return None
    at = len(STANDING) + len(PASS)
    known, found, whose = row[: len(STANDING)], row[len(STANDING) : at], row[at:]
    return (
        as_public_state(known),
        None if found[0] is None else Pass(*found),
        None if whose[0] is None else Contact(*whose),
    )


async def find(conn: Connection, questionnaire_id: UUID, id: UUID) -> Pass | None:
    query = select(*PASS).where(passes.c.questionnaire_id == questionnaire_id, passes.c.id == id)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Pass(*row)


_WITH_HASH = select(*PASS, passes.c.hash)


def _with_hash(row: Any) -> tuple[Pass, bytes | None]:
    """A row of `_WITH_HASH`: a pass, and the hash of its secret where it was not revoked."""
    return Pass(*row[:-1]), row[-1]


async def with_hash(
    conn: Connection, questionnaire_id: UUID, id: UUID
) -> tuple[Pass, bytes | None] | None:
    query = _WITH_HASH.where(passes.c.questionnaire_id == questionnaire_id, passes.c.id == id)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _with_hash(row)


async def of_ids(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, tuple[Pass, bytes | None]]:
    query = _WITH_HASH.where(passes.c.questionnaire_id == questionnaire_id, passes.c.id.in_(ids))
    found = [_with_hash(row) for row in await conn.execute(query)]
    return {one[0].id: one for one in found}


async def every_batch(conn: Connection, questionnaire_id: UUID) -> list[Batch]:
    """The newest first, with how many of its passes work, and how many entries they brought."""
    p = passes.c
    counted = (
        select(
            p.batch_id,
            func.count(p.hash).label("live"),
            func.sum(p.used).label("used"),
        )
        .where(p.questionnaire_id == questionnaire_id)
        .group_by(p.batch_id)
        .subquery()
    )
    query = (
        select(*_BATCH, func.coalesce(counted.c.live, 0), func.coalesce(counted.c.used, 0))
        .outerjoin(counted, counted.c.batch_id == batches.c.id)
        .where(batches.c.questionnaire_id == questionnaire_id)
        .order_by(batches.c.made.desc())
    )
    rows = [tuple(row) for row in await conn.execute(query)]
    return [Batch(*row) for row in rows]


async def batch(conn: Connection, questionnaire_id: UUID, id: UUID) -> Batch | None:
    query = select(*_BATCH).where(
        batches.c.questionnaire_id == questionnaire_id, batches.c.id == id
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Batch(*row)


async def in_batch(
    conn: Connection, questionnaire_id: UUID, batch_id: UUID, after: int, limit: int
) -> list[tuple[Pass, bytes | None]]:
    """Passes of a batch with numbers over `after`, in their order, each with its hash."""
    query = (
        _WITH_HASH.where(
            passes.c.questionnaire_id == questionnaire_id,
            passes.c.batch_id == batch_id,
            passes.c.number > after,
        )
        .order_by(passes.c.number)
        .limit(limit)
    )
    return [_with_hash(row) for row in await conn.execute(query)]


async def revoke(
    conn: Connection, questionnaire_id: UUID, batch_id: UUID, id: UUID | None, now: datetime
) -> int:
    """Revoke one pass of a batch, or every one; how many worked until now."""
    query = update(passes).where(
        passes.c.questionnaire_id == questionnaire_id,
        passes.c.batch_id == batch_id,
        passes.c.hash.is_not(None),
    )
    if id is not None:
        query = query.where(passes.c.id == id)
    return (await conn.execute(query.values(hash=nothing(), revoked=now))).rowcount


async def by_secret(
    conn: Connection, questionnaire_id: UUID, hash: bytes
) -> tuple[Pass, bytes | None] | None:
    """The pass whose secret has this hash."""
    query = _WITH_HASH.where(passes.c.questionnaire_id == questionnaire_id, passes.c.hash == hash)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _with_hash(row)


async def of_contacts(
    conn: Connection, questionnaire_id: UUID, contact_ids: Collection[UUID]
) -> list[tuple[Pass, bytes | None]]:
    """The passes of these contacts that were not revoked, those made last first."""
    query = (
        _WITH_HASH.join(batches, batches.c.id == passes.c.batch_id)
        .where(
            passes.c.questionnaire_id == questionnaire_id,
            passes.c.contact_id.in_(contact_ids),
            passes.c.hash.is_not(None),
        )
        .order_by(batches.c.made.desc(), passes.c.number)
        .limit(100)
    )
    return [_with_hash(row) for row in await conn.execute(query)]


async def start(conn: Connection, begun: Sequence[tuple[UUID, UUID, datetime]]) -> None:
    """Note when the holders of passes first went on: questionnaire, pass and moment of each."""
    p = passes.c
    given = {f"new_{name}": bindparam(f"new_{name}", type_=p[name].type) for name in _STARTED}
    query = update(passes).where(
        p.questionnaire_id == given["new_questionnaire_id"],
        p.id == given["new_id"],
        p.started.is_(None),
    )
    rows = [dict(zip(given, one, strict=True)) for one in begun]
    await conn.execute(query.values(started=given["new_started"]), rows)


_STARTED = ("questionnaire_id", "id", "started")


async def revoke_of(conn: Connection, contact_ids: Collection[UUID], now: datetime) -> None:
    """Revoke every pass of these contacts."""
    query = update(passes).where(passes.c.contact_id.in_(contact_ids), passes.c.hash.is_not(None))
    await conn.execute(query.values(hash=nothing(), revoked=now))


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """Give the passes of one contact to another."""
    query = update(passes).where(passes.c.contact_id == gone)
    await conn.execute(query.values(contact_id=kept))


def usable(now: Any) -> Any:
    """That a pass works, and is good for one more entry."""
    return (
        passes.c.hash.is_not(None)
        & or_(passes.c.expires.is_(None), passes.c.expires > now)
        & or_(passes.c.uses.is_(None), passes.c.used < passes.c.uses)
    )
