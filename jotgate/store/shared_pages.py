"""Pages to share: what is on each, and the address that it is found at."""

from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    Integer,
    String,
    Table,
    delete,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.shared_pages.page import DrawnPage, PageContent, SharedPage
from jotgate.store.base import (
    Connection,
    dumped,
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)

shared_pages = Table(
    "shared_pages",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("token", String, nullable=False, unique=True),
    Column("content", JSONB, nullable=False),
    Column("frozen", JSONB(none_as_null=True), nullable=True),
    maybe_time_column("closed"),
    time_column("made"),
    uuid_column("made_by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("revision", Integer, nullable=False),
)

_P = shared_pages.c
_NAMES = tuple(SharedPage.__annotations__)
_PAGE = select(*(_P[name] for name in _NAMES))


def _page(row: Any) -> SharedPage:
    said = dict(zip(_NAMES, row, strict=True))
    frozen = said["frozen"]
    said["content"] = PageContent.model_validate(said["content"])
    said["frozen"] = None if frozen is None else DrawnPage.model_validate(frozen)
    return SharedPage(**said)


def _said(page: SharedPage) -> dict[str, Any]:
    frozen = None if page.frozen is None else dumped(page.frozen)
    return {**vars(page), "content": dumped(page.content), "frozen": frozen}


async def every(conn: Connection, questionnaire_id: UUID) -> list[SharedPage]:
    """The newest first."""
    query = _PAGE.where(_P.questionnaire_id == questionnaire_id)
    return [_page(row) for row in await conn.execute(query.order_by(_P.made.desc(), _P.id))]


async def count(conn: Connection, questionnaire_id: UUID) -> int:
    query = select(func.count()).where(_P.questionnaire_id == questionnaire_id)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def page(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> SharedPage | None:
    query = _PAGE.where(_P.questionnaire_id == questionnaire_id, _P.id == id)
    row = (await conn.execute(query.with_for_update() if lock else query)).one_or_none()
    return None if row is None else _page(row)


async def by_token(conn: Connection, token: str) -> SharedPage | None:
    row = (await conn.execute(_PAGE.where(_P.token == token))).one_or_none()
    return None if row is None else _page(row)


async def add(conn: Connection, page: SharedPage) -> None:
    await conn.execute(insert(shared_pages).values(_said(page)))


async def put(conn: Connection, page: SharedPage) -> None:
    query = update(shared_pages).where(
        _P.questionnaire_id == page.questionnaire_id, _P.id == page.id
    )
    await conn.execute(query.values(_said(page)))


async def remove(conn: Connection, questionnaire_id: UUID, id: UUID) -> None:
    await conn.execute(
        delete(shared_pages).where(_P.questionnaire_id == questionnaire_id, _P.id == id)
    )
