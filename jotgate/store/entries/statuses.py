"""How many entries stand where, and how many of them for too long."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import (
    ColumnElement,
    DateTime,
    Integer,
    String,
    Uuid,
    and_,
    cast,
    column,
    func,
    literal,
    select,
    true,
    values,
)
from sqlalchemy.dialects.postgresql import JSONPATH

from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import entries
from jotgate.store.questionnaires import questionnaires

_E = entries.c

_SINCE: ColumnElement[datetime] = func.coalesce(_E.status_since, _E.arrived)


async def standing(
    conn: Connection, questionnaire_id: UUID, limits: Mapping[str, int], now: datetime
) -> dict[str, tuple[int, int]]:
    """How many entries have each status as they store it, the archive left out, and how many of
    those are late."""
    query = select(_E.status, func.count()).where(
        _E.questionnaire_id == questionnaire_id, _E.archived.is_(None)
    )
    counts = (await conn.execute(query.group_by(_E.status))).all()
    late = await late_counts(conn, {questionnaire_id: limits}, now)
    return {key: (many, late.get((questionnaire_id, key), 0)) for key, many in counts}


MOST = 1_000
"""Late entries of one status that are counted."""


async def late_counts(
    conn: Connection, limits: Mapping[UUID, Mapping[str, int]], now: datetime
) -> dict[tuple[UUID, str], int]:
    """How many entries are late, up to `MOST`, by questionnaire and status; `limits` has the days
    that each may be had."""
    rows = [
        (id, status, now - timedelta(days=days))
        for id, each in limits.items()
        for status, days in each.items()
    ]
    if not rows:
        return {}
    wanted = values(
        column("id", Uuid()),
        column("status", String()),
        column("before", DateTime(timezone=True)),
        name="wanted",
    ).data(rows)
    own = and_(
        _E.questionnaire_id == wanted.c.id,
        _E.status == wanted.c.status,
        _E.archived.is_(None),
        wanted.c.before > _SINCE,
    )
    some = select(literal(1, Integer()).label("one")).where(own).limit(MOST).lateral("late")
    query = (
        select(wanted.c.id, wanted.c.status, func.count())
        .select_from(wanted)
        .join(some, true())
        .group_by(wanted.c.id, wanted.c.status)
    )
    return {(id, status): many for id, status, many in (await conn.execute(query)).all()}


async def with_limits(conn: Connection) -> list[UUID]:
    """The questionnaires that say for how long entries may have a status."""
    query = select(questionnaires.c.id).where(
        func.jsonb_path_exists(questionnaires.c.handling, cast("$.**.days ? (@ != null)", JSONPATH))
    )
    return list((await conn.execute(query)).scalars())
