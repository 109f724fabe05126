"""Views of registers, and of the entries of questionnaires, under a name."""

from typing import Any, Literal
from uuid import UUID

from sqlalchemy import (
    CheckConstraint,
    Column,
    ForeignKey,
    String,
    Table,
    UniqueConstraint,
    delete,
    func,
    insert,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.table_views import SavedView, TableView
from jotgate.store.base import Connection, dumped, metadata, time_column, uuid_column

Of = tuple[Literal["questionnaire", "register"], UUID]

saved_views = Table(
    "saved_views",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("register_id", ForeignKey("registers.id", ondelete="CASCADE"), nullable=True),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), nullable=True
    ),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), nullable=True),
    Column("name", String, nullable=False),
    Column("view", JSONB, nullable=False),
    time_column("made"),
    UniqueConstraint(
        "register_id",
        "questionnaire_id",
        "account_id",
        "name",
        postgresql_nulls_not_distinct=True,
        name="uq_saved_views_of_name",
    ),
    CheckConstraint("num_nonnulls(register_id, questionnaire_id) = 1", "ck_saved_views_of"),
)
"""`account_id` is of whom a view is for alone; null where it is for all."""

_V = saved_views.c
_COLUMNS = {"register": _V.register_id, "questionnaire": _V.questionnaire_id}
_VIEW = (
    _V.id,
    func.coalesce(_V.register_id, _V.questionnaire_id),
    _V.account_id,
    _V.name,
    _V.view,
    _V.made,
)


def _view(row: Any) -> SavedView:
    id, of, account_id, name, view, made = row
    return SavedView(id, of, account_id, name, TableView.model_validate(view), made)


async def views_of(conn: Connection, of: Of, account_id: UUID) -> list[SavedView]:
    """The views for all and those of `account_id`, by name."""
    mine = or_(_V.account_id.is_(None), _V.account_id == account_id)
    query = select(*_VIEW).where(_COLUMNS[of[0]] == of[1], mine)
    return [_view(row) for row in await conn.execute(query.order_by(_V.name, _V.made))]


async def view(conn: Connection, of: Of, id: UUID) -> SavedView | None:
    query = select(*_VIEW).where(_COLUMNS[of[0]] == of[1], _V.id == id)
    found = (await conn.execute(query)).one_or_none()
    return None if found is None else _view(found)


async def add(conn: Connection, kind: Literal["questionnaire", "register"], one: SavedView) -> None:
    """Raises AlreadyThere."""
    values = {_COLUMNS[kind].name: one.of, "id": one.id, "made": one.made, **_said(one)}
    await conn.execute(insert(saved_views).values(values))


async def put(conn: Connection, one: SavedView) -> None:
    """Raises AlreadyThere."""
    await conn.execute(update(saved_views).where(_V.id == one.id).values(_said(one)))


def _said(one: SavedView) -> dict[str, Any]:
    return {"name": one.name, "account_id": one.account_id, "view": dumped(one.view)}


async def remove(conn: Connection, id: UUID) -> None:
    await conn.execute(delete(saved_views).where(_V.id == id))
