"""Restricted answers that stand beside rows of registers for cleared eyes, sealed. One role of the
database alone reads and writes them, the others see which there are (`store/grants.py`)."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import BigInteger, Column, ForeignKey, String, Table, delete, select
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.records.ciphertext import Ciphertext
from jotgate.store.base import Connection, metadata, sealed_columns, uuid_column
from jotgate.store.registers.rows import rows

row_secrets = Table(
    "row_secrets",
    metadata,
    Column(
        "row_id",
        BigInteger,
        ForeignKey("register_rows.id", ondelete="CASCADE"),
        primary_key=True,
    ),
    uuid_column(
        "questionnaire_id",
        ForeignKey("questionnaires.id", ondelete="CASCADE"),
        primary_key=True,
        index=True,
    ),
    Column("key", String, primary_key=True),
    Column("label", String, nullable=False),
    *sealed_columns(),
)


@dataclass(frozen=True)
class Secret:
    """An answer under `key` of a questionnaire, called `label`; sealed also where it is empty."""

    questionnaire_id: UUID
    key: str
    label: str
    sealed: Ciphertext


async def put(conn: Connection, row_id: int, found: Sequence[Secret]) -> None:
    """Keep these beside a row, in place of those of the same questions."""
    for one in found:
        newer = {"label": one.label, "sealed": one.sealed.content, "key_id": one.sealed.key_id}
        whose = {"questionnaire_id": one.questionnaire_id, "key": one.key}
        query = upsert(row_secrets).values(row_id=row_id, **whose, **newer)
        keys = ["row_id", "questionnaire_id", "key"]
        await conn.execute(query.on_conflict_do_update(index_elements=keys, set_=newer))


async def keys_of(conn: Connection, row_id: int, questionnaire_id: UUID) -> frozenset[str]:
    """The keys of what stands beside a row and comes from one questionnaire."""
    s = row_secrets.c
    query = select(s.key).where(s.row_id == row_id, s.questionnaire_id == questionnaire_id)
    return frozenset((await conn.execute(query)).scalars())


async def of_row(
    conn: Connection, row_id: int, questionnaire_ids: Collection[UUID]
) -> list[Secret]:
    """Those beside a row that come from these questionnaires."""
    s = row_secrets.c
    query = select(s.questionnaire_id, s.key, s.label, s.sealed, s.key_id).where(
        s.row_id == row_id, s.questionnaire_id.in_(questionnaire_ids)
    )
    found = await conn.execute(query.order_by(s.questionnaire_id, s.key))
    return [Secret(*row[:3], Ciphertext(*row[3:])) for row in found]


async def remove(conn: Connection, register_id: UUID) -> int:
    """Remove all that stand beside rows of a register; how many."""
    own = select(rows.c.id).where(rows.c.register_id == register_id)
    return (await conn.execute(delete(row_secrets).where(row_secrets.c.row_id.in_(own)))).rowcount
