"""What the worker does when an entry has arrived: what can be done here is done in one transaction,
what is to be sent waits as runs."""

from collections.abc import Collection, Mapping
from dataclasses import replace
from datetime import datetime
from uuid import UUID, uuid5

from jotgate.core.common.errors import TooManyTries
from jotgate.core.dispatch.due import due
from jotgate.core.dispatch.effects import (
    CallPlanned,
    Effect,
    NoticePlanned,
    NotPlanned,
    RowPlanned,
    StatusPlanned,
)
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.replaying import detail_of
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.subject import Subject
from jotgate.core.entries.about import thing
from jotgate.core.entries.entry import Entry
from jotgate.core.records.dispatch import Run
from jotgate.services.context import Context
from jotgate.services.dispatch.known import subject_by_now
from jotgate.services.dispatch.not_done import NotDone
from jotgate.services.dispatch.rows import file_row
from jotgate.services.dispatch.setting import hold_people, set_it
from jotgate.services.public.allowances import allow, name_of
from jotgate.store import questionnaires, runs
from jotgate.store.base import Connection
from jotgate.store.entries import entries


async def dispatch_entry(context: Context, questionnaire_id: UUID, entry_id: UUID) -> None:
    """Do what the rules say with an entry. One that has runs already was dispatched before and is
    left alone. An act that cannot be done is noted as a run that failed, and stops no other."""
    async with context.restricted.begin() as conn:
        saved = await questionnaires.dispatching(conn, questionnaire_id)
        if saved is None:
            return
        rules, edition = saved
        entry = await lock_entry(conn, rules, questionnaire_id, entry_id)
        if entry is None:
            return
        if any(not run.status for run in await runs.any_of(conn, questionnaire_id, entry_id)):
            return
        await runs.add_all(conn, await carry_out(context, conn, entry, rules, edition))


async def lock_entry(
    conn: Connection, rules: Dispatch, questionnaire_id: UUID, entry_id: UUID
) -> Entry | None:
    """An entry that rules are to act on, locked; the gate is locked before it where need be."""
    if rules.needs.gate:
        await questionnaires.gate(conn, questionnaire_id, keep=True)
    return await entries.entry(conn, questionnaire_id, entry_id, lock=True)


async def carry_out(
    context: Context, conn: Connection, entry: Entry, rules: Dispatch, edition: int | None
) -> list[Run]:
    """Do what rules say with an entry, which is locked: the runs of that, to be stored."""
    about = await subject_by_now(context, conn, entry, rules, edition)
    effects = planned(rules, about).effects
    await hold_people(conn, effects)
    return [await start(context, conn, about, one) for one in sorted(effects, key=rank)]


def round_after(before: Collection[Run]) -> int:
    """Of runs that are made anew for an entry that has these already."""
    return max((run.round for run in before), default=-1) + 1


def rank(effect: Effect) -> int:
    """Where an effect stands in the order in which they are carried out: rows first, what is set
    after that. Setting something ends on the trail, to which nobody else adds until the transaction
    ends, so that no other lock may be waited for then."""
    return _RANKS.get(type(effect), len(_RANKS))


_RANKS: Mapping[type, int] = {RowPlanned: 0, StatusPlanned: 1}


async def start(context: Context, conn: Connection, subject: Subject, effect: Effect) -> Run:
    """Do an effect, or have it wait where something is to be sent: its run."""
    run = begun(context, subject, effect)
    match effect:
        case NotPlanned():
            done = replace(run, kind=effect.kind, last_error=effect.why)
            return replace(done, state="left_out" if effect.left_out else "failed")
        case NoticePlanned():
            if effect.to_visitor and not await _may_write(context, conn, effect.to):
                return replace(run, kind="notice", state="left_out", last_error=ENOUGH)
            return _waiting(context, run, subject, effect)
        case RowPlanned():
            return await _filed(context, conn, run, subject, effect)
        case CallPlanned():
            waits = replace(run, kind="call", state="waiting", tries=0, detail=detail_of(effect))
            return replace(waits, next_try=run.changed)
        case _:
            return await set_it(context, conn, run, subject, effect)


RECEIPTS = 10
"""Receipts to one address in a day: whoever answers can write down anybody's."""

ENOUGH = f"This address has got {RECEIPTS} receipts today, so nothing was sent."


async def _may_write(context: Context, conn: Connection, address: str) -> bool:
    try:
        await allow(context, conn, {name_of("receipts", address.lower()): RECEIPTS}, ENOUGH)
    except TooManyTries:
        return False
    return True


def begun(context: Context, subject: Subject, effect: Effect) -> Run:
    """The run of an effect, as one that is done at once."""
    return Run(
        id=context.ids.id(),
        questionnaire_id=subject.entry.questionnaire_id,
        entry_id=subject.entry.id,
        rule=effect.at.rule,
        position=effect.at.position,
        part=effect.at.part,
        kind="row",
        state="done",
        detail={},
        tries=1,
        last_error=None,
        next_try=None,
        batch=None,
        changed=context.clock.now(),
    )


def _waiting(context: Context, run: Run, subject: Subject, effect: NoticePlanned) -> Run:
    zone = subject.plan.questionnaire.time_zone
    at = due(run.changed, effect.gathered, effect.quiet, zone)
    detail = detail_of(effect)
    waiting = replace(run, kind="notice", state="waiting", tries=0, detail=detail, next_try=at)
    if effect.gathered == "at_once":
        return waiting
    return replace(waiting, batch=_batch(run, effect, at))


def _batch(run: Run, effect: NoticePlanned, at: datetime) -> UUID:
    """What letters have in common that go out as one: whose they are, and when."""
    named = f"{run.rule} {run.position} {effect.to} {effect.language} {at.isoformat()}"
    return uuid5(run.questionnaire_id, named)


async def _filed(
    context: Context, conn: Connection, run: Run, subject: Subject, effect: RowPlanned
) -> Run:
    try:
        about = thing(subject.plan, subject.values)
        row = await file_row(context, conn, subject, effect, about, run.changed)
    except NotDone as why:
        told = replace(run, last_error=str(why), detail=_register(effect))
        return replace(told, state="left_out" if why.left_out else "failed")
    return replace(run, detail={**_register(effect), "row": row.id, "added": row.added})


def _register(effect: RowPlanned) -> dict[str, str]:
    return {"register_id": str(effect.register_id)}
