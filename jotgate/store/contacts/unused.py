"""Contacts that nothing was done with for long."""

from datetime import datetime
from typing import Any

from sqlalchemy import func, select

from jotgate.store.contacts.contacts import contacts
from jotgate.store.entries.entry_tables import entries, entry_ways
from jotgate.store.links.mailings import letters
from jotgate.store.links.passes import batches, passes
from jotgate.store.rounds.tables import attempts, people, rounds

c = contacts.c


def unused_since(moment: datetime) -> Any:
    """That a contact did not come, was not written to, rung or drawn, was given no pass and sent
    nothing since then."""
    w, e, lc, p, r, a = (one.c for one in (entry_ways, entries, letters, people, rounds, attempts))
    sent = (
        select(w.contact_id)
        .join(entries, (e.questionnaire_id == w.questionnaire_id) & (e.id == w.entry_id))
        .where(w.contact_id == c.id, e.arrived >= moment)
    )
    drawn = (
        select(p.contact_id)
        .join(rounds, (r.questionnaire_id == p.questionnaire_id) & (r.id == p.round_id))
        .where(p.contact_id == c.id, func.coalesce(r.drawn, r.made) >= moment)
    )
    asked = (
        select(passes.c.contact_id)
        .join(
            batches,
            (batches.c.questionnaire_id == passes.c.questionnaire_id)
            & (batches.c.id == passes.c.batch_id),
        )
        .where(passes.c.contact_id == c.id, batches.c.made >= moment)
    )
    written = select(lc.contact_id).where(lc.contact_id == c.id, lc.changed >= moment)
    tried = select(a.contact_id).where(a.contact_id == c.id, a.at >= moment)
    came = func.coalesce(c.added, func.to_timestamp(0)) < moment
    none = [~one.exists() for one in (sent, drawn, asked, written, tried)]
    return came & none[0] & none[1] & none[2] & none[3] & none[4]
