"""Entries and their restricted answers, which stand sealed in a table of their own."""

from collections.abc import Collection
from datetime import datetime
from functools import cache
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    Column,
    ColumnElement,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Integer,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    Uuid,
    bindparam,
    cast,
    exists,
    func,
    insert,
    literal,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.entries.entry import Entry
from jotgate.core.records.entries import Submission
from jotgate.ports.queue import Queue
from jotgate.store.base import Connection, metadata, time_column, uuid_column
from jotgate.store.questionnaires import editions, questionnaires, tallies

entries = Table(
    "entries",
    metadata,
    uuid_column(
        "questionnaire_id",
        ForeignKey("tallies.questionnaire_id", ondelete="CASCADE"),
        primary_key=True,
    ),
    uuid_column("id", primary_key=True),
    Column("edition", Integer, nullable=False),
    Column("number", Integer, nullable=False),
    time_column("arrived"),
    Column("finish", String, nullable=False),
    Column("answers", JSONB, nullable=False),
    Column("flags", ARRAY(String), nullable=False),
    Column("idempotency_key", String, nullable=False),
    Column("body_hash", LargeBinary),
    UniqueConstraint("questionnaire_id", "idempotency_key"),
    UniqueConstraint("questionnaire_id", "number"),
)
"""Entries belong to their questionnaire's tally, whose row the submission holds anyway: a key to
the questionnaire itself would have all submissions share a lock on its one row."""

restricted_answers = Table(
    "restricted_answers",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    Column("sealed", LargeBinary, nullable=False),
    ForeignKeyConstraint(
        ["questionnaire_id", "entry_id"],
        ["entries.questionnaire_id", "entries.id"],
        ondelete="CASCADE",
        deferrable=True,
        initially="DEFERRED",
    ),
)
_ENTRY = (
    entries.c.id,
    entries.c.questionnaire_id,
    entries.c.edition,
    entries.c.number,
    entries.c.arrived,
    entries.c.finish,
    entries.c.answers,
    entries.c.flags,
)


_GIVEN: dict[str, Any] = {
    "id": Uuid(),
    "edition": Integer(),
    "arrived": DateTime(timezone=True),
    "finish": String(),
    "answers": JSONB(),
    "flags": ARRAY(String),
    "idempotency_key": String(),
    "body_hash": LargeBinary(),
}


def _begun_in_time(edition: ColumnElement[int]) -> ColumnElement[bool]:
    """Whether an edition was replaced after the moment `new_begun`."""
    later = editions.alias("later")
    return exists().where(
        later.c.questionnaire_id == questionnaires.c.id,
        later.c.number == edition + 1,
        later.c.published >= bindparam("new_begun", type_=DateTime(timezone=True)),
    )


@cache
def _insert(sealing: bool, queue: Queue) -> Any:
    """Count the entry, store it and ask for its dispatch, in one statement.

    No row, and nothing done, where the gate is shut or the edition has gone. The row of `tallies`
    stays locked until the commit.
    Parameters are called `new_...`, so that the counting does not take them for its own.
    """
    questionnaire_id = bindparam("new_questionnaire_id", type_=Uuid())
    day = bindparam("new_day", type_=String())
    today = func.coalesce(cast(tallies.c.days[day].astext, Integer), 0)
    edition = bindparam("new_edition", type_=Integer())
    ticket = (
        update(tallies)
        .where(
            tallies.c.questionnaire_id == questionnaire_id,
            questionnaires.c.id == tallies.c.questionnaire_id,
            questionnaires.c.gate["state"].astext == literal("open"),
            or_(questionnaires.c.edition == edition, _begun_in_time(edition)),
        )
        .values(
            entries=tallies.c.entries + 1,
            days=tallies.c.days.concat(func.jsonb_build_object(day, today + 1)),
        )
        .returning(tallies.c.questionnaire_id, tallies.c.entries)
        .cte("ticket")
    )
    given = [bindparam(f"new_{name}", type_=kind) for name, kind in _GIVEN.items()]
    source: Any = select(ticket.c.questionnaire_id, ticket.c.entries, *given)
    columns = ["questionnaire_id", "number", *_GIVEN]
    adding = insert(entries).from_select(columns, source)
    added = adding.returning(entries.c.number, entries.c.questionnaire_id, entries.c.id)
    entry = added.cte("added")
    named = func.jsonb_build_object(
        literal("questionnaire_id"), entry.c.questionnaire_id, literal("entry_id"), entry.c.id
    )
    whole = select(entry.c.number, queue.asking("dispatch_entry", named))
    if not sealing:
        return whole
    row = select(entry.c.questionnaire_id, entry.c.id, bindparam("new_sealed", type_=LargeBinary()))
    kept = insert(restricted_answers).from_select(["questionnaire_id", "entry_id", "sealed"], row)
    return whole.add_cte(kept.cte("kept"))


async def add(
    conn: Connection, submission: Submission, begun: datetime, queue: Queue
) -> int | None:
    """Store a submission and ask for its dispatch: its number, or None where the gate is shut,
    or its edition was replaced before the moment `begun`.

    On None nothing was done. Raises AlreadyThere where the idempotency key is known.
    """
    values = {f"new_{name}": value for name, value in vars(submission).items()}
    values["new_begun"] = begun
    values["new_day"] = submission.arrived.date().isoformat()
    sealing = submission.sealed is not None
    if not sealing:
        del values["new_sealed"]
    row = (await conn.execute(_insert(sealing, queue), values)).one_or_none()
    return None if row is None else row[0]


def _entry(row: Any) -> Entry:
    return Entry(**row._mapping)


async def by_idempotency_key(
    conn: Connection, id: UUID, key: str
) -> tuple[Entry, bytes | None] | None:
    """The entry under this key, and the hash of what was sent, where that was kept."""
    query = select(*_ENTRY, entries.c.body_hash).where(
        entries.c.questionnaire_id == id, entries.c.idempotency_key == key
    )
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    *members, body_hash = row
    return Entry(**dict(zip(Entry.model_fields, members, strict=True))), body_hash


async def entry(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> Entry | None:
    query = select(*_ENTRY).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.id == id
    )
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return row and _entry(row)


async def newest(
    conn: Connection, questionnaire_id: UUID, before: int | None, limit: int
) -> list[Entry]:
    """Entries from the newest back, those with a number under `before` where it is given."""
    query = select(*_ENTRY).where(entries.c.questionnaire_id == questionnaire_id)
    if before is not None:
        query = query.where(entries.c.number < before)
    query = query.order_by(entries.c.number.desc()).limit(limit)
    return [_entry(row) for row in await conn.execute(query)]


async def following(
    conn: Connection, questionnaire_id: UUID, after: int, limit: int
) -> list[Entry]:
    """Entries with numbers over `after`, the oldest first, locked until the transaction ends."""
    query = select(*_ENTRY).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.number > after
    )
    query = query.order_by(entries.c.number).limit(limit).with_for_update()
    return [_entry(row) for row in await conn.execute(query)]


async def put_sealed(conn: Connection, entry: Entry, sealed: bytes) -> None:
    """Store an entry's open answers and finish as they are, and its sealed ones."""
    row = {"questionnaire_id": entry.questionnaire_id, "entry_id": entry.id, "sealed": sealed}
    await conn.execute(
        upsert(restricted_answers)
        .values(**row)
        .on_conflict_do_update(
            index_elements=["questionnaire_id", "entry_id"], set_={"sealed": sealed}
        )
    )
    await conn.execute(
        update(entries)
        .where(entries.c.questionnaire_id == entry.questionnaire_id, entries.c.id == entry.id)
        .values(answers=entry.answers, finish=entry.finish)
    )


async def ask_to_seal(conn: Connection, questionnaire_id: UUID, queue: Queue) -> None:
    """Ask for the answers of earlier editions to be sealed, once this is committed."""
    named = func.jsonb_build_object(literal("questionnaire_id"), literal(str(questionnaire_id)))
    await conn.execute(select(queue.asking("seal_anew", named)))


async def sealed(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, bytes]:
    """The sealed answers of those of `ids` that have some."""
    r = restricted_answers.c
    query = select(r.entry_id, r.sealed).where(
        r.questionnaire_id == questionnaire_id, r.entry_id.in_(ids)
    )
    return {row.entry_id: row.sealed for row in await conn.execute(query)}
