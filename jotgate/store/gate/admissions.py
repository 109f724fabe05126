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
    delete,
    func,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, insert

from jotgate.store.base import Connection, entry_key, metadata, questionnaire_key, uuid_column

admissions = Table(
    "admissions",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    Column("person", LargeBinary),
    Column("takes", JSONB, nullable=False),
    entry_key(),
)
"""`takes` has the number of places by cell; `person` is the hash by which they are known again."""

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
    a = admissions.c
    query = select(a.person, a.takes).where(
        a.questionnaire_id == questionnaire_id, a.entry_id == entry_id
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else Admission(row.person, row.takes)


async def put_takes(
    conn: Connection, questionnaire_id: UUID, entry_id: UUID, takes: Mapping[str, int]
) -> None:
    """Note what an entry takes by now; its person stays."""
    row = {"questionnaire_id": questionnaire_id, "entry_id": entry_id, "takes": dict(takes)}
    query = insert(admissions).values(**row)
    newer = {"takes": query.excluded.takes}
    await conn.execute(
        query.on_conflict_do_update(index_elements=["questionnaire_id", "entry_id"], set_=newer)
    )


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
    a = admissions.c
    query = select(a.entry_id, a.person).where(
        a.questionnaire_id == questionnaire_id, a.entry_id.in_(ids), a.person.is_not(None)
    )
    return {row.entry_id: row.person for row in await conn.execute(query)}


async def forget_people(conn: Connection, questionnaire_id: UUID) -> None:
    """Forget when anybody sent what; what entries took stays."""
    await conn.execute(delete(persons).where(persons.c.questionnaire_id == questionnaire_id))


Row = tuple[UUID, datetime | None, bytes | None, Mapping[str, int]]
"""An entry, when it arrived, where that counts, who sent it, and what it takes."""


async def put_all(conn: Connection, questionnaire_id: UUID, rows: Sequence[Row]) -> None:
    """Note what entries took, and when their people sent them."""
    own = {"questionnaire_id": questionnaire_id}
    whole = [
        {**own, "entry_id": id, "person": person, "takes": dict(takes)}
        for id, _, person, takes in rows
    ]
    query = insert(admissions).values(whole)
    newer = {"person": query.excluded.person, "takes": query.excluded.takes}
    await conn.execute(
        query.on_conflict_do_update(index_elements=["questionnaire_id", "entry_id"], set_=newer)
    )
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
