"""Rules as they are now, carried out on an entry that was dispatched before."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.conditions.condition import Condition, holds, named
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.effects import RowPlanned
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.replaying import Left, ToDo, kind_of, left
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.subject import Subject
from jotgate.core.entries.facts import CORRECTED
from jotgate.core.records.dispatch import Row, RowChange, Run, RunKind
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.edits import differences
from jotgate.core.registers.values import with_computed
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import (
    begun,
    dispatch_entry,
    lock_entry,
    rank,
    round_after,
    start,
)
from jotgate.services.dispatch.kept import is_kept, keep
from jotgate.services.dispatch.known import subject_by_now
from jotgate.services.dispatch.not_done import NotDone
from jotgate.services.dispatch.rows import ColumnsChanged, alike, meant
from jotgate.services.dispatch.setting import hold_people
from jotgate.services.tables.rows_wrong import RowsWrong
from jotgate.store import questionnaires, runs
from jotgate.store.base import Connection
from jotgate.store.registers import history, registers, row_files, rows


@dataclass(frozen=True)
class Wanted:
    """Which kinds of effects are carried out; `take_out` has rows that no rule would file any more
    taken out of their registers, from where they can be put back. With `corrected` rules that ask
    whether the entry was corrected are carried out whole."""

    kinds: frozenset[RunKind]
    take_out: bool = False
    corrected: bool = False


async def what_is_left(
    conn: Connection, subject: Subject, rules: Dispatch, before: Sequence[Run]
) -> Left:
    """What `rules` would still do for an entry after its runs `before`, and nothing done. Rows that
    would stay as they are, or were taken out by somebody, are not there."""
    arrived = [run for run in before if not run.status]
    whole = left(planned(rules, subject).effects, arrived)
    todo = [one for one in whole.todo if await _changes(conn, subject, one, arrived)]
    there = [at for at in whole.rows if (row := await standing(conn, *at)) and not row.removed]
    return Left(tuple(todo), tuple(there))


async def _changes(conn: Connection, subject: Subject, one: ToDo, before: Sequence[Run]) -> bool:
    """Whether anything would come of it that did not come of it before."""
    effect = one.effect
    if not isinstance(effect, RowPlanned):
        return True
    if one.row is None:
        return await _finds(conn, effect, before)
    row = await standing(conn, effect.register_id, one.row)
    if row is None:
        return False
    if row.removed is not None or not await is_kept(conn, effect, subject, row.id):
        return True
    return any(differences(row.values, await brought(conn, one, row)))


async def _finds(conn: Connection, effect: RowPlanned, before: Sequence[Run]) -> bool:
    """Whether an act that looks for a row adds one, changes one, or fails as it did not before."""
    try:
        found = meant(effect, await alike(conn, effect))
    except NotDone as why:
        return not why.left_out and not any(
            run.state == "failed" and run.last_error == str(why) for run in before
        )
    if not found:
        return True
    return any(any(differences(row.values, effect.brought(row.values))) for row in found)


async def standing(conn: Connection, register_id: UUID, row: int) -> Row | None:
    """A row that is there, or that a replay took out; None where somebody did."""
    found = await rows.row(conn, register_id, row)
    if found is None:
        return None
    by_hand = found[0].removed is not None and await history.was_taken_out_by_hand(conn, row)
    return None if by_hand else found[0]


async def brought(conn: Connection, one: ToDo, row: Row) -> dict[str, Cell]:
    """The cells of a row that is there once a replay brings it up to date: those that people
    changed by hand stay."""
    effect = one.effect
    assert isinstance(effect, RowPlanned)
    by_hand = await history.changed_by_hand(conn, row.id)
    given: Mapping[str, Cell] = {
        key: cell for key, cell in effect.values.items() if key not in by_hand
    }
    return with_computed(effect.register.columns, {**row.values, **given})


async def replay_entry(
    context: Context,
    questionnaire_id: UUID,
    entry_id: UUID,
    wanted: Wanted,
    when: Condition | None = None,
    revision: int | None = None,
) -> Collection[Run]:
    """Do for an entry, of which `when` has to be true, what is left to do by the rules as they are
    now: the runs of that. Raises RulesChanged where they are not those of `revision`."""
    async with context.restricted.begin() as conn:
        saved = await questionnaires.dispatching(conn, questionnaire_id)
        kept = await questionnaires.dispatch(conn, questionnaire_id)
        if saved is None or kept is None:
            return ()
        if revision is not None and kept.revision != revision:
            raise RulesChanged
        rules, edition = saved
        entry = await lock_entry(conn, rules, questionnaire_id, entry_id)
        if entry is None:
            return ()
        subject = await subject_by_now(context, conn, entry, rules, edition)
        if not holds(when, subject.values, subject.today):
            return ()
        before = await runs.any_of(conn, questionnaire_id, entry_id)
        whole = await what_is_left(conn, subject, rules, before)
        asking = rules_asking(rules, subject) if wanted.corrected else frozenset[str]()
        todo = [
            one
            for one in whole.todo
            if kind_of(one.effect) in wanted.kinds or one.effect.at.rule in asking
        ]
        await hold_people(conn, [one.effect for one in todo])
        each = sorted(todo, key=lambda one: rank(one.effect))
        done = [await _do(context, conn, subject, one) for one in each]
        round = round_after(before)
        made = [replace(run, round=round) for run in done if run is not None]
        await runs.add_all(conn, made)
        await _put_by(conn, before, made, context.clock.now())
        if wanted.take_out:
            await _take_out(conn, whole, context.clock.now())
    return made


def rules_asking(rules: Dispatch, subject: Subject) -> frozenset[str]:
    """The rules, by key, that ask whether an entry was corrected."""
    saved = subject.plan.written.saved
    return frozenset(
        rule.key
        for rule in rules.rules
        if rule.when is not None and CORRECTED in named(in_full(rule.when, saved))
    )


CORRECTED_KINDS: frozenset[RunKind] = frozenset({"row", "contact", "value", "list"})
"""What is brought up to date where an entry was corrected."""


async def dispatch_change(context: Context, questionnaire_id: UUID, entry_id: UUID) -> None:
    """Bring the rows of a corrected entry up to date, the fields of its contact, its carried values
    and who is on lists. Letters, calls, statuses and who takes care come of it only by rules that
    ask whether it was corrected. One that led to nothing yet is dispatched as a new one."""
    async with context.engine.connect() as conn:
        before = await runs.any_of(conn, questionnaire_id, entry_id)
    if all(run.status for run in before):
        await dispatch_entry(context, questionnaire_id, entry_id)
        return
    wanted = Wanted(CORRECTED_KINDS, corrected=True)
    await replay_entry(context, questionnaire_id, entry_id, wanted)


RulesChanged = RowsWrong(
    [Fault(code="changed", at="rules", message="The rules were changed. Begin the replay again.")]
)


async def _do(context: Context, conn: Connection, subject: Subject, one: ToDo) -> Run | None:
    if one.row is None or not isinstance(one.effect, RowPlanned):
        return await start(context, conn, subject, one.effect)
    return await _bring(context, conn, subject, one)


async def _bring(context: Context, conn: Connection, subject: Subject, one: ToDo) -> Run | None:
    effect = one.effect
    assert isinstance(effect, RowPlanned)
    if not await registers.is_at(conn, effect.register_id, effect.register.revision):
        raise ColumnsChanged
    assert one.row is not None
    found = await rows.locked(conn, effect.register_id, [one.row])
    put_back = not found
    if put_back:
        found = await rows.locked(conn, effect.register_id, [one.row], removed=True)
    if not found:
        return None
    (row,) = found.values()
    cells = await brought(conn, one, row)
    before, after = differences(row.values, cells)
    run = begun(context, subject, effect)
    by = (None, effect.at.rule, subject.entry.number)
    changes = [RowChange(row.id, run.changed, "restored", *by, {}, {})] if put_back else []
    if before or after:
        changes.append(RowChange(row.id, run.changed, "changed", *by, before, after))
    await rows.put(conn, row.id, cells)
    await row_files.add_files(conn, row.id, effect.files)
    await keep(context, conn, subject, effect, [row.id])
    if put_back:
        await rows.set_removed(conn, [row.id], None)
    await history.note_changes(conn, changes)
    detail = {"register_id": str(effect.register_id), "row": row.id, "added": False}
    return replace(run, detail=detail)


async def _put_by(
    conn: Connection, before: Collection[Run], made: Collection[Run], now: datetime
) -> None:
    """Failed runs whose act was done, or tried again, now: they wait for nobody any more."""
    places = {(run.rule, run.position, run.part, run.kind) for run in made}
    for run in before:
        if run.state == "failed" and (run.rule, run.position, run.part, run.kind) in places:
            why = f"Replayed. Before that: {run.last_error or 'it failed'}"
            await runs.put(conn, replace(run, state="skipped", last_error=why, changed=now))


async def _take_out(conn: Connection, whole: Left, now: datetime) -> None:
    for register_id, row in whole.rows:
        found = await rows.locked(conn, register_id, [row])
        if found:
            await rows.set_removed(conn, found, now)
            change = RowChange(row, now, "removed", None, "", None, {}, {})
            await history.note_changes(conn, [change])
