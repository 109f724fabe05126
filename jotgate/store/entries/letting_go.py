"""Entries that are let go by themselves: which are due, and what of them is forgotten."""

from collections.abc import Mapping
from datetime import datetime
from uuid import UUID

from sqlalchemy import ColumnElement, and_, delete, func, or_, select, update

from jotgate.core.entries.entry import Entry
from jotgate.store.base import Connection
from jotgate.store.entries.entry_notes import entry_notes
from jotgate.store.entries.entry_tables import ENTRY, WITH_WAYS, entries, entry_of, entry_ways
from jotgate.store.entries.entry_versions import entry_versions
from jotgate.store.entry_table.facts import kept_until
from jotgate.store.questionnaires import questionnaires
from jotgate.store.runs import OPEN, runs

_E = entries.c


def _due(id: UUID, kept: Mapping[str, int], now: datetime) -> ColumnElement[bool]:
    has_status = or_(*(_E.status == status for status in kept))
    return and_(_E.questionnaire_id == id, has_status, kept_until(kept) <= now)


async def count(conn: Connection, id: UUID, kept: Mapping[str, int], now: datetime) -> int:
    """How many entries are due by then; `kept` has the days by final status."""
    if not kept:
        return 0
    query = select(func.count()).where(_due(id, kept, now))
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def due(
    conn: Connection, id: UUID, kept: Mapping[str, int], now: datetime, limit: int
) -> list[Entry]:
    """Some of those, locked until the transaction ends; what others work on is left out."""
    if not kept:
        return []
    query = select(*ENTRY).outerjoin(*WITH_WAYS).where(_due(id, kept, now)).limit(limit)
    found = await conn.execute(query.with_for_update(of=entries, skip_locked=True))
    return [entry_of(row) for row in found]


async def with_keeping(conn: Connection) -> list[UUID]:
    """The questionnaires that let entries go by themselves."""
    query = select(questionnaires.c.id)
    query = query.where(questionnaires.c.handling["keeping"]["days"].is_not(None))
    return list((await conn.execute(query)).scalars())


async def forget(conn: Connection, entry: Entry, now: datetime) -> None:
    """Keep an entry without whoever sent it: its answers as they are in `entry`, nothing of how
    they came, of earlier versions, notes, and what letters and calls said."""
    id, entry_id = entry.questionnaire_id, entry.id
    own = _E.questionnaire_id == id, _E.id == entry_id
    said = {"answers": entry.answers, "person": None, "anonymised": now}
    await conn.execute(update(entries).where(*own).values(**said))
    w = entry_ways.c
    nobody = ("pass_id", "contact_id", "subject_id", "mail_id", "from_questionnaire", "from_entry")
    ways = update(entry_ways).where(w.questionnaire_id == id, w.entry_id == entry_id)
    about = {"about": entry.about, "claims": None}
    await conn.execute(ways.values(**dict.fromkeys(nobody), **about))
    for table in (entry_versions, entry_notes):
        mine = table.c.questionnaire_id == id, table.c.entry_id == entry_id
        await conn.execute(delete(table).where(*mine))
    r = runs.c
    done = update(runs).where(r.questionnaire_id == id, r.entry_id == entry_id)
    await conn.execute(done.values(detail={}))
    left = done.where(r.state.in_(OPEN))
    why = "The entry was anonymised."
    await conn.execute(left.values(state="skipped", next_try=None, last_error=why))
