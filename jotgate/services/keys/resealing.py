"""Answers to what was restricted only later, sealed where they lie."""

from uuid import UUID

from jotgate.core.entries.clearance import opened
from jotgate.core.entries.entry import Entry
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.keys.sealing import (
    Restricted,
    is_sealed,
    keys_for,
    restricted_of,
    seal,
    seal_name,
)
from jotgate.store import files, questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import entries, writing
from jotgate.store.entry_table import rows

AT_ONCE = 200
"""Entries of one transaction."""


async def seal_anew(context: Context, questionnaire_id: UUID) -> None:
    """Seal what the newest edition restricts in every entry of the editions before it."""
    async with context.engine.connect() as conn:
        begun = await rows.sealing(conn, questionnaire_id)
    last: int | None = 0
    while last is not None:
        async with context.restricted.begin() as conn:
            last = await _some(context, conn, questionnaire_id, last)
    async with context.engine.begin() as conn:
        await rows.sealed(conn, questionnaire_id, begun)


async def _some(context: Context, conn: Connection, id: UUID, after: int) -> int | None:
    """Seal what follows the entry numbered `after`: the last number, None where that is all."""
    newest = await newest_plan(context, conn, id)
    found = await entries.following(conn, id, after, AT_ONCE)
    for entry in found if newest else ():
        await sealed_by_now(context, conn, entry, newest)
    return found[-1].number if len(found) == AT_ONCE else None


async def newest_plan(context: Context, conn: Connection, id: UUID) -> Plan | None:
    summary = await questionnaires.summary(conn, id)
    return await context.plan(conn, id, summary.edition) if summary and summary.edition else None


async def sealed_by_now(
    context: Context, conn: Connection, entry: Entry, newest: Plan | None
) -> Entry:
    """The entry with nothing open but what still is; what was sealed for that is stored.

    Its row has to be locked, so that nothing is sealed twice.
    """
    plan = await context.plan(conn, entry.questionnaire_id, entry.edition)
    shown, hidden = opened(entry, plan, newest)
    if newest and (later := newest.restricted - plan.restricted):
        await writing.forget_left_empty(conn, entry.questionnaire_id, entry.id, later)
    if not hidden and shown.finish == entry.finish:
        return entry
    found = await entries.sealed(conn, entry.questionnaire_id, [entry.id])
    kept = await restricted_of(context, entry.id, found)
    finish = kept.finish if shown.finish else kept.finish or entry.finish
    whole = Restricted({**kept.answers, **hidden}, finish)
    await writing.put_sealed(conn, shown, await seal(context, entry.id, whole))
    sent = await files.of_entry(conn, entry.id)
    keys = await keys_for(context, [file.key_id for file in sent])
    for file in sent:
        if plan.owners.get(file.item, file.item) in hidden and not is_sealed(file):
            await files.rename(conn, file.id, seal_name(keys[file.key_id], file.id, file.name))
    return shown
