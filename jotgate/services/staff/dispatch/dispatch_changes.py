"""What a change of dispatch rules means for past entries, told before it is applied."""

import asyncio
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.dispatch.differences import Difference, difference
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.subject import Subject, subject_of
from jotgate.core.entries.clearance import opened
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to
from jotgate.services.keys.resealing import newest_plan
from jotgate.services.staff.dispatch.dispatch_rules import refuse_unusable
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires
from jotgate.store.contacts import contacts
from jotgate.store.entries import entries

AT_ONCE = 200
"""Entries that are looked at for one answer."""


@dataclass(frozen=True)
class OtherwiseDone:
    """An entry for which something else would be done."""

    id: UUID
    number: int
    difference: Difference


@dataclass(frozen=True)
class Differences:
    """What was found among so many entries; `next` is the number to go on before, if there are
    older ones."""

    looked_at: int
    changed: tuple[OtherwiseDone, ...]
    next: int | None


async def differences(
    context: Context, account: Account, id: UUID, rules: Dispatch, before: int | None
) -> Differences:
    """How `rules` differ from those in force for past entries, from the newest back or from those
    with a number under `before`. Nothing is done. Raises Invalid."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        kept = there(await questionnaires.dispatch(conn, id)).value
        known = await known_to(conn, id, context.clock.now())
        newest = await newest_plan(context, conn, id)
        if newest is not None:
            await refuse_unusable(rules, newest, known)
        found = await entries.newest(conn, id, before, AT_ONCE + 1)
        named = {entry.contact_id for entry in found if entry.contact_id}
        known_contacts = await contacts.of_ids(conn, named) if named else {}
        subjects: list[Subject] = []
        for entry in found[:AT_ONCE]:
            plan = await context.plan(conn, id, entry.edition)
            open_one, _ = opened(entry, plan, newest)
            contact = known_contacts.get(entry.contact_id) if entry.contact_id else None
            subjects.append(subject_of(plan, open_one, contact, known))
    changed = await asyncio.to_thread(_compared, kept, rules, subjects)
    more = len(found) > AT_ONCE
    return Differences(len(subjects), changed, found[AT_ONCE - 1].number if more else None)


def _compared(
    kept: Dispatch, rules: Dispatch, subjects: list[Subject]
) -> tuple[OtherwiseDone, ...]:
    found = []
    for one in subjects:
        told = difference(planned(kept, one), planned(rules, one))
        if told is not None:
            found.append(OtherwiseDone(one.entry.id, one.entry.number, told))
    return tuple(found)
