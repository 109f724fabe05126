"""Letters to contacts: what they say, and each of them with what became of it."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, get_args
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    String,
    Table,
    func,
    insert,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.mailing import MailingText
from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter, MailingState
from jotgate.store.base import (
    Connection,
    dumped,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)
from jotgate.store.contacts.contacts import contacts
from jotgate.store.links.passes import passes

mailings = Table(
    "mailings",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False),
    Column("text", JSONB, nullable=False),
    Column("state", String, nullable=False),
    time_column("made"),
    uuid_column("by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    uuid_column("batch_id", nullable=True),
    time_column("next_at"),
    Index(None, "state", "next_at"),
)
"""`next_at` is when the next letter may go out."""

letters = Table(
    "mailing_letters",
    metadata,
    uuid_column("id", primary_key=True),
    uuid_column("questionnaire_id"),
    uuid_column("mailing_id"),
    uuid_column("pass_id"),
    uuid_column("contact_id"),
    Column("email", String, nullable=False),
    Column("state", String, nullable=False),
    Column("tries", Integer, nullable=False, server_default="0"),
    Column("error", String, nullable=False, server_default=""),
    time_column("changed"),
    ForeignKeyConstraint(
        ["questionnaire_id", "mailing_id"],
        ["mailings.questionnaire_id", "mailings.id"],
        ondelete="CASCADE",
    ),
    Index(None, "questionnaire_id", "mailing_id", "state", "changed"),
    Index(None, "contact_id"),
)
"""`changed` is, of one that waits, when it may be tried."""

COUNTED: tuple[LetterState, ...] = get_args(LetterState)
"""The members of a mailing that count its letters by their state."""

_MAILING: list[Any] = [mailings.c[name] for name in Mailing.__annotations__ if name not in COUNTED]
_LETTER: list[Any] = [letters.c[name] for name in MailingLetter.__annotations__]


def _mailing(row: Sequence[Any], counts: Sequence[int] = ()) -> Mailing:
    values = list(row)
    values[3] = MailingText.model_validate(values[3])
    return Mailing(*values, *counts)


async def add(conn: Connection, one: Mailing) -> None:
    values = {name: value for name, value in vars(one).items() if name not in COUNTED}
    await conn.execute(
        insert(mailings).values(**{**values, "text": dumped(one.text)}, next_at=one.made)
    )


async def every(conn: Connection, questionnaire_id: UUID) -> list[Mailing]:
    """The newest first, with how many letters wait, were sent, left out and failed."""
    counted = (
        select(
            letters.c.mailing_id,
            *(func.count().filter(letters.c.state == one).label(one) for one in COUNTED),
        )
        .where(letters.c.questionnaire_id == questionnaire_id)
        .group_by(letters.c.mailing_id)
        .subquery()
    )
    query = (
        select(*_MAILING, *(func.coalesce(counted.c[one], 0) for one in COUNTED))
        .outerjoin(counted, counted.c.mailing_id == mailings.c.id)
        .where(mailings.c.questionnaire_id == questionnaire_id)
        .order_by(mailings.c.made.desc())
    )
    return [_mailing(row[:-4], row[-4:]) for row in await conn.execute(query)]


async def find(conn: Connection, questionnaire_id: UUID, id: UUID) -> Mailing | None:
    query = select(*_MAILING).where(
        mailings.c.questionnaire_id == questionnaire_id, mailings.c.id == id
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _mailing(row)


async def put_state(
    conn: Connection,
    questionnaire_id: UUID,
    id: UUID,
    before: Sequence[MailingState],
    state: MailingState,
) -> bool:
    """Set the state of one that is in one of the states `before`; whether it was."""
    m = mailings.c
    query = update(mailings).where(
        m.questionnaire_id == questionnaire_id, m.id == id, m.state.in_(before)
    )
    return (await conn.execute(query.values(state=state))).rowcount > 0


async def begin(
    conn: Connection, questionnaire_id: UUID, id: UUID, batch_id: UUID, now: datetime
) -> None:
    """A letter for every pass of a batch whose contact has a mail address; then it is sent."""
    source = (
        select(
            func.gen_random_uuid(),
            passes.c.questionnaire_id,
            literal(id),
            passes.c.id,
            contacts.c.id,
            contacts.c.email,
            literal("waiting"),
            literal(now),
        )
        .join(contacts, contacts.c.id == passes.c.contact_id)
        .where(
            passes.c.questionnaire_id == questionnaire_id,
            passes.c.batch_id == batch_id,
            contacts.c.email.is_not(None),
        )
    )
    names = ["id", "questionnaire_id", "mailing_id", "pass_id", "contact_id", "email", "state"]
    await conn.execute(insert(letters).from_select([*names, "changed"], source))
    m = mailings.c
    query = update(mailings).where(m.questionnaire_id == questionnaire_id, m.id == id)
    await conn.execute(query.values(state="sending", batch_id=batch_id, next_at=now))


async def due(conn: Connection, now: datetime) -> Mailing | None:
    """One whose next letter may go out, locked until the transaction ends; none that another
    worker is at."""
    query = (
        select(*_MAILING)
        .where(mailings.c.state == "sending", mailings.c.next_at <= now)
        .order_by(mailings.c.next_at)
        .limit(1)
        .with_for_update(skip_locked=True)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else _mailing(row)


async def next_letter(conn: Connection, mailing: Mailing) -> MailingLetter | None:
    """The letter that waits for the longest, whether or not it may be tried by now."""
    query = (
        select(*_LETTER)
        .where(
            letters.c.questionnaire_id == mailing.questionnaire_id,
            letters.c.mailing_id == mailing.id,
            letters.c.state == "waiting",
        )
        .order_by(letters.c.changed, letters.c.id)
        .limit(1)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else MailingLetter(*row)


async def mark(
    conn: Connection, id: UUID, state: LetterState, changed: datetime, error: str = ""
) -> None:
    """Note the outcome of a try; of one that waits still, when it may be tried again."""
    tried = letters.c.tries + 1
    query = update(letters).where(letters.c.id == id)
    await conn.execute(query.values(state=state, error=error, tries=tried, changed=changed))


async def go_on_at(conn: Connection, mailing: Mailing, at: datetime) -> None:
    m = mailings.c
    query = update(mailings).where(
        m.questionnaire_id == mailing.questionnaire_id, m.id == mailing.id
    )
    await conn.execute(query.values(next_at=at))


async def letter(conn: Connection, id: UUID) -> MailingLetter | None:
    row = (await conn.execute(select(*_LETTER).where(letters.c.id == id))).one_or_none()
    return None if row is None else MailingLetter(*row)


async def page(
    conn: Connection, questionnaire_id: UUID, mailing_id: UUID, limit: int
) -> list[MailingLetter]:
    """Letters, those first that failed or were left out, then the newest."""
    lc = letters.c
    query = (
        select(*_LETTER)
        .where(lc.questionnaire_id == questionnaire_id, lc.mailing_id == mailing_id)
        .order_by(lc.state.in_(("failed", "left_out")).desc(), lc.changed.desc(), lc.id)
        .limit(limit)
    )
    return [MailingLetter(*row) for row in await conn.execute(query)]


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """Give what waits for one contact to another."""
    query = update(letters).where(letters.c.contact_id == gone, letters.c.state == "waiting")
    await conn.execute(query.values(contact_id=kept))
