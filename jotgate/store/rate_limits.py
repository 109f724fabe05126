"""How fast strangers go, over all processes: for each client, the moment up to which it has used
up what it may ask for. The table is not worth a log; after a crash everybody begins anew."""

from collections.abc import Mapping

from sqlalchemy import Column, Double, String, Table, text

from jotgate.store.base import Connection, metadata

paces = Table(
    "paces",
    metadata,
    Column("client", String, primary_key=True),
    Column("until", Double, nullable=False),
    prefixes=["UNLOGGED"],
)
"""`until` is in seconds since 1970 (UTC)."""

_TAKE = text("""
    insert into paces as known (client, until)
    select client, :now + used from unnest(cast(:clients as text[]), cast(:used as float8[]))
        as taken (client, used) order by client
    on conflict (client) do update
        set until = greatest(known.until, :now) + (excluded.until - :now)
    returning client, until
""")


async def take(conn: Connection, used: Mapping[str, float], now: float) -> dict[str, float]:
    """Note that clients used up so many seconds of their pace; up to when each has by now."""
    given = {"clients": list(used), "used": list(used.values()), "now": now}
    return {row.client: row.until for row in await conn.execute(_TAKE, given)}


async def forget(conn: Connection, now: float) -> None:
    await conn.execute(text("delete from paces where until < :now"), {"now": now})
