"""Editions: published versions of a questionnaire, which never change."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import Text, cast, func, insert, literal, select, update

from jotgate.core.records.questionnaires import Published, Saved
from jotgate.store.accounts.accounts import accounts
from jotgate.store.base import Connection, as_column
from jotgate.store.questionnaires import editions, questionnaires


async def publish(conn: Connection, id: UUID, saved: Saved[str], by: UUID, now: datetime) -> int:
    """Freeze `saved` as the next edition and make it the current one; its number."""
    number: int = (
        await conn.execute(
            update(questionnaires)
            .where(questionnaires.c.id == id)
            .values(edition=func.coalesce(questionnaires.c.edition, 0) + literal(1))
            .returning(questionnaires.c.edition)
        )
    ).scalar_one()
    await conn.execute(
        insert(editions).values(
            questionnaire_id=id,
            number=number,
            document=as_column(saved.value),
            draft_revision=saved.revision,
            published=now,
            published_by=by,
        )
    )
    return number


async def edition(conn: Connection, id: UUID, number: int) -> str | None:
    """The document as JSON: reading it can take long."""
    query = select(cast(editions.c.document, Text)).where(
        editions.c.questionnaire_id == id, editions.c.number == number
    )
    document: str | None = (await conn.execute(query)).scalar_one_or_none()
    return document


async def replaced(conn: Connection, id: UUID, number: int) -> datetime | None:
    """When the edition after `number` was published."""
    query = select(editions.c.published).where(
        editions.c.questionnaire_id == id, editions.c.number == number + 1
    )
    found: datetime | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def published(conn: Connection, id: UUID) -> list[Published]:
    """Every edition, the newest first."""
    query = (
        select(editions.c.number, editions.c.published, accounts.c.name)
        .join(accounts, accounts.c.id == editions.c.published_by)
        .where(editions.c.questionnaire_id == id)
        .order_by(editions.c.number.desc())
    )
    return [Published(*row) for row in await conn.execute(query)]
