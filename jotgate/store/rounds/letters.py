"""The letters of a round: made ready step by step, and looked up by whom they went to."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import (
    DateTime,
    String,
    column,
    func,
    insert,
    literal,
    select,
    update,
    values,
)

from jotgate.core.records.mailings import Mailing, MailingLetter, MailingWay
from jotgate.store.base import Connection
from jotgate.store.links.mailings import LETTER, letters, mailings
from jotgate.store.rounds.facts import Known

m, lc = mailings.c, letters.c


async def begin(
    conn: Connection,
    mailing: Mailing,
    found: Known,
    where: Any,
    at: Mapping[str, datetime],
) -> int:
    """A letter to everybody who fits, which may go from the moment of their time zone on; on paper
    without a mail address. How many."""
    r = found.rows.c
    zones = values(
        column("zone", String), column("at", DateTime(timezone=True)), name="zones"
    ).data(list(at.items()))
    source = (
        select(
            func.gen_random_uuid(),
            literal(mailing.questionnaire_id),
            literal(mailing.id),
            r.pass_id,
            r.contact_id,
            func.coalesce(r.contact_email, ""),
            literal("waiting"),
            zones.c.at,
        )
        .select_from(found.rows.join(zones, zones.c.zone == r.zone))
        .where(where, r.pass_id.is_not(None))
    )
    names = ["id", "questionnaire_id", "mailing_id", "pass_id", "contact_id", "email", "state"]
    query = insert(letters).from_select([*names, "changed"], source).returning(lc.id)
    made = query.cte("made")
    return int((await conn.execute(select(func.count()).select_from(made))).scalar_one())


async def hold(conn: Connection, questionnaire_id: UUID, round_id: UUID, held: bool) -> None:
    """Hold the letters of a round that wait, or let them go on."""
    before, after = ("sending", "held") if held else ("held", "sending")
    query = update(mailings).where(
        m.questionnaire_id == questionnaire_id, m.round_id == round_id, m.state == before
    )
    await conn.execute(query.values(state=after))


class StepLetter(NamedTuple):
    """A letter of a step, and whether it went by mail or on paper."""

    step: str
    way: MailingWay
    letter: MailingLetter


async def of_people(
    conn: Connection, questionnaire_id: UUID, round_id: UUID, contact_ids: Collection[UUID]
) -> list[StepLetter]:
    """The letters of a round to these contacts, the first ones first."""
    query = (
        select(m.step, m.way, *LETTER)
        .join(mailings, (m.questionnaire_id == lc.questionnaire_id) & (m.id == lc.mailing_id))
        .where(
            m.questionnaire_id == questionnaire_id,
            m.round_id == round_id,
            lc.contact_id.in_(contact_ids),
        )
        .order_by(lc.changed, lc.id)
    )
    found = await conn.execute(query)
    return [StepLetter(row[0], row[1], MailingLetter(*row[2:])) for row in found]
