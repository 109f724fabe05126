"""Letters of mailings as they go out: which is next, at what pace, and what became of it."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    DateTime,
    Uuid,
    bindparam,
    delete,
    func,
    insert,
    literal,
    select,
    true,
    update,
)
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.records.mailings import LetterState, Mailing, MailingLetter
from jotgate.core.records.rounds import KeptRound
from jotgate.store.base import Connection
from jotgate.store.links.mailings import LETTER, MAILING, domains, letters, mailing_of, mailings
from jotgate.store.rounds.tables import people


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


def _waiting(mailing: Mailing) -> Any:
    """The letters of a mailing that wait, those that wait for the longest first, whether or not
    they may be tried by now."""
    return (
        select(*LETTER)
        .where(
            letters.c.questionnaire_id == mailing.questionnaire_id,
            letters.c.mailing_id == mailing.id,
            letters.c.state == "waiting",
        )
        .order_by(letters.c.changed, letters.c.id)
    )


async def next_letters(conn: Connection, mailing: Mailing, count: int) -> list[MailingLetter]:
    """As many letters that wait as are wanted, where there are so many."""
    return [MailingLetter(*row) for row in await conn.execute(_waiting(mailing).limit(count))]


def domain_of(email: Any) -> Any:
    """The receiving domain of an address."""
    return func.split_part(email, "@", 2)


def _of(mailing: Mailing) -> tuple[Any, ...]:
    return (
        domains.c.questionnaire_id == mailing.questionnaire_id,
        domains.c.mailing_id == mailing.id,
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


Turn = tuple[str, MailingLetter | None]
"""A receiving domain, and the letter to it that waits for the longest, where there is any."""


async def turn_over(
    conn: Connection, mailing: Mailing, ids: Sequence[UUID], until: datetime
) -> None:
    """Have the receiving domains of these letters wait for their next turn."""
    served = select(domain_of(letters.c.email)).where(letters.c.id.in_(ids))
    which = (*_of(mailing), domains.c.domain.in_(served))
    await conn.execute(update(domains).where(*which).values(next_at=until))


async def next_domains(conn: Connection, mailing: Mailing, now: datetime, count: int) -> list[Turn]:
    """The receiving domains that a letter may go to by now, as many as are wanted."""
    one = _waiting(mailing).where(domain_of(letters.c.email) == domains.c.domain)
    letter = one.limit(1).lateral("letter")
    query = (
        select(domains.c.domain, letter)
        .outerjoin(letter, true())
        .where(*_of(mailing), domains.c.next_at <= now)
        .order_by(domains.c.next_at, domains.c.domain)
        .limit(count)
    )
    found = await conn.execute(query)
    return [(row[0], MailingLetter(*row[1:]) if row[1] else None) for row in found]


async def next_turn(conn: Connection, mailing: Mailing) -> datetime | None:
    """When a letter may go to a receiving domain next; None where none waits."""
    query = select(func.min(domains.c.next_at)).where(*_of(mailing))
    found: datetime | None = (await conn.execute(query)).scalar_one()
    return found


async def domain_waits(
    conn: Connection, mailing: Mailing, domain: str, until: datetime | None
) -> None:
    """When the next letter may go to a receiving domain; without a moment none waits for it."""
    which = (*_of(mailing), domains.c.domain == domain)
    if until is None:
        await conn.execute(delete(domains).where(*which))
        return
    await conn.execute(update(domains).where(*which).values(next_at=until))


async def mark(
    conn: Connection, ids: Sequence[UUID], state: LetterState, changed: datetime, error: str = ""
) -> None:
    """Note the outcome of a try of these; of one that waits still, when it may be tried again."""
    tried = letters.c.tries + 1
    query = update(letters).where(letters.c.id.in_(ids))
    await conn.execute(query.values(state=state, error=error, tries=tried, changed=changed))


_IDS = bindparam("of_letters", type_=ARRAY(Uuid))
_NOW = bindparam("of_now", type_=DateTime(timezone=True))
_MARK_SENT = (
    update(letters)
    .where(letters.c.id == func.any(_IDS))
    .values(state="sent", error="", tries=letters.c.tries + 1, changed=_NOW)
)
_WROTE = (
    update(people)
    .where(
        people.c.questionnaire_id == bindparam("of_questionnaire", type_=Uuid()),
        people.c.round_id == bindparam("of_round", type_=Uuid()),
        people.c.contact_id == func.any(bindparam("of_contacts", type_=ARRAY(Uuid))),
        people.c.written.is_(None),
    )
    .values(written=_NOW)
    .returning(people.c.contact_id)
)
_MARK_SENT_IN_ROUND = _MARK_SENT.add_cte(_WROTE.cte("wrote"))
"""Put together once: most letters are marked by it."""


async def mark_sent(
    conn: Connection, sent: Sequence[MailingLetter], now: datetime, one: KeptRound | None
) -> None:
    """Note that letters went, also at those whom they went to in the round `one`."""
    given: dict[str, Any] = {"of_letters": [letter.id for letter in sent], "of_now": now}
    if one is None:
        await conn.execute(_MARK_SENT, given)
        return
    given |= {
        "of_questionnaire": one.questionnaire_id,
        "of_round": one.id,
        "of_contacts": [letter.contact_id for letter in sent],
    }
    await conn.execute(_MARK_SENT_IN_ROUND, given)


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


async def put_off(conn: Connection, ids: Sequence[UUID], until: datetime) -> None:
    """Have letters wait until then; that is no try."""
    await conn.execute(update(letters).where(letters.c.id.in_(ids)).values(changed=until))
