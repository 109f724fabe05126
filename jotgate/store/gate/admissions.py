"""What each entry took at the gate: places, and one of the times that a person may answer."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    Column,
    DateTime,
    LargeBinary,
    Table,
    Uuid,
    cast,
    column,
    delete,
    func,
    select,
    update,
    values,
)
from sqlalchemy.dialects.postgresql import JSONB, insert

from jotgate.store.base import Connection, metadata, questionnaire_key
from jotgate.store.entries.entry_tables import entries

persons = Table(
    "persons",
    metadata,
    questionnaire_key(),
    Column("person", LargeBinary, primary_key=True),
    Column("times", ARRAY(DateTime(timezone=True)), nullable=False),
)
"""When each person sent the entries that count."""


@dataclass(frozen=True)
class Admission:
    person: bytes | None
    takes: Mapping[str, int]


async def of_entry(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> Admission | None:
    e = entries.c
    query = select(e.person, e.takes).where(
        e.questionnaire_id == questionnaire_id, e.id == entry_id, e.takes.is_not(None)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Admission(row.person, row.takes)


async def put_takes(
    conn: Connection, questionnaire_id: UUID, entry_id: UUID, takes: Mapping[str, int]
) -> None:
    """Note what an entry takes by now; its person stays."""
    e = entries.c
    query = update(entries).where(e.questionnaire_id == questionnaire_id, e.id == entry_id)
    await conn.execute(query.values(takes=dict(takes)))


async def times_of(conn: Connection, questionnaire_id: UUID, person: bytes) -> list[datetime]:
    """When somebody sent the entries that count."""
    p = persons.c
    query = select(p.times).where(p.questionnaire_id == questionnaire_id, p.person == person)
    found = (await conn.execute(query)).scalar_one_or_none()
    return list(found or ())


async def forget_time(
    conn: Connection, questionnaire_id: UUID, person: bytes, at: datetime
) -> None:
    """An entry of somebody's counts no more."""
    p = persons.c
    await conn.execute(
        update(persons)
        .where(p.questionnaire_id == questionnaire_id, p.person == person)
        .values(times=func.array_remove(p.times, at))
    )


async def note_time(conn: Connection, questionnaire_id: UUID, person: bytes, at: datetime) -> None:
    """An entry of somebody's counts again."""
    await _note_times(conn, questionnaire_id, {person: [at]})


async def people_of(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, bytes]:
    """Who sent these entries, as far as that was noted."""
    e = entries.c
    query = select(e.id, e.person).where(
        e.questionnaire_id == questionnaire_id, e.id.in_(ids), e.person.is_not(None)
    )
    return {row.id: row.person for row in await conn.execute(query)}


async def forget_people(conn: Connection, questionnaire_id: UUID) -> None:
    """Forget when anybody sent what; what entries took stays."""
    await conn.execute(delete(persons).where(persons.c.questionnaire_id == questionnaire_id))


Row = tuple[UUID, datetime | None, bytes | None, Mapping[str, int]]
"""An entry, when it arrived, where that counts, who sent it, and what it takes."""


async def put_all(conn: Connection, questionnaire_id: UUID, rows: Sequence[Row]) -> None:
    """Note what entries took, and when their people sent them."""
    columns = column("id", Uuid()), column("person", LargeBinary()), column("takes", JSONB())
    given = [(id, person, dict(takes)) for id, _, person, takes in rows]
    taken = values(*columns, name="taken").data(given)
    query = update(entries).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.id == taken.c.id
    )
    await conn.execute(query.values(person=cast(taken.c.person, LargeBinary), takes=taken.c.takes))
    times: dict[bytes, list[datetime]] = {}
    for _, at, person, _ in rows:
        if person is not None and at is not None:
            times.setdefault(person, []).append(at)
    if times:
        await _note_times(conn, questionnaire_id, times)


async def _note_times(
    conn: Connection, questionnaire_id: UUID, times: Mapping[bytes, Sequence[datetime]]
) -> None:
    own = {"questionnaire_id": questionnaire_id}
    people = [{**own, "person": person, "times": list(sent)} for person, sent in times.items()]
    noting = insert(persons).values(people)
    more = {"times": func.array_cat(persons.c.times, noting.excluded.times)}
    await conn.execute(
        noting.on_conflict_do_update(index_elements=["questionnaire_id", "person"], set_=more)
    )
