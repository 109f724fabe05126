"""Named links of questionnaires, with what came by each."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    Integer,
    Select,
    String,
    Table,
    UniqueConstraint,
    Uuid,
    bindparam,
    cast,
    delete,
    exists,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.records.links import NamedLink
from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)
from jotgate.store.entries.tallies import by_link, link_tallies

named_links = Table(
    "named_links",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False),
    Column("code", String, nullable=False),
    Column("values", JSONB, nullable=False),
    time_column("made"),
    maybe_time_column("shut"),
    UniqueConstraint("questionnaire_id", "code"),
    UniqueConstraint("questionnaire_id", "name"),
)
_CAME = by_link()
_COUNTED = {"entries": func.coalesce(cast(_CAME.c.entries, Integer), 0), "latest": _CAME.c.latest}
_COLUMNS: list[Any] = [
    _COUNTED[name] if name in _COUNTED else named_links.c[name]
    for name in NamedLink.__annotations__
]
_LINKS = select(*_COLUMNS).outerjoin(
    _CAME,
    (_CAME.c.questionnaire_id == named_links.c.questionnaire_id)
    & (_CAME.c.link_id == named_links.c.id),
)


def _link(row: Sequence[Any]) -> NamedLink:
    found = NamedLink(*row)
    return replace(found, values=tuple((key, text) for key, text in found.values))


async def add(conn: Connection, link: NamedLink) -> None:
    """Raises AlreadyThere where the name is taken."""
    own = {name: one for name, one in vars(link).items() if name not in _COUNTED}
    await conn.execute(insert(named_links).values(**own))


def names(questionnaire_id: UUID) -> Select[tuple[UUID, str]]:
    """Ids and names, in the order in which they were made."""
    own = named_links.c.questionnaire_id == questionnaire_id
    return select(named_links.c.id, named_links.c.name).where(own).order_by(named_links.c.made)


async def every(conn: Connection, questionnaire_id: UUID) -> list[NamedLink]:
    """In the order in which they were made."""
    query = _LINKS.where(named_links.c.questionnaire_id == questionnaire_id)
    return [_link(row) for row in await conn.execute(query.order_by(named_links.c.made))]


_BY_CODE = _LINKS.where(
    named_links.c.questionnaire_id == bindparam("wanted", type_=Uuid()),
    named_links.c.code == bindparam("wanted_code", type_=String()),
)
"""Put together once: every visit by a named link asks for it."""


async def by_code(conn: Connection, questionnaire_id: UUID, code: str) -> NamedLink | None:
    given = {"wanted": questionnaire_id, "wanted_code": code}
    row = (await conn.execute(_BY_CODE, given)).one_or_none()
    return None if row is None else _link(row)


async def find(conn: Connection, questionnaire_id: UUID, id: UUID) -> NamedLink | None:
    query = _LINKS.where(named_links.c.questionnaire_id == questionnaire_id, named_links.c.id == id)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _link(row)


async def put(
    conn: Connection, questionnaire_id: UUID, id: UUID, name: str, shut: datetime | None
) -> bool:
    """Give it a name, and shut or open it; whether it is there. Raises AlreadyThere."""
    query = update(named_links).where(
        named_links.c.questionnaire_id == questionnaire_id, named_links.c.id == id
    )
    return (await conn.execute(query.values(name=name, shut=shut))).rowcount > 0


async def remove_unused(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    """Remove one that nothing has come by; whether there was one."""
    query = delete(named_links).where(
        named_links.c.questionnaire_id == questionnaire_id,
        named_links.c.id == id,
        ~exists().where(
            link_tallies.c.questionnaire_id == questionnaire_id, link_tallies.c.link_id == id
        ),
    )
    return (await conn.execute(query)).rowcount > 0
