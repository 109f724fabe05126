"""Places of questionnaires: how many of each cell are taken, held, and waited for.

Whoever changes places locks their rows in the order of their names, and then what holds them, so
that nobody waits for somebody who waits for them.
"""

from collections.abc import Collection, Iterable, Mapping
from datetime import datetime
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Column,
    Index,
    LargeBinary,
    String,
    Table,
    cast,
    delete,
    func,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, insert

from jotgate.core.gate.places import Count, Take
from jotgate.store.base import Connection, metadata, questionnaire_key, time_column


def _count(name: str) -> Column[int]:
    return Column(name, BigInteger, nullable=False, server_default="0")


places = Table(
    "places",
    metadata,
    questionnaire_key(),
    Column("cell", String, primary_key=True),
    _count("taken"),
    _count("held"),
    _count("waiting"),
    Index("ix_places_waited_for", "questionnaire_id", postgresql_where=text("waiting > 0")),
    CheckConstraint("taken >= 0 and held >= 0 and waiting >= 0", name="none_below_zero"),
)
held_places = Table(
    "held_places",
    metadata,
    questionnaire_key(),
    Column("name", LargeBinary, primary_key=True),
    Column("takes", JSONB, nullable=False),
    time_column("until"),
    Column("client", String, nullable=False),
    Index(None, "until"),
)
"""Places that are held for somebody who answers, under the hash of the name of their submission.
`takes` has the number of places by cell, `client` is a hash of the network address."""


async def there(conn: Connection, questionnaire_id: UUID, cells: Collection[str]) -> None:
    """See to it that cells can be locked."""
    rows = [{"questionnaire_id": questionnaire_id, "cell": cell} for cell in sorted(cells)]
    if rows:
        await conn.execute(insert(places).values(rows).on_conflict_do_nothing())


async def counts(
    conn: Connection, questionnaire_id: UUID, cells: Collection[str] | None = None
) -> dict[str, Count]:
    """By cell; all of them where none are named."""
    p = places.c
    query = select(p.cell, p.taken, p.held, p.waiting).where(p.questionnaire_id == questionnaire_id)
    if cells is not None:
        query = query.where(p.cell.in_(cells))
    return {cell: Count(*found) for cell, *found in await conn.execute(query)}


async def totals(
    conn: Connection, questionnaire_id: UUID | None = None
) -> dict[UUID, dict[str, Count]]:
    """Places in all, by questionnaire and cell; of one questionnaire where it is named."""
    p = places.c
    query = select(p.questionnaire_id, p.cell, p.taken, p.held, p.waiting)
    query = query.where(func.jsonb_array_length(cast(p.cell, JSONB)) == 1)
    if questionnaire_id is not None:
        query = query.where(p.questionnaire_id == questionnaire_id)
    found: dict[UUID, dict[str, Count]] = {}
    for id, cell, *count in await conn.execute(query):
        found.setdefault(id, {})[cell] = Count(*count)
    return found


async def locked(
    conn: Connection, questionnaire_id: UUID, cells: Collection[str] | None = None
) -> dict[str, Count]:
    """Lock cells for the rest of the transaction, in the order of their names, all of them where
    none are named; how they stand."""
    p = places.c
    query = select(p.cell, p.taken, p.held, p.waiting).where(p.questionnaire_id == questionnaire_id)
    if cells is not None:
        query = query.where(p.cell.in_(cells))
    query = query.order_by(p.cell).with_for_update()
    return {cell: Count(*found) for cell, *found in await conn.execute(query)}


_ADD = text("""
    update places set taken = places.taken + changed.taken, held = places.held + changed.held,
        waiting = places.waiting + changed.waiting
    from unnest(cast(:cells as text[]), cast(:taken as bigint[]), cast(:held as bigint[]),
        cast(:waiting as bigint[])) as changed (cell, taken, held, waiting)
    where places.questionnaire_id = :id and places.cell = changed.cell
""")


async def change(
    conn: Connection,
    questionnaire_id: UUID,
    taken: Mapping[str, int] | None = None,
    held: Mapping[str, int] | None = None,
    waiting: Mapping[str, int] | None = None,
) -> None:
    """Add to what is counted of cells, which are locked."""
    by = (taken or {}, held or {}, waiting or {})
    cells = sorted({cell for one in by for cell, amount in one.items() if amount})
    if not cells:
        return
    names = ("taken", "held", "waiting")
    given = {
        name: [one.get(cell, 0) for cell in cells] for name, one in zip(names, by, strict=True)
    }
    await conn.execute(_ADD, {"id": questionnaire_id, "cells": cells, **given})


async def hold_of(
    conn: Connection, questionnaire_id: UUID, name: bytes, lock: bool = False
) -> tuple[dict[str, int], datetime] | None:
    """What is held under a name, and until when."""
    h = held_places.c
    query = select(h.takes, h.until).where(h.questionnaire_id == questionnaire_id, h.name == name)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else (row.takes, row.until)


async def holds(
    conn: Connection, questionnaire_id: UUID, names: Collection[bytes]
) -> dict[bytes, dict[str, int]]:
    """What is held under each of these names."""
    h = held_places.c
    query = select(h.name, h.takes).where(h.questionnaire_id == questionnaire_id)
    rows = await conn.execute(query.where(h.name.in_(names)))
    return {row.name: row.takes for row in rows}


async def held_by(conn: Connection, questionnaire_id: UUID, client: str, now: datetime) -> int:
    """How many holds somebody at this network address has."""
    h = held_places.c
    query = select(func.count()).where(
        h.questionnaire_id == questionnaire_id, h.client == client, h.until > now
    )
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def begin_hold(
    conn: Connection,
    questionnaire_id: UUID,
    name: bytes,
    takes: Iterable[Take],
    until: datetime,
    client: str,
) -> bool:
    """Note what is held under a name; not where something is already, which waits for whoever is
    about to note it."""
    kept = {one.cell: one.amount for one in takes}
    query = insert(held_places).values(
        questionnaire_id=questionnaire_id, name=name, takes=kept, until=until, client=client
    )
    made = query.on_conflict_do_nothing().returning(held_places.c.name)
    return (await conn.execute(made)).one_or_none() is not None


async def move_hold(
    conn: Connection, questionnaire_id: UUID, name: bytes, takes: Iterable[Take], until: datetime
) -> None:
    """Other places are held under a name, which is locked."""
    h = held_places.c
    query = update(held_places).where(h.questionnaire_id == questionnaire_id, h.name == name)
    kept = {one.cell: one.amount for one in takes}
    await conn.execute(query.values(takes=kept, until=until))


async def let_go(
    conn: Connection, questionnaire_id: UUID, name: bytes, before: datetime | None = None
) -> bool:
    """Forget a hold, where it is over by a moment if that is given; whether there was one."""
    h = held_places.c
    query = delete(held_places).where(h.questionnaire_id == questionnaire_id, h.name == name)
    if before is not None:
        query = query.where(h.until <= before)
    return (await conn.execute(query)).rowcount > 0


async def over(
    conn: Connection, now: datetime, most: int, questionnaire_id: UUID | None = None
) -> list[tuple[UUID, bytes, dict[str, int]]]:
    """Holds that are over, the oldest first."""
    h = held_places.c
    query = select(h.questionnaire_id, h.name, h.takes).where(h.until <= now)
    if questionnaire_id is not None:
        query = query.where(h.questionnaire_id == questionnaire_id)
    rows = await conn.execute(query.order_by(h.until).limit(most))
    return [(row.questionnaire_id, row.name, row.takes) for row in rows]


_PUT = text("""
    update places set taken = coalesce((
        select counted.taken from unnest(cast(:cells as text[]), cast(:taken as bigint[]))
            as counted (cell, taken) where counted.cell = places.cell
    ), 0)
    where questionnaire_id = :id
""")


async def put_taken(conn: Connection, questionnaire_id: UUID, taken: Mapping[str, int]) -> None:
    """So many are taken of each cell, none of those that are not named."""
    cells = sorted(taken)
    given = {"id": questionnaire_id, "cells": cells, "taken": [taken[cell] for cell in cells]}
    await conn.execute(_PUT, given)
