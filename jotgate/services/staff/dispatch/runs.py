"""Runs that are not done: listed, done again, skipped, and all sending paused."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.dispatch.effects import Place
from jotgate.core.dispatch.planning import planned
from jotgate.core.entries.entry import Entry
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Run, RunState
from jotgate.core.records.trail import Action
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import start
from jotgate.services.dispatch.known import subject_by_now
from jotgate.services.staff.many import Changed, each
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import questionnaires, runs
from jotgate.store.base import Connection
from jotgate.store.entries import entries

PER_PAGE = 100


@dataclass(frozen=True)
class OpenRuns:
    """Runs with the numbers of their entries, the last changed first; whether more follow, how many
    there are in each state, and since when nothing is sent, if that was paused."""

    runs: tuple[tuple[Run, int], ...]
    more: bool
    counts: dict[RunState, int]
    paused: datetime | None


async def page(
    context: Context,
    account: Account,
    id: UUID,
    states: Sequence[RunState],
    before: tuple[datetime, UUID] | None,
) -> OpenRuns:
    """Runs of a questionnaire in one of these states."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        found = await runs.still_open(conn, id, states, before, PER_PAGE + 1)
        counts = await runs.open_counts(conn, id)
        paused = await questionnaires.sending_paused(conn, id)
    return OpenRuns(tuple(found[:PER_PAGE]), len(found) > PER_PAGE, counts, paused)


async def again(context: Context, account: Account, id: UUID, ids: Sequence[UUID]) -> list[Changed]:
    """Do runs again that were not done, each for itself: a letter as it was written, everything
    else by the rules as they are now. Raises NotAllowed, NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)

    async def done(run_id: UUID) -> None:
        async with context.restricted.begin() as conn:
            await needs(conn, account, "write", id)
            await questionnaires.gate(conn, id, keep=True)
            entry = await _entry_of(conn, id, run_id)
            run = await _open(conn, id, run_id)
            await runs.put(conn, await _again(context, conn, run, entry))
            await _noted(context, conn, account, "run_again", run)

    return await each(ids, done)


async def _entry_of(conn: Connection, id: UUID, run_id: UUID) -> Entry:
    """The entry of a run, which is locked before that as everywhere. Raises NotFound."""
    run = await runs.find(conn, id, run_id)
    entry = await entries.entry(conn, id, run.entry_id, lock=True) if run else None
    if entry is None:
        raise NotFound("There is no such run.")
    return entry


async def _open(conn: Connection, id: UUID, run_id: UUID) -> Run:
    """A run that is not done, locked. Raises NotFound, Invalid."""
    run = await runs.find(conn, id, run_id, lock=True)
    if run is None:
        raise NotFound("There is no such run.")
    if run.state not in runs.OPEN:
        raise Invalid("This was done already, or left out.")
    return run


async def _again(context: Context, conn: Connection, run: Run, entry: Entry) -> Run:
    now = context.clock.now()
    if run.kind in ("notice", "call") and run.detail:
        return replace(run, state="waiting", next_try=now, tries=0, changed=now, last_error=None)
    rules, edition = there(await questionnaires.dispatching(conn, run.questionnaire_id))
    about = await subject_by_now(context, conn, entry, rules, edition)
    place = Place(run.rule, run.position, run.part)
    wanted = rules.reaching(run.status) if run.status else rules
    for effect in planned(wanted, about).effects:
        if effect.at == place:
            made = await start(context, conn, about, effect)
            tries = run.tries + made.tries
            return replace(made, id=run.id, tries=tries, round=run.round, status=run.status)
    raise Invalid("By the rules as they are now there is nothing to do here. Skip it.")


async def skip(
    context: Context, account: Account, id: UUID, ids: Sequence[UUID], reason: str
) -> list[Changed]:
    """Leave runs undone, with the reason why. Raises NotAllowed, NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)

    async def skipped(run_id: UUID) -> None:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            run = await _open(conn, id, run_id)
            now = context.clock.now()
            left = replace(run, state="skipped", next_try=None, last_error=reason, changed=now)
            await runs.put(conn, left)
            await _noted(context, conn, account, "run_skipped", run, reason=reason)

    return await each(ids, skipped)


async def _noted(
    context: Context, conn: Connection, account: Account, action: Action, run: Run, reason: str = ""
) -> None:
    of: dict[str, Any] = {"rule": run.rule, "kind": run.kind}
    of |= {"reason": reason} if reason else {}
    await note(context, conn, account.id, action, run.questionnaire_id, run.entry_id, **of)


async def pause(context: Context, account: Account, id: UUID, paused: bool) -> datetime | None:
    """Send nothing of a questionnaire for now, or go on: since when nothing is sent."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = await questionnaires.sending_paused(conn, id)
        if (before is not None) == paused:
            return before
        since = context.clock.now() if paused else None
        await questionnaires.pause_sending(conn, id, since)
        await note(context, conn, account.id, "sending_paused" if paused else "sending_resumed", id)
    return since
