"""Letters of mailings as they go out: which is next, at what pace, and what became of it."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import delete, func, insert, literal, select, update
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter
from jotgate.store.base import Connection
from jotgate.store.links.mailings import LETTER, MAILING, domains, letters, mailing_of, mailings


async def due(conn: Connection, now: datetime) -> Mailing | None:
    """One whose next letter may go out, locked until the transaction ends; none that another
    worker is at."""
    query = (
        select(*MAILING)
        .where(mailings.c.state == "sending", mailings.c.next_at <= now, mailings.c.way == "mail")
        .order_by(mailings.c.next_at)
        .limit(1)
        .with_for_update(skip_locked=True)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else mailing_of(row)


async def next_letter(
    conn: Connection, mailing: Mailing, domain: str | None = None
) -> MailingLetter | None:
    """The letter that waits for the longest, whether or not it may be tried by now; to one
    receiving domain where that is given."""
    query = (
        select(*LETTER)
        .where(
            letters.c.questionnaire_id == mailing.questionnaire_id,
            letters.c.mailing_id == mailing.id,
            letters.c.state == "waiting",
        )
        .order_by(letters.c.changed, letters.c.id)
        .limit(1)
    )
    if domain is not None:
        query = query.where(domain_of(letters.c.email) == domain)
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else MailingLetter(*row)


def domain_of(email: Any) -> Any:
    """The receiving domain of an address."""
    return func.split_part(email, "@", 2)


def _to(mailing: Mailing, domain: str) -> Any:
    d = domains.c
    return (
        (d.questionnaire_id == mailing.questionnaire_id)
        & (d.mailing_id == mailing.id)
        & (d.domain == domain)
    )


async def open_domains(conn: Connection, mailing: Mailing, now: datetime) -> None:
    """Note the receiving domains of the letters, where the mailing has a pace for them."""
    if mailing.text.per_domain is None:
        return
    source = (
        select(
            literal(mailing.questionnaire_id),
            literal(mailing.id),
            domain_of(letters.c.email),
            literal(now),
        )
        .where(
            letters.c.questionnaire_id == mailing.questionnaire_id,
            letters.c.mailing_id == mailing.id,
        )
        .distinct()
    )
    names = ["questionnaire_id", "mailing_id", "domain", "next_at"]
    await conn.execute(insert(domains).from_select(names, source))


async def next_domain(conn: Connection, mailing: Mailing) -> tuple[str, datetime] | None:
    """The receiving domain that a letter may go to first, and when."""
    d = domains.c
    query = (
        select(d.domain, d.next_at)
        .where(d.questionnaire_id == mailing.questionnaire_id, d.mailing_id == mailing.id)
        .order_by(d.next_at, d.domain)
        .limit(1)
    )
    row = (await conn.execute(query)).one_or_none()
    return None if row is None else (row.domain, row.next_at)


async def domain_waits(
    conn: Connection, mailing: Mailing, domain: str, until: datetime | None
) -> None:
    """When the next letter may go to a receiving domain; without a moment none waits for it."""
    if until is None:
        await conn.execute(delete(domains).where(_to(mailing, domain)))
        return
    await conn.execute(update(domains).where(_to(mailing, domain)).values(next_at=until))


async def mark(
    conn: Connection, id: UUID, state: LetterState, changed: datetime, error: str = ""
) -> None:
    """Note the outcome of a try; of one that waits still, when it may be tried again."""
    tried = letters.c.tries + 1
    query = update(letters).where(letters.c.id == id)
    await conn.execute(query.values(state=state, error=error, tries=tried, changed=changed))


async def came_back(conn: Connection, letter: MailingLetter, now: datetime, said: str) -> None:
    """Note that a letter which was sent did not arrive."""
    query = update(letters).where(letters.c.id == letter.id, letters.c.state == "sent")
    await conn.execute(query.values(state="failed", error=said, changed=now))


async def try_again(conn: Connection, letter: MailingLetter, at: datetime, said: str) -> None:
    """Have a letter that was sent wait for another try."""
    lc, m = letters.c, mailings.c
    query = update(letters).where(lc.id == letter.id, lc.state == "sent")
    found = await conn.execute(query.values(state="waiting", error=said, changed=at))
    if not found.rowcount:
        return
    of = (m.questionnaire_id == letter.questionnaire_id, m.id == letter.mailing_id)
    over = update(mailings).where(*of, m.state == "done")
    await conn.execute(over.values(state="sending", next_at=at))
    named = ["questionnaire_id", "mailing_id", "domain", "next_at"]
    paced = select(
        m.questionnaire_id,
        m.id,
        literal(letter.email.partition("@")[2]),
        literal(at),
    ).where(*of, m.text["per_domain"].as_integer().is_not(None))
    await conn.execute(upsert(domains).from_select(named, paced).on_conflict_do_nothing())


async def go_on_at(conn: Connection, mailing: Mailing, at: datetime) -> None:
    m = mailings.c
    query = update(mailings).where(
        m.questionnaire_id == mailing.questionnaire_id, m.id == mailing.id
    )
    await conn.execute(query.values(next_at=at))


async def put_off(conn: Connection, id: UUID, until: datetime) -> None:
    """Have a letter wait until then; that is no try."""
    await conn.execute(update(letters).where(letters.c.id == id).values(changed=until))
