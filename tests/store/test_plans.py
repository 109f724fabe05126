"""How PostgreSQL finds rows of tables of which it knows nothing yet."""

from uuid import uuid4

from sqlalchemy import text

from jotgate.services.context import Context
from jotgate.store.base import joins_many


async def test_many_are_joined_by_reading_each_table_once(context: Context) -> None:
    """Of rows that were stored a moment ago it knows nothing either, and takes them for none."""
    query = text("explain select from made m join asked a on a.id = m.id where m.batch = :batch")
    async with context.engine.begin() as conn:
        await conn.execute(text("create temp table asked (id uuid primary key) on commit drop"))
        await conn.execute(text("create temp table made (id uuid, batch uuid) on commit drop"))
        before = [row[0] for row in await conn.execute(query, {"batch": uuid4()})]
        async with joins_many(conn):
            async with joins_many(conn):
                pass
            after = [row[0] for row in await conn.execute(query, {"batch": uuid4()})]
        again = [row[0] for row in await conn.execute(query, {"batch": uuid4()})]
    assert "Nested Loop" in before[0]
    assert "Nested Loop" not in " ".join(after)
    assert "Nested Loop" in again[0]


NEW = (
    "create temp table entries (like public.entries including all) on commit drop",
    "alter index pg_temp.entries_pkey rename to pk_entries",
)
"""A table like that of entries which nobody has looked at: of the one that tests use it can be
known by now that it is tiny, and then it is read whole by either."""


async def test_the_check_of_a_foreign_key_reads_one_entry(context: Context) -> None:
    """As the check of a key asks (PostgreSQL, ri_triggers.c); by the index of numbers it would read
    every entry of the questionnaire."""
    query = (
        "explain select 1 from only entries x"
        " where questionnaire_id = :questionnaire and id = :id for key share of x"
    )
    async with context.engine.begin() as conn:
        for statement in NEW:
            await conn.execute(text(statement))
        rows = await conn.execute(text(query), {"questionnaire": uuid4(), "id": uuid4()})
        plan = " ".join(row[0] for row in rows)
    assert "pk_entries" in plan
