"""Entries changed, sealed, handled and removed, and what is asked of the worker with that."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    Boolean,
    ColumnElement,
    DateTime,
    String,
    Uuid,
    case,
    delete,
    func,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.entries.entry import Entry
from jotgate.core.handling import Care
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.ports.queue import Queue
from jotgate.store.base import (
    Connection,
)
from jotgate.store.entries.entry_tables import (
    entries,
    entry_ways,
    restricted_answers,
)


async def move_contact(conn: Connection, kept: UUID, gone: UUID) -> None:
    """What came by one contact came by another."""
    query = update(entry_ways).where(entry_ways.c.contact_id == gone)
    await conn.execute(query.values(contact_id=kept))


async def put_sealed(conn: Connection, entry: Entry, sealed: Ciphertext) -> None:
    """Store an entry's open answers and finish as they are, and its sealed ones."""
    whose = {"questionnaire_id": entry.questionnaire_id, "entry_id": entry.id}
    content = {"sealed": sealed.content, "key_id": sealed.key_id}
    await conn.execute(
        upsert(restricted_answers)
        .values(**whose, **content)
        .on_conflict_do_update(index_elements=list(whose), set_=content)
    )
    await conn.execute(
        update(entries)
        .where(entries.c.questionnaire_id == entry.questionnaire_id, entries.c.id == entry.id)
        .values(answers=entry.answers, finish=entry.finish)
    )


async def forget_left_empty(
    conn: Connection, questionnaire_id: UUID, id: UUID, keys: Collection[str]
) -> None:
    """Forget of an entry whether questions that are restricted by now were left empty."""
    e, closed = entries.c, literal(sorted(keys), ARRAY(String))
    left = func.unnest(e.left_empty).table_valued("key").render_derived("left")
    still = func.array(select(left.c.key).where(left.c.key != func.all(closed)).scalar_subquery())
    query = update(entries).where(
        e.questionnaire_id == questionnaire_id,
        e.id == id,
        e.left_empty.op("&&", return_type=Boolean())(closed),
    )
    await conn.execute(query.values(left_empty=still))


async def ask_to_seal(conn: Connection, questionnaire_id: UUID, queue: Queue) -> None:
    """Ask for the answers of earlier editions to be sealed, once this is committed."""
    named = func.jsonb_build_object(literal("questionnaire_id"), literal(str(questionnaire_id)))
    await conn.execute(select(queue.asking("seal_anew", named)))


async def ask_to_dispatch_change(
    conn: Connection, questionnaire_id: UUID, id: UUID, queue: Queue
) -> None:
    """Ask for the rules to be carried out on a corrected entry, once this is committed."""
    named = func.jsonb_build_object(
        literal("questionnaire_id"),
        literal(str(questionnaire_id)),
        literal("entry_id"),
        literal(str(id)),
    )
    await conn.execute(select(queue.asking("dispatch_change", named)))


async def ask_to_dispatch_status(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID], since: datetime, queue: Queue
) -> None:
    """Ask for the rules on the status that entries have `since` then, once this is committed."""
    each = func.unnest(literal(list(ids), ARRAY(Uuid))).table_valued("id").render_derived("each")
    named = func.jsonb_build_object(
        literal("questionnaire_id"),
        literal(str(questionnaire_id)),
        literal("entry_id"),
        each.c.id,
        literal("since"),
        literal(since.isoformat()),
    )
    await conn.execute(select(queue.asking("dispatch_status", named)).select_from(each))


async def change(conn: Connection, entry: Entry, left_empty: Sequence[str]) -> None:
    """Store what a corrected entry says by now in the open, and which questions it left empty."""
    e, w = entries.c, entry_ways.c
    query = update(entries).where(e.questionnaire_id == entry.questionnaire_id, e.id == entry.id)
    await conn.execute(
        query.values(
            edition=entry.edition,
            answers=entry.answers,
            finish=entry.finish,
            flags=list(entry.flags),
            corrected=True,
            left_empty=list(left_empty),
        )
    )
    row = {"questionnaire_id": entry.questionnaire_id, "entry_id": entry.id, "about": entry.about}
    noting = upsert(entry_ways).values(**row)
    await conn.execute(
        noting.on_conflict_do_update(
            index_elements=[w.questionnaire_id, w.entry_id], set_={"about": entry.about}
        )
    )


async def handle(
    conn: Connection,
    questionnaire_id: UUID,
    id: UUID,
    status: str,
    archived: datetime | None,
    care: Care,
    now: datetime,
) -> None:
    """Note where an entry stands, and who takes care of it; since `now` where its status is
    another one."""
    await handle_each(conn, questionnaire_id, [(id, status, archived, care)], now)


def _since(status: ColumnElement[Any], now: datetime) -> ColumnElement[Any]:
    at = literal(now, DateTime(timezone=True))
    return case((entries.c.status == status, entries.c.status_since), else_=at)


async def handle_each(
    conn: Connection,
    questionnaire_id: UUID,
    changed: Sequence[tuple[UUID, str, datetime | None, Care]],
    now: datetime,
) -> None:
    """As `handle`, several at once: those together that are to stand alike."""
    alike: dict[tuple[str, datetime | None, Care], list[UUID]] = {}
    for id, *after in changed:
        alike.setdefault((*after,), []).append(id)  # type: ignore[arg-type]
    e = entries.c
    for (status, archived, care), ids in alike.items():
        query = update(entries).where(
            e.questionnaire_id == questionnaire_id, e.id == func.any(literal(ids, ARRAY(Uuid)))
        )
        values = {
            "status": status,
            "archived": archived,
            "status_since": _since(literal(status), now),
        }
        care_of = {"carer_id": care.person, "care_team_id": care.team}
        await conn.execute(query.values(values | care_of))


async def set_value(
    conn: Connection, questionnaire_id: UUID, id: UUID, key: str, value: str
) -> None:
    """Store another carried value."""
    e = entries.c
    query = update(entries).where(e.questionnaire_id == questionnaire_id, e.id == id)
    changed = e.answers.concat(func.jsonb_build_object(literal(key), literal(value)))
    await conn.execute(query.values(answers=changed))


async def remove(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    """Remove an entry with all that is kept of it; whether it was there."""
    query = delete(entries).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.id == id
    )
    return (await conn.execute(query)).rowcount > 0
