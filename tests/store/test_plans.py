"""How PostgreSQL finds an entry by its id while it knows nothing of the table yet."""

from uuid import uuid4

from sqlalchemy import text

from jotgate.services.context import Context


async def test_the_check_of_a_foreign_key_reads_one_entry(context: Context) -> None:
    """As the check of a key asks (PostgreSQL, ri_triggers.c); by the index of numbers it would read
    every entry of the questionnaire."""
    query = (
        "explain select 1 from only entries x"
        " where questionnaire_id = :questionnaire and id = :id for key share of x"
    )
    async with context.engine.connect() as conn:
        rows = await conn.execute(text(query), {"questionnaire": uuid4(), "id": uuid4()})
        plan = " ".join(row[0] for row in rows)
    assert "pk_entries" in plan
