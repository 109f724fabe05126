"""What was printed of the letters of a round, kept for a while."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Column,
    ForeignKeyConstraint,
    Integer,
    Table,
    delete,
    func,
    literal,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY, insert
from sqlalchemy.types import Uuid

from jotgate.core.contacts.contact import Contact
from jotgate.core.records.links import Pass
from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import KeptRound, Print, ToPrint
from jotgate.store.base import Connection, metadata, time_column, uuid_column
from jotgate.store.contacts.contacts import COLUMNS as CONTACT
from jotgate.store.contacts.contacts import contacts
from jotgate.store.links.mailings import letters
from jotgate.store.links.passes import PASS, passes
from jotgate.store.rounds.facts import Known
from jotgate.store.rounds.people import of_round
from jotgate.store.rounds.tables import people

prints = Table(
    "prints",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("mailing_id", primary_key=True),
    time_column("at"),
    Column("letters", Integer, nullable=False),
    Column("pages", Integer, nullable=False),
    ForeignKeyConstraint(
        ["questionnaire_id", "mailing_id"],
        ["mailings.questionnaire_id", "mailings.id"],
        ondelete="CASCADE",
    ),
)
_PRINT: list[Any] = [prints.c[name] for name in Print.__annotations__]
lc = letters.c


async def put(conn: Connection, questionnaire_id: UUID, one: Print) -> None:
    """The newest print of a mailing takes the place of the one before."""
    values = vars(one)
    keys = ["questionnaire_id", "mailing_id"]
    query = insert(prints).values(questionnaire_id=questionnaire_id, **values)
    await conn.execute(query.on_conflict_do_update(index_elements=keys, set_=values))


async def of_mailings(conn: Connection, questionnaire_id: UUID) -> dict[UUID, Print]:
    query = select(*_PRINT).where(prints.c.questionnaire_id == questionnaire_id)
    return {row.mailing_id: Print(*row) for row in await conn.execute(query)}


async def forget(conn: Connection, before: datetime) -> list[UUID]:
    """Forget those that are older; the mailings that they were of."""
    query = delete(prints).where(prints.c.at < before).returning(prints.c.mailing_id)
    return list((await conn.execute(query)).scalars())


async def to_print(
    conn: Connection, mailing: Mailing, found: Known, where: Any, now: datetime
) -> list[ToPrint]:
    """The letters of a mailing that are to be printed, were, or could not be, to those whom its
    step still goes to and whose pass still lets them in; by postcode, then in the order of the
    draw."""
    r = found.rows.c
    rows = (
        letters.join(found.rows, r.contact_id == lc.contact_id)
        .join(contacts, contacts.c.id == lc.contact_id)
        .join(
            passes,
            (passes.c.questionnaire_id == lc.questionnaire_id) & (passes.c.id == lc.pass_id),
        )
    )
    query = (
        select(lc.id, r.postcode, passes.c.hash, *PASS, *CONTACT)
        .select_from(rows)
        .where(
            lc.questionnaire_id == mailing.questionnaire_id,
            lc.mailing_id == mailing.id,
            lc.state.in_(("waiting", "sent", "failed")),
            passes.c.hash.is_not(None),
            func.coalesce(passes.c.expires > now, True),
            where,
        )
        .order_by(r.postcode, r.number)
    )
    end = 3 + len(PASS)
    return [
        ToPrint(row[0], row[1], row[2], Pass(*row[3:end]), Contact(*row[end:]))
        for row in await conn.execute(query)
    ]


async def printed(
    conn: Connection, one: KeptRound, mailing: Mailing, ids: Sequence[UUID], now: datetime
) -> None:
    """Note that these letters were printed, and that those which waited beside them were left
    out."""
    which = lc.id == func.any(literal(list(ids), ARRAY(Uuid)))
    of = (lc.questionnaire_id == mailing.questionnaire_id, lc.mailing_id == mailing.id)
    values = {"state": "sent", "changed": now, "error": ""}
    await conn.execute(update(letters).where(*of, which).values(**values))
    left = {**values, "state": "left_out"}
    await conn.execute(update(letters).where(*of, lc.state == "waiting").values(**left))
    p = people.c
    whose = select(lc.contact_id).where(*of, which)
    query = update(people).where(of_round(one), p.contact_id.in_(whose), p.written.is_(None))
    await conn.execute(query.values(written=now))


async def not_addressed(conn: Connection, ids: Collection[UUID], why: str, now: datetime) -> None:
    """Note that letters could not be printed, as their addresses do not fit."""
    query = update(letters).where(lc.id.in_(list(ids)))
    await conn.execute(query.values(state="failed", error=why, changed=now))
