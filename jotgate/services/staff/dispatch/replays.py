"""Replay: the rules in force carried out on past entries, seen first, with nothing done twice."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.conditions.condition import Condition, holds
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.effects import RowPlanned
from jotgate.core.dispatch.faults import when_faults
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.replaying import ToDo
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.dispatch.subject import Subject
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.entry import Entry
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import RunKind
from jotgate.core.records.work import Work
from jotgate.core.registers.edits import differences
from jotgate.core.rights import IN_THING, reaches
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to, subject
from jotgate.services.dispatch.replay_work import Which
from jotgate.services.dispatch.replaying import brought, standing, what_is_left
from jotgate.services.keys.resealing import newest_plan
from jotgate.services.staff.dispatch.rehearsing import Rehearsed, RowMoved
from jotgate.services.staff.entries.choosing import Choice, chosen_before
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs, roles
from jotgate.store import questionnaires, runs, work
from jotgate.store.base import Connection
from jotgate.store.entries import entries

AT_ONCE = 100
"""Entries that are looked at for one answer."""

MOST_CHOSEN = 100_000
"""Entries that a replay names one by one."""


@dataclass(frozen=True)
class EntryLeft:
    """What a replay would do with an entry: in order, and the rows (register, row) that no rule
    would file any more."""

    id: UUID
    number: int
    todo: tuple[Rehearsed, ...]
    rows: tuple[tuple[UUID, int], ...]


@dataclass(frozen=True)
class Looked:
    """What was found among so many entries; `next` is the number to go on before, if there are
    older ones."""

    looked_at: int
    found: tuple[EntryLeft, ...]
    next: int | None


@dataclass(frozen=True)
class Extent:
    """Which entries a replay is for: those of a `choice`, or every one where it is None, of which a
    condition is true."""

    choice: Choice | None = None
    when: Condition | None = None


async def look(
    context: Context, account: Account, id: UUID, extent: Extent, before: int | None
) -> Looked:
    """What a replay would do, from the newest entry back or from those with a number under
    `before`. Nothing is done. Raises Invalid, NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        rules = there(await questionnaires.dispatch(conn, id)).value
        newest = await _published(context, conn, id)
        known = await known_to(conn, id, context.clock.now())
        when = _meant(extent.when, newest, known)
        hidden = await _hidden(conn, account, known)
        page = await _page(context, conn, account, id, extent.choice, before)
        found = []
        for entry in page[:AT_ONCE]:
            plan = await context.plan(conn, id, entry.edition)
            about = await subject(context, conn, opened(entry, plan, newest)[0], known)
            if holds(when, about.values, about.today):
                found.append(await _left(conn, about, rules, hidden))
    more = len(page) > AT_ONCE
    return Looked(
        min(len(page), AT_ONCE),
        tuple(one for one in found if one.todo or one.rows),
        page[AT_ONCE - 1].number if more else None,
    )


async def _page(
    context: Context,
    conn: Connection,
    account: Account,
    id: UUID,
    choice: Choice | None,
    before: int | None,
) -> list[Entry]:
    """Entries of one answer, the newest first, and one more where there are more."""
    if choice is None:
        return await entries.newest(conn, id, before, AT_ONCE + 1)
    numbers = await chosen_before(context, conn, account, id, choice, before, AT_ONCE + 1)
    return await entries.numbered(conn, id, numbers)


async def of_entry(
    context: Context, conn: Connection, account: Account, where: tuple[UUID, UUID]
) -> tuple[Subject, Dispatch, EntryLeft]:
    """The entry `where` (questionnaire, entry) as rules know it, the rules in force, and what they
    would still do for it. Raises NotFound."""
    id, entry_id = where
    rules = there(await questionnaires.dispatch(conn, id)).value
    newest = await _published(context, conn, id)
    known = await known_to(conn, id, context.clock.now())
    entry = await entries.entry(conn, id, entry_id)
    if entry is None:
        raise NotFound("There is no such entry.")
    plan = await context.plan(conn, id, entry.edition)
    about = await subject(context, conn, opened(entry, plan, newest)[0], known)
    hidden = await _hidden(conn, account, known)
    return about, rules, await _left(conn, about, rules, hidden)


async def _hidden(conn: Connection, account: Account, known: Known) -> frozenset[UUID]:
    """The registers that somebody may not read."""
    own = await roles(conn, account, "register")
    return frozenset(one for one in known.registers if not reaches(own.of(one), IN_THING["read"]))


async def _published(context: Context, conn: Connection, id: UUID) -> Plan:
    newest = await newest_plan(context, conn, id)
    if newest is None:
        raise NotFound("There is no published edition.")
    return newest


def _meant(when: Condition | None, plan: Plan, known: Known) -> Condition | None:
    """A condition on entries with saved ones said in full. Raises Invalid."""
    if when is None:
        return None
    scope = scope_of(plan.written, known)
    whole = in_full(when, plan.written.saved)
    faults: list[Fault] = list(when_faults(whole, scope, "when", "The replay asks for"))
    if faults:
        raise Invalid(faults[0].message, faults)
    return whole


async def _left(
    conn: Connection, about: Subject, rules: Dispatch, hidden: frozenset[UUID]
) -> EntryLeft:
    entry = about.entry
    before = await runs.any_of(conn, entry.questionnaire_id, entry.id)
    whole = await what_is_left(conn, about, rules, before)
    shown = [await _shown(conn, one, hidden) for one in whole.todo]
    rows = tuple(at for at in whole.rows if at[0] not in hidden)
    return EntryLeft(entry.id, entry.number, tuple(shown), rows)


async def _shown(conn: Connection, one: ToDo, hidden: frozenset[UUID]) -> Rehearsed:
    """An effect with, of a row that is there, the cells that would change."""
    effect = one.effect
    if not isinstance(effect, RowPlanned) or one.row is None or effect.register_id in hidden:
        return Rehearsed(effect)
    row = await standing(conn, effect.register_id, one.row)
    if row is None:
        return Rehearsed(effect)
    moved = differences(row.values, await brought(conn, one, row))
    return Rehearsed(effect, (RowMoved(row.id, *moved),))


async def ask(
    context: Context,
    account: Account,
    id: UUID,
    extent: Extent,
    kinds: Sequence[RunKind],
    take_out: bool,
    revision: int,
) -> Work:
    """Have the rules at `revision`, which are those in force, replayed by the worker. Raises
    NotAllowed, Invalid."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        kept = there(await questionnaires.dispatch(conn, id))
        if kept.revision != revision:
            raise Invalid("The rules were changed meanwhile. Look at what would be done again.")
        newest = await _published(context, conn, id)
        when = _meant(extent.when, newest, await known_to(conn, id, context.clock.now()))
        numbers = await _numbers(context, conn, account, id, extent.choice)
        said = {
            "which": Which(numbers, when).as_json(),
            "kinds": sorted(kinds),
            "take_out": take_out,
            "revision": revision,
        }
        total = len(numbers) or await entries.count(conn, id)
        now = context.clock.now()
        one = Work(context.ids.id(), account.id, id, "replay", "waiting", 0, total, said, {}, now)
        await work.ask(conn, one, context.queue)
    return one


async def _numbers(
    context: Context, conn: Connection, account: Account, id: UUID, choice: Choice | None
) -> frozenset[int]:
    """The numbers of those that are chosen, as they are now; none for every entry. Raises Invalid
    where no entry is chosen, or too many are."""
    if choice is None:
        return frozenset()
    found = await chosen_before(context, conn, account, id, choice, None, MOST_CHOSEN + 1)
    if not found:
        raise Invalid("No entry is chosen.")
    if len(found) > MOST_CHOSEN:
        raise Invalid(f"Choose at most {MOST_CHOSEN:,} entries, or replay all of them.")
    return frozenset(found)


async def progress(context: Context, account: Account, id: UUID, work_id: UUID) -> Work:
    """Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await _own(conn, id, work_id)


async def _own(conn: Connection, id: UUID, work_id: UUID) -> Work:
    found = await work.find(conn, work_id)
    if found is None or found.questionnaire_id != id or found.kind != "replay":
        raise NotFound("There is no such replay.")
    return found


async def stop(context: Context, account: Account, id: UUID, work_id: UUID) -> None:
    """Have a replay end after the entry that it is at."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        await _own(conn, id, work_id)
        await work.ask_to_stop(conn, work_id)
