"""Codes that people type from paper, each of a pass. What is kept of a code is a mark that only we
can make of it: there are too few of them for a plain hash to hide one."""

from collections.abc import Mapping, Sequence
from uuid import UUID

from sqlalchemy import Column, ForeignKeyConstraint, Index, LargeBinary, Table, select
from sqlalchemy.dialects.postgresql import insert

from jotgate.store.base import Connection, metadata, uuid_column

typed_codes = Table(
    "typed_codes",
    metadata,
    Column("mark", LargeBinary, primary_key=True),
    uuid_column("questionnaire_id"),
    uuid_column("pass_id"),
    ForeignKeyConstraint(
        ["questionnaire_id", "pass_id"],
        ["passes.questionnaire_id", "passes.id"],
        ondelete="CASCADE",
    ),
    Index(None, "questionnaire_id", "pass_id"),
)
t = typed_codes.c


async def add(
    conn: Connection, questionnaire_id: UUID, marks: Mapping[bytes, UUID]
) -> dict[bytes, UUID]:
    """Keep the codes of passes; whose each mark is by now, which is another pass where the code was
    taken already."""
    rows = [
        {"mark": mark, "questionnaire_id": questionnaire_id, "pass_id": pass_id}
        for mark, pass_id in sorted(marks.items())
    ]
    if rows:
        await conn.execute(insert(typed_codes).on_conflict_do_nothing(), rows)
    query = select(t.mark, t.pass_id).where(t.mark.in_(list(marks)))
    return {row.mark: row.pass_id for row in await conn.execute(query)}


async def find(conn: Connection, marks: Sequence[bytes]) -> tuple[UUID, UUID] | None:
    """The questionnaire and the pass of a code that has one of these marks."""
    query = select(t.questionnaire_id, t.pass_id).where(t.mark.in_(list(marks))).limit(1)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else (row.questionnaire_id, row.pass_id)
