"""What the worker does when an entry has reached a status that rules act on."""

from dataclasses import replace
from datetime import datetime
from uuid import UUID

from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import carry_out, lock_entry, round_after
from jotgate.store import questionnaires, runs


async def dispatch_status(
    context: Context, questionnaire_id: UUID, entry_id: UUID, since: datetime
) -> None:
    """Do what the rules say of the status that an entry has `since` then, once for each time that
    it reaches it. Where it has gone on from there meanwhile, nothing is done."""
    async with context.restricted.begin() as conn:
        saved = await questionnaires.dispatching(conn, questionnaire_id)
        if saved is None:
            return
        rules, edition = saved
        entry = await lock_entry(conn, rules, questionnaire_id, entry_id)
        if entry is None or entry.status_since != since:
            return
        before = await runs.any_of(conn, questionnaire_id, entry_id)
        if any(run.status == entry.status and run.changed >= since for run in before):
            return
        done = await carry_out(context, conn, entry, rules.reaching(entry.status), edition)
        round = round_after(before)
        named = [replace(run, status=entry.status, round=round) for run in done]
        await runs.add_all(conn, named)
