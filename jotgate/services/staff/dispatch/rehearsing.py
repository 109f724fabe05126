"""Rehearsal: what rules would do with a past entry or answers typed on the spot, and nothing
done."""

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any
from uuid import UUID

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Invalid, InvalidAnswers, NotFound
from jotgate.core.common.today import today_in
from jotgate.core.dispatch.effects import Effect, ListPlanned, Planned, RowPlanned
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.subject import Subject, subject_of_walk
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.entry import Entry
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.edits import differences
from jotgate.core.rights import IN_THING, reaches
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to, subject
from jotgate.services.dispatch.not_done import NotDone
from jotgate.services.dispatch.rows import alike, meant
from jotgate.services.dispatch.setting import asks_first, why_not_on_list
from jotgate.services.keys.resealing import newest_plan
from jotgate.services.public.answering import faults_of
from jotgate.services.public.entering import with_filled
from jotgate.services.staff.dispatch.dispatch_rules import refuse_unusable
from jotgate.services.staff.rights import needs, roles
from jotgate.services.staff.trial import filled_as_if, read_files
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import entries


@dataclass(frozen=True)
class RowMoved:
    """A row that is there, or would be by an act before (with an id under zero): the cells that
    change, as they are and as they become."""

    id: int
    before: Mapping[str, Cell]
    after: Mapping[str, Cell]


@dataclass(frozen=True)
class Rehearsed:
    """What would come of an effect: of a row that is brought up to date what changes, and why it
    would not be done."""

    effect: Effect
    rows: tuple[RowMoved, ...] = ()
    why_not: str = ""


@dataclass(frozen=True)
class Rehearsal:
    """`number` is the entry's, none for answers that nobody sent; `beside` are those of the entries
    before and after it."""

    number: int | None
    beside: tuple[int | None, int | None]
    planned: Planned
    effects: tuple[Rehearsed, ...]


@dataclass(frozen=True)
class Typed:
    """Answers as they are sent, what the visitor arrives with as a query string, and facts of the
    entry by name, such as `entry.language`."""

    answers: Mapping[str, Any]
    link: str
    facts: Mapping[str, Any]


async def rehearse(
    context: Context,
    account: Account,
    questionnaire_id: UUID,
    rules: Dispatch,
    number: int | None,
) -> Rehearsal:
    """What `rules` would do with a past entry, the newest up to `number`; nothing is done.

    Rows of a register that `account` may not read are not shown. Raises NotFound, Invalid.
    """
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", questionnaire_id)
        before = None if number is None else number + 1
        found = await entries.newest(conn, questionnaire_id, before, 1)
        if not found:
            raise NotFound("There is no entry to rehearse with.")
        plan = await context.plan(conn, questionnaire_id, found[0].edition)
        newest = await newest_plan(context, conn, questionnaire_id)
        known = await known_to(conn, questionnaire_id, context.clock.now())
        await refuse_unusable(rules, plan, known)
        entry, _ = opened(found[0], plan, newest)
        about = await subject(context, conn, entry, known)
        result, shown = await _played(conn, account, rules, about)
        beside = await entries.beside(conn, questionnaire_id, entry.number)
    return Rehearsal(entry.number, beside, result, shown)


async def rehearse_typed(
    context: Context, account: Account, questionnaire_id: UUID, rules: Dispatch, typed: Typed
) -> Rehearsal:
    """What `rules` would do with answers that nobody sent, as an entry of the newest edition that
    came now. Raises NotFound, Invalid, and InvalidAnswers where they come to no finish."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", questionnaire_id)
        summary = await questionnaires.summary(conn, questionnaire_id)
        if summary is None or summary.edition is None:
            raise NotFound("There is nothing to rehearse with before it is published.")
        plan = await context.plan(conn, questionnaire_id, summary.edition)
        known = await known_to(conn, questionnaire_id, context.clock.now())
        await refuse_unusable(rules, plan, known)
        newest = await entries.newest(conn, questionnaire_id, None, 1)
        entry = Entry(
            id=questionnaire_id,
            questionnaire_id=questionnaire_id,
            edition=summary.edition,
            number=newest[0].number + 1 if newest else 1,
            arrived=context.clock.now(),
            finish="",
            answers={},
            flags=(),
            language=str(typed.facts.get("entry.language", plan.questionnaire.first_language)),
        )
        about = await asyncio.to_thread(_typed_subject, plan, entry, typed, known)
        result, shown = await _played(conn, account, rules, about)
    return Rehearsal(None, (None, None), result, shown)


def _typed_subject(plan: Plan, entry: Entry, typed: Typed, known: Known) -> Subject:
    unknown = sorted(key for key in typed.answers if key not in plan.items)
    if unknown:
        told = f"The published edition does not ask {', '.join(unknown)}. Publish the draft first."
        raise Invalid(told)
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    filled = filled_as_if(plan, typed.link, today, entry.edition)
    answers = with_filled(filled, read_files(plan, typed.answers))
    whole = walk(plan, answers, filled.carried, today)
    if whole.stuck is not None:
        language = plan.questionnaire.first_language
        faults = faults_of(plan, whole.stuck.failed, language, whole.kept)
        raise InvalidAnswers("These answers come to no finish.", faults, whole.stuck.page.key)
    try:
        return subject_of_walk(plan, whole, entry, typed.facts, known)
    except CheckFailed:
        raise Invalid("One of the facts of the entry cannot be so.") from None


async def _played(
    conn: Connection, account: Account, rules: Dispatch, about: Subject
) -> tuple[Planned, tuple[Rehearsed, ...]]:
    """What `rules` would do, and what would come of it."""
    result = planned(rules, about)
    own = await roles(conn, account, "register")
    readable = frozenset(
        id for id in about.known.registers if reaches(own.of(id), IN_THING["read"])
    )
    so_far = _SoFar()
    shown = [await _rehearsed(conn, about.entry, one, readable, so_far) for one in result.effects]
    return result, tuple(shown)


@dataclass
class _SoFar:
    """What the effects before would have made of the rows of registers: a later one finds that.
    Rows that would be new have ids under zero."""

    rows: dict[UUID, dict[int, Row]] = field(default_factory=dict)

    def alike(self, effect: RowPlanned, found: Sequence[Row]) -> list[Row]:
        """The rows that are alike by then, the oldest first."""
        known = self.rows.get(effect.register_id, {})
        cells = (effect.alike or {}).items()
        others = [one for one in found if one.id not in known]
        here = [one for one in known.values() if all(one.values.get(k) == v for k, v in cells)]
        return sorted((*others, *here), key=lambda one: (one.id < 0, abs(one.id)))

    def put(self, effect: RowPlanned, changed: Sequence[Row], entry: Entry) -> None:
        known = self.rows.setdefault(effect.register_id, {})
        new = Row(-len(known) - 1, {}, entry.number, entry.arrived)
        for row in changed or (new,):
            known[row.id] = replace(row, values=effect.brought(row.values))


async def _rehearsed(
    conn: Connection, entry: Entry, effect: Effect, readable: frozenset[UUID], so_far: _SoFar
) -> Rehearsed:
    if isinstance(effect, ListPlanned):
        why_not, asks = await why_not_on_list(conn, effect), await asks_first(conn, effect)
        return Rehearsed(replace(effect, confirm=asks), why_not=why_not)
    if not isinstance(effect, RowPlanned) or effect.register_id not in readable:
        return Rehearsed(effect)
    found = so_far.alike(effect, await alike(conn, effect)) if effect.matching else []
    try:
        rows = meant(effect, found)
    except NotDone as why:
        return Rehearsed(effect, why_not=str(why))
    so_far.put(effect, rows, entry)
    moved = [(row.id, *differences(row.values, effect.brought(row.values))) for row in rows]
    return Rehearsed(effect, tuple(RowMoved(*one) for one in moved))
