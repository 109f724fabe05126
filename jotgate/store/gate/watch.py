"""How gates stood when the worker looked last, for letters when that changes by itself."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import Boolean, Column, Integer, Table, func, select
from sqlalchemy.dialects.postgresql import insert

from jotgate.store.base import Connection, metadata, questionnaire_key
from jotgate.store.questionnaires import questionnaires

gate_watch = Table(
    "gate_watch",
    metadata,
    questionnaire_key(),
    Column("revision", Integer, nullable=False),
    Column("open", Boolean, nullable=False),
    Column("low", Boolean, nullable=False),
)


@dataclass(frozen=True)
class Watched:
    """At which revision of the gate, whether it was open by its times, and places were low."""

    revision: int
    open: bool
    low: bool


async def to_watch(conn: Connection) -> list[UUID]:
    """The questionnaires of whose gates somebody wants to be told."""
    q = questionnaires.c
    told = func.jsonb_array_length(func.coalesce(q.gate["tell"], func.jsonb_build_array())) > 0
    query = select(q.id).where(q.edition.is_not(None), told)
    return [row.id for row in await conn.execute(query)]


async def seen(conn: Connection, id: UUID) -> Watched | None:
    """How it stood, locked."""
    w = gate_watch.c
    query = select(w.revision, w.open, w.low).where(w.questionnaire_id == id).with_for_update()
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Watched(*row)


async def put(conn: Connection, id: UUID, now: Watched) -> None:
    query = insert(gate_watch).values(questionnaire_id=id, **vars(now))
    same = {name: query.excluded[name] for name in Watched.__annotations__}
    await conn.execute(query.on_conflict_do_update(index_elements=["questionnaire_id"], set_=same))
