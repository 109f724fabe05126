"""How many entries have arrived: in all, by day, and by named link.

Each questionnaire has a few rows, its stripes. A process takes one that it does not work on
already, so that its submissions do not wait for each other; what is told is their sum. A stripe
carries the revision of the gate: saving the gate renews all of them, which waits for the
submissions that were let in before, and refuses those that come after with what was known before.
"""

from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKeyConstraint,
    Integer,
    Table,
    func,
    insert,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.store.base import Connection, metadata, questionnaire_key, time_column, uuid_column

STRIPES = 64
"""Stripes of a questionnaire at most."""

tallies = Table(
    "tallies",
    metadata,
    questionnaire_key(),
    Column("stripe", Integer, primary_key=True, server_default="0"),
    Column("gate_revision", Integer, nullable=False),
    Column("entries", Integer, nullable=False),
    Column("days", JSONB, nullable=False, server_default="{}"),
)
"""How many entries have arrived, in all and on each of the last days (ISO date in UTC -> number);
narrow, since every submission updates a row."""

link_tallies = Table(
    "link_tallies",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("link_id", primary_key=True),
    Column("stripe", Integer, primary_key=True),
    Column("entries", Integer, nullable=False),
    time_column("latest"),
    ForeignKeyConstraint(
        ["questionnaire_id", "link_id"],
        ["named_links.questionnaire_id", "named_links.id"],
        ondelete="CASCADE",
    ),
)


async def begin(conn: Connection, id: UUID, gate_revision: int) -> None:
    """The first stripe of a questionnaire, and its numbers."""
    await conn.execute(
        insert(tallies).values(questionnaire_id=id, entries=0, gate_revision=gate_revision)
    )
    await conn.execute(select(func.make_numbers(id)))


_MAKE = text("""
    insert into tallies (questionnaire_id, stripe, gate_revision, entries)
    select id, :stripe, gate_revision, 0 from (
        select id, gate_revision from questionnaires where id = :id for share
    ) as kept on conflict do nothing
""")
"""Its revision is that of the gate: whoever saves it holds the row that is locked here."""


async def make(conn: Connection, id: UUID, stripe: int) -> None:
    """See to it that a questionnaire has this stripe."""
    await conn.execute(_MAKE, {"id": id, "stripe": stripe})


async def renew(conn: Connection, id: UUID, gate_revision: int) -> None:
    """From the commit on only those who know this revision of the gate are let in. Waits for
    submissions that were let in before."""
    query = update(tallies).where(tallies.c.questionnaire_id == id)
    await conn.execute(query.values(gate_revision=gate_revision))


def counted() -> Any:
    """Entries of each questionnaire, and its days in each stripe, as a subquery."""
    t = tallies.c
    return (
        select(
            t.questionnaire_id,
            func.sum(t.entries).label("entries"),
            func.jsonb_agg(t.days).label("days"),
        )
        .group_by(t.questionnaire_id)
        .subquery("counted")
    )


def by_link() -> Any:
    """Entries that came by each named link, and the latest moment, as a subquery."""
    t = link_tallies.c
    return (
        select(
            t.questionnaire_id,
            t.link_id,
            func.sum(t.entries).label("entries"),
            func.max(t.latest).label("latest"),
        )
        .group_by(t.questionnaire_id, t.link_id)
        .subquery("came")
    )


def summed(days: list[dict[str, int]]) -> dict[str, int]:
    """The days of all stripes together."""
    found: dict[str, int] = {}
    for stripe in days:
        for day, number in stripe.items():
            found[day] = found.get(day, 0) + number
    return found


async def take_off(conn: Connection, id: UUID, stripe: int) -> None:
    """One entry fewer."""
    query = update(tallies).where(tallies.c.questionnaire_id == id, tallies.c.stripe == stripe)
    await conn.execute(query.values(entries=tallies.c.entries - 1))


async def forget_days(conn: Connection, before: date) -> None:
    """Forget how many entries arrived on each day before that."""
    kept = text(
        "(select coalesce(jsonb_object_agg(key, value), '{}') "
        "from jsonb_each(days) where key >= :day)"
    )
    await conn.execute(update(tallies).values(days=kept), {"day": before.isoformat()})
