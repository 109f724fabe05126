"""What is kept of one person, known by a mail address, over everything."""

from collections.abc import Collection
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ColumnElement,
    Text,
    and_,
    case,
    cast,
    delete,
    func,
    or_,
    select,
    union,
    union_all,
    update,
)
from sqlalchemy.dialects.postgresql import REGCONFIG

from jotgate.core.records.ciphertext import Ciphertext
from jotgate.store.base import Connection
from jotgate.store.contacts.list_questions import list_questions
from jotgate.store.contacts.opt_outs import opt_outs
from jotgate.store.entries.entry_tables import entries, entry_ways, restricted_answers
from jotgate.store.entry_table.rows import entry_rows
from jotgate.store.gate.waiting import waiting
from jotgate.store.links.mailings import letters
from jotgate.store.questionnaires import questionnaires
from jotgate.store.registers.registers import registers
from jotgate.store.registers.rows import rows
from jotgate.store.runs import runs

_A = restricted_answers.c

MOST = 1_000
"""Of each kind that is found at once."""


@dataclass(frozen=True)
class RowFound:
    """A row of a register, by its name."""

    register_id: UUID
    register: str
    id: int
    values: dict[str, Any]


def _says(json: ColumnElement[Any], email: str) -> ColumnElement[bool]:
    """Whether some text in JSON is the address, whatever its case."""
    escaped = email.lower().replace("\\", "\\\\").replace('"', '\\"')
    like: ColumnElement[bool] = func.strpos(func.lower(cast(json, Text)), f'"{escaped}"') > 0
    return like


async def entries_of(
    conn: Connection, email: str, mail_id: UUID, contact_ids: Collection[UUID]
) -> list[tuple[UUID, UUID]]:
    """Entries, as (questionnaire, entry), that came by a contact or a confirmed address, or say the
    address in an open answer."""
    w, r, e = entry_ways.c, entry_rows.c, entries.c
    ways = select(w.questionnaire_id, w.entry_id).where(
        or_(w.contact_id.in_(contact_ids), w.mail_id == mail_id)
    )
    query = func.plainto_tsquery(cast("simple", REGCONFIG), cast(email, Text))
    same = and_(e.questionnaire_id == r.questionnaire_id, e.number == r.number)
    said = (
        select(e.questionnaire_id, e.id)
        .select_from(entry_rows.join(entries, same))
        .where(r.words.op("@@")(query), _says(r.answers, email))
    )
    both = union(ways, said).limit(MOST)
    return [(row[0], row[1]) for row in await conn.execute(both)]


async def with_sealed(conn: Connection) -> list[UUID]:
    """The questionnaires of which entries have sealed answers."""
    id = questionnaires.c.id
    any_of = select(_A.entry_id).where(_A.questionnaire_id == id).exists()
    return list((await conn.execute(select(id).where(any_of))).scalars())


async def sealed_after(
    conn: Connection, questionnaire_id: UUID, after: UUID | None, limit: int
) -> dict[UUID, Ciphertext]:
    """The sealed answers of entries in the order of their ids, from behind `after` on."""
    query = select(_A.entry_id, _A.sealed, _A.key_id).where(_A.questionnaire_id == questionnaire_id)
    if after is not None:
        query = query.where(_A.entry_id > after)
    some = await conn.execute(query.order_by(_A.entry_id).limit(limit))
    return {id: Ciphertext(*rest) for id, *rest in some}


async def rows_of(conn: Connection, email: str, entry_ids: Collection[UUID]) -> list[RowFound]:
    """Rows that say the address, or were filed from these entries; taken out ones too."""
    query = (
        select(rows.c.register_id, registers.c.name, rows.c.id, rows.c["values"])
        .join(registers, registers.c.id == rows.c.register_id)
        .where(or_(_says(rows.c["values"], email), rows.c.entry_id.in_(entry_ids)))
        .order_by(registers.c.name, rows.c.id)
        .limit(MOST)
    )
    return [RowFound(*row) for row in await conn.execute(query)]


async def letters_of(
    conn: Connection, email: str, contact_ids: Collection[UUID]
) -> list[dict[str, Any]]:
    """Letters of mailings to them: when, how far, of which questionnaire; and those that asked
    whether they want to be on a list."""
    c, q = letters.c, list_questions.c
    sent = select(c.questionnaire_id, c.email, c.state, c.changed).where(_to(email, contact_ids))
    state = case((q.agreed.is_(None), "asked"), else_="agreed")
    asked = select(q.questionnaire_id, q.email, state, q.asked).where(_asked(email))
    found = await conn.execute(union_all(sent, asked).limit(MOST))
    # The names that SQLAlchemy gives are texts of its own kind, which no JSON takes as keys.
    return [{str(name): value for name, value in row._mapping.items()} for row in found]


def _to(email: str, contact_ids: Collection[UUID]) -> ColumnElement[bool]:
    c = letters.c
    return or_(func.lower(c.email) == email.lower(), c.contact_id.in_(contact_ids))


def _asked(email: str) -> ColumnElement[bool]:
    return func.lower(list_questions.c.email) == email.lower()


def _put_on_list(email: str) -> ColumnElement[bool]:
    of = runs.c.detail["email"].astext
    return and_(runs.c.kind == "list", func.lower(of) == email.lower())


def _written(email: str) -> ColumnElement[bool]:
    to = runs.c.detail["to"].astext
    return and_(runs.c.kind == "notice", func.lower(to) == email.lower())


async def counts(conn: Connection, email: str) -> dict[str, int]:
    """How many notices went to the address from whatever entry, and how often it waits for a
    place."""
    notices = select(func.count()).select_from(runs).where(_written(email)).scalar_subquery()
    waits = select(func.count()).where(func.lower(waiting.c.email) == email.lower())
    row = (await conn.execute(select(notices, waits.scalar_subquery()))).one()
    return {"notices": row[0], "waiting": row[1]}


async def erase(
    conn: Connection, email: str, contact_ids: Collection[UUID], row_ids: Collection[int]
) -> None:
    """Delete rows, letters, also those that ask whether one wants to be on a list, and places on
    waiting lists, and what notices said; that nobody may write to the address stays, so that nobody
    does."""
    await conn.execute(delete(rows).where(rows.c.id.in_(row_ids)))
    await conn.execute(delete(letters).where(_to(email, contact_ids)))
    await conn.execute(delete(waiting).where(func.lower(waiting.c.email) == email.lower()))
    await conn.execute(delete(list_questions).where(_asked(email)))
    named = or_(_written(email), _put_on_list(email))
    await conn.execute(update(runs).where(named).values(detail={}))


async def is_out(conn: Connection, email: str) -> bool:
    o = opt_outs.c
    query = select(o.email).where(func.lower(o.email) == email.lower(), o.scope == "")
    return (await conn.execute(query)).first() is not None
