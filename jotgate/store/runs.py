"""Runs: what dispatch did with an entry, one line for each effect, each once."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    DateTime,
    ForeignKeyConstraint,
    Index,
    Integer,
    String,
    Table,
    UniqueConstraint,
    Uuid,
    bindparam,
    func,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

from jotgate.core.records.dispatch import Run, RunKind, RunState
from jotgate.store.base import (
    Connection,
    insert_all,
    maybe_time_column,
    metadata,
    time_column,
    uuid_column,
)
from jotgate.store.entries.entry_tables import entries
from jotgate.store.questionnaires import questionnaires

runs = Table(
    "runs",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id"),
    uuid_column("entry_id"),
    Column("rule", String, nullable=False),
    Column("position", Integer, nullable=False),
    Column("part", Integer, nullable=False, server_default="0"),
    Column("kind", String, nullable=False),
    Column("state", String, nullable=False),
    Column("detail", JSONB, nullable=False),
    Column("tries", Integer, nullable=False),
    Column("last_error", String),
    maybe_time_column("next_try"),
    uuid_column("batch", nullable=True),
    time_column("changed"),
    Column("round", Integer, nullable=False, server_default="0"),
    Column("status", String, nullable=False, server_default=""),
    UniqueConstraint("questionnaire_id", "entry_id", "rule", "position", "part", "round"),
    ForeignKeyConstraint(
        ["questionnaire_id", "entry_id"],
        ["entries.questionnaire_id", "entries.id"],
        ondelete="CASCADE",
    ),
    Index("ix_runs_due", "kind", "next_try", postgresql_where=text("next_try is not null")),
    Index(
        "ix_runs_open",
        "questionnaire_id",
        "changed",
        postgresql_where=text("state in ('waiting', 'failing', 'failed')"),
    ),
    Index("ix_runs_failed", "questionnaire_id", postgresql_where=text("state = 'failed'")),
    Index("ix_runs_batch", "batch", postgresql_where=text("batch is not null")),
)
"""Runs that are to be done have the moment of their `next_try`; those of one `batch` go out in one
letter."""

OPEN: tuple[RunState, ...] = ("waiting", "failing", "failed")
"""What is not done yet."""

_RUN = [runs.c[name] for name in Run.__annotations__]

_OF_ENTRY = (
    select(*_RUN)
    .where(
        runs.c.questionnaire_id == bindparam("of", type_=Uuid()),
        runs.c.entry_id == bindparam("wanted", type_=Uuid()),
    )
    .order_by(runs.c.changed, runs.c.rule, runs.c.position, runs.c.part)
)


async def any_of(conn: Connection, questionnaire_id: UUID, entry_id: UUID) -> list[Run]:
    """The runs of one entry, in the order of their rules and acts."""
    wanted = {"of": questionnaire_id, "wanted": entry_id}
    return [Run(*row) for row in await conn.execute(_OF_ENTRY, wanted)]


async def counts(conn: Connection, questionnaire_id: UUID) -> dict[str, int]:
    """Rule key -> how many entries it has acted on."""
    query = (
        select(runs.c.rule, func.count(runs.c.entry_id.distinct()))
        .where(runs.c.questionnaire_id == questionnaire_id)
        .group_by(runs.c.rule)
    )
    return {row[0]: row[1] for row in await conn.execute(query)}


async def add_all(conn: Connection, found: Sequence[Run]) -> None:
    if found:
        await insert_all(conn, runs, [vars(run) for run in found])


async def put(conn: Connection, run: Run) -> None:
    """Store what a run is by now."""
    values = {name: one for name, one in vars(run).items() if name != "id"}
    await conn.execute(update(runs).where(runs.c.id == run.id).values(**values))


_PAUSED = (
    select(questionnaires.c.id)
    .where(
        questionnaires.c.id == runs.c.questionnaire_id,
        questionnaires.c.sending_paused.is_not(None),
    )
    .exists()
)
_DUE = (
    select(*_RUN)
    .where(
        runs.c.kind == bindparam("wanted", type_=String()),
        runs.c.next_try <= bindparam("by", type_=DateTime(timezone=True)),
        ~_PAUSED,
    )
    .order_by(runs.c.next_try)
    .limit(1)
    .with_for_update(of=runs, skip_locked=True)
)


async def take_due(conn: Connection, kind: RunKind, now: datetime) -> list[Run]:
    """The run of a kind that is due for longest, with those of its batch, locked so that two
    workers never do them at once; none where nothing is due, or its questionnaire sends nothing
    for now."""
    row = (await conn.execute(_DUE, {"wanted": kind, "by": now})).one_or_none()
    if row is None:
        return []
    first = Run(*row)
    if first.batch is None:
        return [first]
    r = runs.c
    others = select(*_RUN).where(r.batch == first.batch, r.next_try <= now).order_by(r.id)
    found = await conn.execute(others.with_for_update(of=runs, skip_locked=True))
    return [Run(*one) for one in found]


async def mark(
    conn: Connection,
    ids: Collection[UUID],
    state: RunState,
    error: str | None,
    now: datetime,
    next_try: datetime | None = None,
    answered: Mapping[str, Any] | None = None,
) -> None:
    """Note the outcome of a try, and what was `answered`."""
    values = {"of": list(ids), "now": state, "error": error, "at": now, "again": next_try}
    if answered is None:
        await conn.execute(_MARK, values)
    else:
        await conn.execute(_MARK_TOLD, {**values, "told": {"answered": dict(answered)}})


_MARK = (
    update(runs)
    .where(runs.c.id == func.any(bindparam("of", type_=ARRAY(Uuid))))
    .values(
        state=bindparam("now"),
        last_error=bindparam("error"),
        changed=bindparam("at"),
        next_try=bindparam("again"),
        tries=runs.c.tries + 1,
    )
)
_MARK_TOLD = _MARK.values(detail=runs.c.detail.concat(bindparam("told", type_=JSONB)))


async def find(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> Run | None:
    query = select(*_RUN).where(runs.c.questionnaire_id == questionnaire_id, runs.c.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else Run(*row)


async def still_open(
    conn: Connection,
    questionnaire_id: UUID,
    states: Collection[RunState],
    before: tuple[datetime, UUID] | None,
    limit: int,
) -> list[tuple[Run, int]]:
    """Runs in one of these states with the numbers of their entries, the last changed first; those
    from `before` on where that is given."""
    r = runs.c
    query = (
        select(*_RUN, entries.c.number)
        .join(
            entries,
            (entries.c.questionnaire_id == r.questionnaire_id) & (entries.c.id == r.entry_id),
        )
        .where(r.questionnaire_id == questionnaire_id, r.state.in_(states))
        .order_by(r.changed.desc(), r.id.desc())
        .limit(limit)
    )
    if before is not None:
        at, id = before
        query = query.where((r.changed < at) | ((r.changed == at) & (r.id < id)))
    return [(Run(*row[:-1]), row[-1]) for row in await conn.execute(query)]


async def open_counts(conn: Connection, questionnaire_id: UUID) -> dict[RunState, int]:
    """How many runs are not done, by state."""
    r = runs.c
    query = select(r.state, func.count()).where(
        r.questionnaire_id == questionnaire_id, r.state.in_(OPEN)
    )
    return {row[0]: row[1] for row in await conn.execute(query.group_by(r.state))}


async def failed_counts(conn: Connection, questionnaire_id: UUID | None = None) -> dict[UUID, int]:
    """How many runs wait for somebody, by questionnaire; of one where it is named."""
    r = runs.c
    query = select(r.questionnaire_id, func.count()).where(r.state == text("'failed'"))
    if questionnaire_id is not None:
        query = query.where(r.questionnaire_id == questionnaire_id)
    return {row[0]: row[1] for row in await conn.execute(query.group_by(r.questionnaire_id))}
