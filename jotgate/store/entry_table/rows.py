"""What entries are searched, filtered and sorted by: a copy of their open answers with indexes of
its own, which is made behind the submission, so that this pays for none of them.

A trigger has the copy follow what is changed later. Entries that are not copied yet have numbers
over `upto`: below it every entry is there, since all transactions that could bring one have ended.
"""

from collections.abc import Collection
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    BigInteger,
    Column,
    Computed,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    Select,
    String,
    Table,
    Text,
    func,
    lateral,
    literal,
    select,
    true,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, TSVECTOR
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.store.base import (
    SNAPSHOT_XMAX,
    SNAPSHOT_XMIN,
    Connection,
    metadata,
    time_column,
    uuid_column,
)
from jotgate.store.entries.entries import highest
from jotgate.store.entries.entry_tables import entries

entry_rows = Table(
    "entry_rows",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    Column("number", Integer, primary_key=True),
    time_column("arrived"),
    Column("language", String, nullable=False),
    Column("answers", JSONB, nullable=False),
    Column(
        "words",
        TSVECTOR,
        Computed("entry_words(language, answers)", persisted=True),
        nullable=False,
    ),
    ForeignKeyConstraint(
        ["questionnaire_id", "number"],
        ["entries.questionnaire_id", "entries.number"],
        ondelete="CASCADE",
    ),
    Index(None, "questionnaire_id", "arrived", "number"),
    Index(
        "ix_entry_rows_answers",
        "answers",
        postgresql_using="gin",
        postgresql_ops={"answers": "jsonb_path_ops"},
    ),
    Index("ix_entry_rows_words", "words", postgresql_using="gin"),
)
entry_row_marks = Table(
    "entry_row_marks",
    metadata,
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), primary_key=True
    ),
    Column("upto", Integer, nullable=False),
    Column("next", Integer),
    Column("horizon", BigInteger),
    Column("hidden", ARRAY(Text), nullable=False),
    Column("sealing", Integer, nullable=False, server_default="0"),
)
"""`next` becomes `upto` once all transactions below `horizon` have ended. Answers under the keys in
`hidden` are restricted by now, and not copied; while `sealing` is not 0, some may be there still
from before."""

_R, _M, _E = entry_rows.c, entry_row_marks.c, entries.c


async def behind(conn: Connection) -> list[UUID]:
    """The questionnaires with entries that are not surely copied."""
    questionnaires = metadata.tables["questionnaires"]
    own = select(func.max(_E.number).label("highest")).where(
        _E.questionnaire_id == questionnaires.c.id
    )
    found = lateral(own)
    query = (
        select(questionnaires.c.id)
        .select_from(questionnaires)
        .join(found, true())
        .outerjoin(entry_row_marks, _M.questionnaire_id == questionnaires.c.id)
        .where(found.c.highest > func.coalesce(_M.upto, 0))
    )
    return list((await conn.execute(query)).scalars())


async def hide(conn: Connection, questionnaire_id: UUID, keys: Collection[str]) -> None:
    """Answers under these keys are restricted: from now on none of them is copied."""
    row = {"questionnaire_id": questionnaire_id, "upto": 0, "hidden": sorted(keys)}
    noting = upsert(entry_row_marks).values(row)
    await conn.execute(
        noting.on_conflict_do_update(
            index_elements=["questionnaire_id"], set_={"hidden": sorted(keys)}
        )
    )


async def seal(conn: Connection, questionnaire_id: UUID) -> None:
    """Until `sealed`, the copies may have what is restricted by now."""
    query = update(entry_row_marks).where(_M.questionnaire_id == questionnaire_id)
    await conn.execute(query.values(sealing=_M.sealing + 1))


async def sealing(conn: Connection, questionnaire_id: UUID) -> int:
    """Not 0 while copies may have what is restricted by now."""
    query = select(_M.sealing).where(_M.questionnaire_id == questionnaire_id)
    return (await conn.execute(query)).scalar_one_or_none() or 0


async def sealed(conn: Connection, questionnaire_id: UUID, begun: int) -> None:
    """No copy has what was restricted when `sealing` was `begun`."""
    query = update(entry_row_marks).where(
        _M.questionnaire_id == questionnaire_id, _M.sealing == begun
    )
    await conn.execute(query.values(sealing=0))


async def is_marked(conn: Connection, questionnaire_id: UUID) -> bool:
    query = select(_M.upto).where(_M.questionnaire_id == questionnaire_id)
    return (await conn.execute(query)).scalar_one_or_none() is not None


async def copy(conn: Connection, questionnaire_id: UUID, limit: int) -> int:
    """Copy entries that are not there yet, at most `limit`; how many. Nobody else does so for this
    questionnaire meanwhile: where somebody does, none is copied here."""
    own = _M.questionnaire_id == questionnaire_id
    locked = select(_M.upto, _M.next, _M.horizon, _M.hidden, SNAPSHOT_XMIN, SNAPSHOT_XMAX).where(
        own
    )
    mark = (await conn.execute(locked.with_for_update(skip_locked=True))).one_or_none()
    if mark is None:
        return 0
    upto, next_, horizon, hidden, xmin, xmax = mark
    count = await _copied(conn, questionnaire_id, upto, hidden, limit)
    if count < limit and horizon is not None and xmin >= horizon:
        upto, next_, horizon = next_, None, None
    if count < limit and horizon is None:
        next_, horizon = await highest(conn, questionnaire_id) or upto, xmax
    values = {"upto": upto, "next": next_, "horizon": horizon}
    await conn.execute(update(entry_row_marks).where(own).values(values))
    return count


async def _copied(
    conn: Connection, questionnaire_id: UUID, upto: int, hidden: list[str], limit: int
) -> int:
    """An entry that is changed at this moment is waited for: what it says then is copied."""
    columns = (
        _E.questionnaire_id,
        _E.number,
        _E.arrived,
        _E.language,
        _E.answers.op("-", return_type=JSONB())(literal(hidden, ARRAY(Text))),
    )
    missing = _missing(questionnaire_id, upto, *columns)
    missing = missing.order_by(_E.number).limit(limit).with_for_update(read=True)
    names = ["questionnaire_id", "number", "arrived", "language", "answers"]
    adding = upsert(entry_rows).from_select(names, missing).on_conflict_do_nothing()
    added = adding.returning(_R.number).cte("added")
    found: int = (await conn.execute(select(func.count()).select_from(added))).scalar_one()
    return found


def _missing(questionnaire_id: UUID, upto: int, *columns: Any) -> Select[Any]:
    """Columns of the entries with numbers over `upto` that are not copied."""
    there = (
        select(_R.number)
        .where(_R.questionnaire_id == _E.questionnaire_id, _R.number == _E.number)
        .exists()
    )
    own = _E.questionnaire_id == questionnaire_id
    return select(*columns).where(own, _E.number > upto, ~there)


async def lag(conn: Connection, questionnaire_id: UUID, upto: int, most: int) -> int:
    """How many entries with numbers over `upto` are not copied yet; counted to `most`."""
    missing = _missing(questionnaire_id, upto, _E.number).limit(most).subquery()
    found: int = (await conn.execute(select(func.count()).select_from(missing))).scalar_one()
    return found
