"""How much of something was used up today, over all processes."""

from datetime import date

from sqlalchemy import BigInteger, Column, Date, String, Table, delete
from sqlalchemy.dialects.postgresql import insert

from jotgate.store.base import Connection, metadata

allowances = Table(
    "allowances",
    metadata,
    Column("name", String, primary_key=True),
    Column("day", Date, primary_key=True),
    Column("used", BigInteger, nullable=False),
)


async def use(conn: Connection, name: str, day: date, most: int, amount: int = 1) -> bool:
    """Use up `amount` of what there is of `name` on that day, `most` in all; whether there was."""
    if amount > most:
        return False
    adding = insert(allowances).values(name=name, day=day, used=amount)
    more = allowances.c.used + adding.excluded.used
    query = adding.on_conflict_do_update(
        index_elements=["name", "day"], set_={"used": more}, where=more <= most
    ).returning(allowances.c.used)
    return (await conn.execute(query)).one_or_none() is not None


async def forget(conn: Connection, before: date) -> None:
    await conn.execute(delete(allowances).where(allowances.c.day < before))
