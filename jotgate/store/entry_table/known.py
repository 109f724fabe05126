"""What the table of a questionnaire's entries is drawn with, in one statement: it is asked for with
every page."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, DateTime, Select, Uuid, bindparam, func, select, true

from jotgate.core.handling import Handling
from jotgate.store import questionnaires
from jotgate.store.accounts import care, parts
from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import entries
from jotgate.store.entries.tallies import counted
from jotgate.store.entry_table.rows import entry_row_marks
from jotgate.store.links import named_links


@dataclass(frozen=True)
class TableKnown:
    """`edition` is the newest one's number, None before the first publishing; `total` counts all
    entries, and `highest` is the largest number of one. `links`, `people` who may take care and
    `teams` are names by id. `archived` is whether there is any in the archive. Of the copy that is
    searched: all entries up to the number `upto` are there, and while `sealing` it may have what is
    restricted by now."""

    edition: int | None
    zone: str
    handling: Handling
    total: int
    highest: int
    links: Mapping[str, str]
    people: Mapping[str, str]
    teams: Mapping[str, str]
    archived: bool
    upto: int
    sealing: bool


def _names(query: Select[Any]) -> ColumnElement[Any]:
    """Rows of (id, name) as one list, in their order."""
    some = query.subquery()
    pairs = select(func.jsonb_build_array(some.c.id, some.c.name))
    return func.array(pairs.scalar_subquery())


def _known() -> Select[Any]:
    id: Any = bindparam("of", type_=Uuid())
    now: Any = bindparam("now", type_=DateTime(timezone=True))
    q, e, m = questionnaires.questionnaires.c, entries.c, entry_row_marks.c
    total = counted()
    own = e.questionnaire_id == id
    highest = select(func.max(e.number)).where(own).scalar_subquery()
    return (
        select(
            q.edition,
            q.draft["time_zone"].astext.label("zone"),
            q.handling,
            total.c.entries.label("total"),
            func.coalesce(highest, 0).label("highest"),
            _names(named_links.names(id)).label("links"),
            _names(care.able(id, now)).label("people"),
            _names(parts.team_names()).label("teams"),
            select(true()).where(own, e.archived.is_not(None)).exists().label("archived"),
            func.coalesce(m.upto, 0).label("upto"),
            (func.coalesce(m.sealing, 0) > 0).label("sealing"),
        )
        .join(total, total.c.questionnaire_id == q.id)
        .outerjoin(entry_row_marks, m.questionnaire_id == q.id)
        .where(q.id == id)
    )


_KNOWN = _known()


async def table_known(conn: Connection, id: UUID, now: datetime) -> TableKnown | None:
    row = (await conn.execute(_KNOWN, {"of": id, "now": now})).one_or_none()
    if row is None:
        return None
    return TableKnown(
        edition=row.edition,
        zone=row.zone or "UTC",
        handling=Handling.model_validate(row.handling),
        total=int(row.total),
        highest=row.highest,
        links=dict(row.links),
        people=dict(row.people),
        teams=dict(row.teams),
        archived=row.archived,
        upto=row.upto,
        sealing=row.sealing,
    )
