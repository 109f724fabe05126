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
    text,
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
    uuid_column("round_id", nullable=True),
    Column("step", String, nullable=False, server_default=""),
    Column("way", String, nullable=False, server_default="mail"),
    Column("kind", String, nullable=False, server_default=""),
    time_column("next_at"),
    ForeignKeyConstraint(
        ["questionnaire_id", "round_id"],
        ["rounds.questionnaire_id", "rounds.id"],
        name="fk_mailings_questionnaire_id_rounds",
        ondelete="CASCADE",
    ),
    Index(None, "state", "next_at"),
)
"""`next_at` is when the next letter may go out; one that is a step of a round says of which."""

domains = Table(
    "mailing_domains",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("mailing_id", primary_key=True),
    Column("domain", String, primary_key=True),
    time_column("next_at"),
    ForeignKeyConstraint(
        ["questionnaire_id", "mailing_id"],
        ["mailings.questionnaire_id", "mailings.id"],
        ondelete="CASCADE",
    ),
)
"""The receiving domains that letters of a mailing wait for, where it has a pace for them, and when
the next one may go to each."""

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
    Index(
        "ix_mailing_letters_domain",
        "questionnaire_id",
        "mailing_id",
        text("split_part(email::text, '@', 2)"),
        "changed",
        postgresql_where=text("state = 'waiting'"),
    ),
    Index(None, "contact_id"),
)
"""`changed` is, of one that waits, when it may be tried."""

COUNTED: tuple[LetterState, ...] = get_args(LetterState)
"""The members of a mailing that count its letters by their state."""

MAILING: list[Any] = [mailings.c[name] for name in Mailing.__annotations__ if name not in COUNTED]
LETTER: list[Any] = [letters.c[name] for name in MailingLetter.__annotations__]


def mailing_of(row: Sequence[Any], counts: Sequence[int] = ()) -> Mailing:
    values = list(row)
    values[3] = MailingText.model_validate(values[3])
    return Mailing(*values, *counts)


async def add(conn: Connection, one: Mailing) -> None:
    values = {name: value for name, value in vars(one).items() if name not in COUNTED}
    await conn.execute(
        insert(mailings).values(**{**values, "text": dumped(one.text)}, next_at=one.made)
    )


async def every(
    conn: Connection, questionnaire_id: UUID, round_id: UUID | None = None
) -> list[Mailing]:
    """Those of a round, or those of none; the newest first, with how many letters wait, were sent,
    left out and failed."""
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
        select(*MAILING, *(func.coalesce(counted.c[one], 0) for one in COUNTED))
        .outerjoin(counted, counted.c.mailing_id == mailings.c.id)
        .where(
            mailings.c.questionnaire_id == questionnaire_id,
            mailings.c.round_id.is_not_distinct_from(round_id),
        )
        .order_by(mailings.c.made.desc())
    )
    return [mailing_of(row[:-4], row[-4:]) for row in await conn.execute(query)]


async def find(conn: Connection, questionnaire_id: UUID, id: UUID) -> Mailing | None:
    query = select(*MAILING).where(
        mailings.c.questionnaire_id == questionnaire_id, mailings.c.id == id
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else mailing_of(row)


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


async def letter(conn: Connection, id: UUID) -> MailingLetter | None:
    row = (await conn.execute(select(*LETTER).where(letters.c.id == id))).one_or_none()
    return None if row is None else MailingLetter(*row)


async def page(
    conn: Connection, questionnaire_id: UUID, mailing_id: UUID, limit: int
) -> list[MailingLetter]:
    """Letters, those first that failed or were left out, then the newest."""
    lc = letters.c
    query = (
        select(*LETTER)
        .where(lc.questionnaire_id == questionnaire_id, lc.mailing_id == mailing_id)
        .order_by(lc.state.in_(("failed", "left_out")).desc(), lc.changed.desc(), lc.id)
        .limit(limit)
    )
    return [MailingLetter(*row) for row in await conn.execute(query)]


async def move(conn: Connection, kept: UUID, gone: UUID) -> None:
    """Give what waits for one contact to another."""
    query = update(letters).where(letters.c.contact_id == gone, letters.c.state == "waiting")
    await conn.execute(query.values(contact_id=kept))
