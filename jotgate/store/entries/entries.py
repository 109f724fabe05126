"""Entries and their restricted answers, which stand sealed in a table of their own."""

from collections.abc import Collection
from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    ColumnElement,
    Integer,
    Uuid,
    bindparam,
    func,
    literal,
    or_,
    select,
)

from jotgate.core.entries.entry import Entry
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.store.base import (
    Connection,
)
from jotgate.store.entries.entry_tables import (
    ENTRY,
    WITH_WAYS,
    entries,
    entry_of,
    entry_ways,
    restricted_answers,
)


def _every() -> Any:
    return select(*ENTRY).outerjoin(*WITH_WAYS)


_FIND = _every().where(
    entries.c.questionnaire_id == bindparam("of", type_=Uuid()),
    entries.c.id == bindparam("wanted", type_=Uuid()),
)
_FIND_LOCKED = _FIND.with_for_update(of=entries)


async def by_idempotency_key(
    conn: Connection, id: UUID, key: str
) -> tuple[Entry, bytes | None] | None:
    """The entry under this key, and the hash of what was sent, where that was kept."""
    query = (
        select(*ENTRY, entries.c.body_hash)
        .outerjoin(*WITH_WAYS)
        .where(entries.c.questionnaire_id == id, entries.c.idempotency_key == key)
    )
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    return entry_of(row), row.body_hash


async def entry(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> Entry | None:
    wanted = {"of": questionnaire_id, "wanted": id}
    row = (await conn.execute(_FIND_LOCKED if lock else _FIND, wanted)).one_or_none()
    return None if row is None else entry_of(row)


async def id_of(conn: Connection, questionnaire_id: UUID, number: int) -> UUID | None:
    """The id of the entry with this number."""
    query = select(entries.c.id).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.number == number
    )
    found: UUID | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def newest(
    conn: Connection,
    questionnaire_id: UUID,
    before: int | None,
    limit: int,
    about: str = "",
    archived: bool = True,
) -> list[Entry]:
    """Entries from the newest back, those with a number under `before` where it is given, and those
    about one thing where its id is; with those that were `archived`, or without them."""
    query = _every().where(entries.c.questionnaire_id == questionnaire_id)
    if not archived:
        query = query.where(entries.c.archived.is_(None))
    if about:
        query = query.where(entry_ways.c.about == about)
    if before is not None:
        query = query.where(entries.c.number < before)
    query = query.order_by(entries.c.number.desc()).limit(limit)
    return [entry_of(row) for row in await conn.execute(query)]


async def count(conn: Connection, questionnaire_id: UUID) -> int:
    query = select(func.count()).where(entries.c.questionnaire_id == questionnaire_id)
    number: int = (await conn.execute(query)).scalar_one()
    return number


async def highest(conn: Connection, questionnaire_id: UUID) -> int:
    """The largest number that an entry has; 0 where there is none."""
    query = select(func.coalesce(func.max(entries.c.number), 0))
    query = query.where(entries.c.questionnaire_id == questionnaire_id)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def beside(
    conn: Connection, questionnaire_id: UUID, number: int
) -> tuple[int | None, int | None]:
    """The numbers of the entries before and after this one."""
    e = entries.c
    own = e.questionnaire_id == questionnaire_id
    before = select(func.max(e.number)).where(own, e.number < number).scalar_subquery()
    after = select(func.min(e.number)).where(own, e.number > number).scalar_subquery()
    row = (await conn.execute(select(before, after))).one()
    return row[0], row[1]


async def by_passes(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, list[int]]:
    """The numbers of the entries that came by each of these passes."""
    query = (
        select(entry_ways.c.pass_id, entries.c.number)
        .join(entries, WITH_WAYS[1])
        .where(entry_ways.c.questionnaire_id == questionnaire_id, entry_ways.c.pass_id.in_(ids))
        .order_by(entries.c.number)
    )
    found: dict[UUID, list[int]] = {}
    for row in await conn.execute(query):
        found.setdefault(row.pass_id, []).append(row.number)
    return found


async def newest_of(
    conn: Connection,
    questionnaire_id: UUID,
    pass_ids: Collection[UUID] = (),
    contact_ids: Collection[UUID] = (),
    subject_id: UUID | None = None,
    mail_id: UUID | None = None,
) -> Entry | None:
    """The newest entry that came by one of these."""
    w = entry_ways.c
    by: list[ColumnElement[bool]] = [w.pass_id.in_(pass_ids), w.contact_id.in_(contact_ids)]
    by += [w.subject_id == subject_id] if subject_id else []
    by += [w.mail_id == mail_id] if mail_id else []
    query = _every().where(entries.c.questionnaire_id == questionnaire_id, or_(*by))
    row = (await conn.execute(query.order_by(entries.c.number.desc()).limit(1))).one_or_none()
    return None if row is None else entry_of(row)


async def by_contact(conn: Connection, contact_id: UUID, limit: int) -> list[Entry]:
    """What a contact sent, to whatever questionnaire, the newest first."""
    query = _every().where(entry_ways.c.contact_id == contact_id)
    query = query.order_by(entries.c.arrived.desc()).limit(limit)
    return [entry_of(row) for row in await conn.execute(query)]


async def handed_on(conn: Connection, questionnaire_id: UUID, id: UUID) -> list[Entry]:
    """The entries, of whatever questionnaire, that this one was handed on to."""
    query = _every().where(
        entry_ways.c.from_questionnaire == questionnaire_id, entry_ways.c.from_entry == id
    )
    return [entry_of(row) for row in await conn.execute(query.order_by(entries.c.arrived))]


async def following(
    conn: Connection, questionnaire_id: UUID, after: int, limit: int
) -> list[Entry]:
    """Entries with numbers over `after`, the oldest first, locked until the transaction ends."""
    query = _every().where(entries.c.questionnaire_id == questionnaire_id, entries.c.number > after)
    query = query.order_by(entries.c.number).limit(limit).with_for_update(of=entries)
    return [entry_of(row) for row in await conn.execute(query)]


async def sealed(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, Ciphertext]:
    """The sealed answers of those of `ids` that have some."""
    r = restricted_answers.c
    query = select(r.entry_id, r.sealed, r.key_id).where(
        r.questionnaire_id == questionnaire_id, r.entry_id.in_(ids)
    )
    return {id: Ciphertext(*rest) for id, *rest in await conn.execute(query)}


class Stands(NamedTuple):
    """How an entry stands, of which nothing else is read; `takes` is whether it took anything at
    the gate."""

    id: UUID
    number: int
    status: str
    archived: datetime | None
    carer_id: UUID | None
    care_team_id: UUID | None
    takes: bool


async def by_numbers(
    conn: Connection, questionnaire_id: UUID, numbers: Collection[int]
) -> list[Stands]:
    """Those of these entries that are there, locked until the transaction ends."""
    e = entries.c
    query = select(
        e.id, e.number, e.status, e.archived, e.carer_id, e.care_team_id, e.takes.is_not(None)
    ).where(e.questionnaire_id == questionnaire_id, e.number == func.any(_ints(numbers)))
    found = (await conn.execute(query.order_by(e.number).with_for_update())).all()
    return [Stands._make(row) for row in found]


async def numbered(
    conn: Connection, questionnaire_id: UUID, numbers: Collection[int]
) -> list[Entry]:
    """Those of these entries that are there, the largest number first."""
    e = entries.c
    query = _every().where(
        e.questionnaire_id == questionnaire_id, e.number == func.any(_ints(numbers))
    )
    return [entry_of(row) for row in await conn.execute(query.order_by(e.number.desc()))]


def _ints(numbers: Collection[int]) -> ColumnElement[Any]:
    return literal(list(numbers), ARRAY(Integer))


async def statuses_in_use(conn: Connection, questionnaire_id: UUID) -> frozenset[str]:
    """The statuses that entries have."""
    e = entries.c
    query = select(e.status).where(e.questionnaire_id == questionnaire_id, e.status != "")
    return frozenset(row.status for row in await conn.execute(query.distinct()))


async def stripe_of(conn: Connection, questionnaire_id: UUID, id: UUID) -> int | None:
    """The stripe of the tally that counts an entry, which is locked by that."""
    e = entries.c
    query = select(e.stripe).where(e.questionnaire_id == questionnaire_id, e.id == id)
    found: int | None = (await conn.execute(query.with_for_update())).scalar_one_or_none()
    return found
