"""What the worker does when an entry has arrived."""

from collections.abc import Mapping
from dataclasses import replace
from uuid import UUID

from jotgate.core.common.today import today_in
from jotgate.core.common.values import Values
from jotgate.core.entries.about import Thing, thing
from jotgate.core.entries.dispatch import (
    Dispatch,
    Effect,
    NoticePlanned,
    Planned,
    RowPlanned,
    planned,
)
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.register import Register
from jotgate.core.entries.stored import values_of
from jotgate.core.records.dispatch import Run
from jotgate.core.walking.plan import Plan
from jotgate.ports.mail import Letter, MailFailed
from jotgate.services.context import Context
from jotgate.services.letters import from_office
from jotgate.services.resealing import newest_plan, sealed_by_now
from jotgate.store import entries, questionnaires, registers, runs
from jotgate.store.base import Connection


async def dispatch_entry(context: Context, questionnaire_id: UUID, entry_id: UUID) -> None:
    """Do what the rules say with an entry: file rows, and defer what leaves the context.

    One transaction; an entry that has runs already was dispatched before and is left alone.
    """
    async with context.restricted.begin() as conn:
        entry = await entries.entry(conn, questionnaire_id, entry_id, lock=True)
        if entry is None or await runs.any_of(conn, questionnaire_id, entry_id):
            return
        newest = await newest_plan(context, conn, questionnaire_id)
        entry = await sealed_by_now(context, conn, entry, newest)
        saved = await questionnaires.dispatch(conn, questionnaire_id)
        if saved is None:
            return
        known = await registers.every(conn)
        plan = await context.plan(conn, questionnaire_id, entry.edition)
        about = thing(plan, open_values(plan, entry))
        for effect in plan_of(saved.value, plan, entry, known).effects:
            await _start(context, conn, entry, effect, about)


def open_values(plan: Plan, entry: Entry) -> Values:
    """The open answers of `entry` as core values."""
    return values_of(plan.items, entry.answers)


def plan_of(rules: Dispatch, plan: Plan, entry: Entry, known: Mapping[UUID, Register]) -> Planned:
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    return planned(rules, plan, open_values(plan, entry), entry.number, known, today)


async def _start(
    context: Context, conn: Connection, entry: Entry, effect: Effect, about: Thing | None
) -> None:
    now = context.clock.now()
    run = Run(
        id=context.ids.id(),
        questionnaire_id=entry.questionnaire_id,
        entry_id=entry.id,
        rule=effect.rule,
        position=effect.position,
        kind="row",
        state="done",
        detail={},
        tries=1,
        last_error=None,
        changed=now,
    )
    match effect:
        case RowPlanned():
            source = (entry.questionnaire_id, entry.id, entry.number)
            row = await registers.file(conn, effect.register_id, effect.values, source, about, now)
            detail = {"register_id": str(effect.register_id), "row": row}
            await runs.add(conn, replace(run, detail=detail))
        case NoticePlanned():
            detail = {"to": effect.to, "subject": effect.subject, "body": effect.body}
            waiting = replace(run, kind="notice", state="waiting", detail=detail, tries=0)
            await runs.add(conn, waiting)
            await runs.ask_to_send(conn, run.id, context.queue)


async def send_notice(context: Context, run_id: UUID) -> None:
    """Send a notice that is waiting. Raises MailFailed, to be tried again later.

    Its run is locked meanwhile. When the worker ends between the mail server's yes and the
    commit, the same letter goes out again under the same Message-ID.
    """
    failure: MailFailed | None = None
    async with context.engine.begin() as conn:
        run = await runs.take(conn, run_id)
        if run is None or run.state == "done":
            return
        letter = Letter(str(run.id), run.detail["to"], run.detail["subject"], run.detail["body"])
        try:
            await context.mail.send(await from_office(context, letter))
        except MailFailed as error:
            failure = error
            await runs.mark(conn, run_id, "failing", str(error)[:500], context.clock.now())
        else:
            await runs.mark(conn, run_id, "done", None, context.clock.now())
    if failure is not None:
        raise failure
