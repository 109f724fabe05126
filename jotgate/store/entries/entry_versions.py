"""Entries as they were before they were changed. What they said stands sealed, in a table of its
own that ordinary requests only add to."""

from uuid import UUID

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    ForeignKeyConstraint,
    Integer,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    false,
    insert,
    select,
    update,
)

from jotgate.core.records.ciphertext import Ciphertext
from jotgate.core.records.entries import Version
from jotgate.store.base import (
    Connection,
    entry_key,
    metadata,
    sealed_columns,
    time_column,
    uuid_column,
)

entry_versions = Table(
    "entry_versions",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    Column("version", Integer, primary_key=True),
    time_column("replaced"),
    Column("edition", Integer, nullable=False),
    Column("idempotency_key", String, nullable=False),
    Column("body_hash", LargeBinary, nullable=False),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("why", String, nullable=False, server_default=""),
    Column("waits", Boolean, nullable=False, server_default=false()),
    entry_key(),
    UniqueConstraint("questionnaire_id", "entry_id", "idempotency_key"),
)
"""`idempotency_key` and `body_hash` are of the change by which a version was replaced, and
`account_id` who made it, where that was somebody of the office; then it `waits` for them to say
whether dispatch acts on it."""

restricted_versions = Table(
    "restricted_versions",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    Column("version", Integer, primary_key=True),
    *sealed_columns(),
    ForeignKeyConstraint(
        ["questionnaire_id", "entry_id", "version"],
        [
            "entry_versions.questionnaire_id",
            "entry_versions.entry_id",
            "entry_versions.version",
        ],
        ondelete="CASCADE",
    ),
)


_ONE = [entry_versions.c[name] for name in Version.__annotations__]


async def add(
    conn: Connection,
    questionnaire_id: UUID,
    entry_id: UUID,
    version: Version,
    key: str,
    body_hash: bytes,
    sealed: Ciphertext,
) -> None:
    whose = {"questionnaire_id": questionnaire_id, "entry_id": entry_id, "version": version.version}
    await conn.execute(
        insert(entry_versions).values(
            **vars(version),
            questionnaire_id=questionnaire_id,
            entry_id=entry_id,
            idempotency_key=key,
            body_hash=body_hash,
        )
    )
    content = {"sealed": sealed.content, "key_id": sealed.key_id}
    await conn.execute(insert(restricted_versions).values(**whose, **content))


async def of_entry(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> list[Version]:
    """The oldest first."""
    v = entry_versions.c
    query = select(*_ONE).where(v.questionnaire_id == questionnaire_id, v.entry_id == entry_id)
    return [Version(*row) for row in await conn.execute(query.order_by(v.version))]


async def settle(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> bool:
    """It is decided whether dispatch acts on what was corrected; whether that waited."""
    v = entry_versions.c
    query = update(entry_versions).where(
        v.questionnaire_id == questionnaire_id, v.entry_id == entry_id, v.waits
    )
    return (await conn.execute(query.values(waits=False))).rowcount > 0


async def by_key(
    conn: Connection, questionnaire_id: UUID, entry_id: UUID, key: str
) -> bytes | None:
    """The hash of what was sent under this key, where that changed the entry."""
    v = entry_versions.c
    query = select(v.body_hash).where(
        v.questionnaire_id == questionnaire_id, v.entry_id == entry_id, v.idempotency_key == key
    )
    found: bytes | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def sealed(
    conn: Connection, questionnaire_id: UUID, entry_id: UUID, version: int
) -> Ciphertext | None:
    """What a version said, sealed."""
    r = restricted_versions.c
    query = select(r.sealed, r.key_id).where(
        r.questionnaire_id == questionnaire_id, r.entry_id == entry_id, r.version == version
    )
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else Ciphertext(*found)
