"""What the worker does when an entry has reached a status that rules act on."""

from dataclasses import replace
from datetime import datetime
from uuid import UUID

from jotgate.core.dispatch.planning import planned
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import rank, start
from jotgate.services.dispatch.known import subject_by_now
from jotgate.services.dispatch.setting import hold_people
from jotgate.store import entries, questionnaires, runs


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
        if rules.needs.gate:
            await questionnaires.gate(conn, questionnaire_id, keep=True)
        entry = await entries.entry(conn, questionnaire_id, entry_id, lock=True)
        if entry is None or entry.status_since != since:
            return
        before = await runs.any_of(conn, questionnaire_id, entry_id)
        if any(run.status == entry.status and run.changed >= since for run in before):
            return
        wanted = rules.reaching(entry.status)
        about = await subject_by_now(context, conn, entry, wanted, edition)
        effects = planned(wanted, about).effects
        await hold_people(conn, effects)
        done = [await start(context, conn, about, one) for one in sorted(effects, key=rank)]
        round = max((run.round for run in before), default=-1) + 1
        named = [replace(run, status=entry.status, round=round) for run in done]
        await runs.add_all(conn, named)
