"""What somebody sent before, where they may change it: found, and filled in again."""

from dataclasses import dataclass, replace
from datetime import datetime
from uuid import UUID

from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import raw_again, values_of
from jotgate.core.gate.changing import may_change
from jotgate.core.items import Carried, is_asked
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Came
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled
from jotgate.services import gate
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of
from jotgate.services.public.facts import with_facts
from jotgate.store.base import Connection
from jotgate.store.entries import entries


@dataclass(frozen=True)
class Own:
    """An entry that whoever sent it may change, `until` then, where that is known."""

    entry: Entry
    until: datetime | None


async def find(
    context: Context, conn: Connection, found: PublicState, zone: str, came: Came
) -> Own | None:
    """The entry that somebody came to change or to correct, or the newest by the pass, the sign-in
    or the mail address that they came by; None where there is none that they may change now."""
    if found.gate.changing is None and came.staff_id is None:
        return None
    entry = await _entry(conn, found.id, came)
    if entry is None:
        return None
    if came.staff_id is not None:
        return Own(entry, None)
    now = context.clock.now()
    opening, archived = gate.opening(context, found, zone, now), entry.archived is not None
    may = may_change(found.gate, opening, zone, now, entry.status, archived)
    return Own(entry, may.until) if may else None


async def _entry(conn: Connection, id: UUID, came: Came) -> Entry | None:
    if came.own is not None:
        return await entries.entry(conn, id, came.own)
    passes = [came.pass_id] if came.pass_id else []
    if not passes and came.subject_id is None and came.mail_id is None:
        return None
    return await entries.newest_of(
        conn, id, passes, subject_id=came.subject_id, mail_id=came.mail_id
    )


async def filled_again(
    context: Context, plan: Plan, entry: Entry, today: Today, filled: Filled
) -> Filled:
    """What the entry says in place of what its visitor brought, restricted answers included; what
    they brought locked stays."""
    values = await _values(context, entry)
    given: dict[str, object] = {}
    carried = dict(filled.carried)
    for key, value in values.items():
        item = plan.items.get(key)
        if isinstance(item, Carried) and item.shown != "changeable":
            carried[key] = value
        elif item is not None and (is_asked(item) or isinstance(item, Carried)):
            given[key] = raw_again(value, today.zone)
    answers: RawAnswers = {**given, **filled.locked}
    known = await with_facts(context, plan, entry.questionnaire_id, answers, entry.id)
    return replace(filled, carried=carried, answers=known, flags=tuple(entry.flags))


async def _values(context: Context, entry: Entry) -> Values:
    async with context.restricted.connect() as conn:
        sealed = await entries.sealed(conn, entry.questionnaire_id, [entry.id])
        plan = await context.plan(conn, entry.questionnaire_id, entry.edition)
    kept = await restricted_of(context, entry.id, sealed)
    return values_of(plan.items, {**entry.answers, **kept.answers})
