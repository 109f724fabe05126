"""The dispatch rules of a questionnaire: reading, saving and rehearsing them."""

import asyncio
from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.dispatch import Dispatch, Planned, problems
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.register import Register
from jotgate.core.records.accounts import Account
from jotgate.core.rights import IN_THING, reaches
from jotgate.services.context import Context
from jotgate.services.dispatch import plan_of
from jotgate.services.resealing import newest_plan
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs, roles
from jotgate.services.trail import note
from jotgate.store import editions, entries, questionnaires, registers, runs
from jotgate.store.base import Connection


@dataclass(frozen=True)
class DispatchState:
    """The rules, what is wrong with them, and how many entries each has acted on."""

    revision: int
    rules: Dispatch
    faults: tuple[Fault, ...]
    counts: Mapping[str, int]


async def _dispatch_faults(
    conn: Connection, id: UUID, rules: Dispatch, known: Mapping[UUID, Register]
) -> tuple[Fault, ...]:
    """Rules speak of the newest edition, before that of the draft."""
    number = there(await questionnaires.summary(conn, id)).edition
    if number is not None:
        document = there(await editions.edition(conn, id, number))
    else:
        document = there(await questionnaires.draft(conn, id)).value
    return await asyncio.to_thread(_problems, rules, document, known)


def _problems(rules: Dispatch, document: str, known: Mapping[UUID, Register]) -> tuple[Fault, ...]:
    return problems(rules, Questionnaire.model_validate_json(document), known)


async def _usable(
    conn: Connection, account: Account, before: frozenset[UUID]
) -> dict[UUID, Register]:
    """The registers that `account` may file to in rules, and those filed to `before`; others are
    to it as if they were not there."""
    known = await roles(conn, account, "register")
    return {
        id: one
        for id, one in (await registers.every(conn)).items()
        if id in before or reaches(known.of(id), IN_THING["write"])
    }


async def find(context: Context, account: Account, id: UUID) -> DispatchState:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        saved = there(await questionnaires.dispatch(conn, id))
        known = await registers.every(conn)
        found = await _dispatch_faults(conn, id, saved.value, known)
        return DispatchState(saved.revision, saved.value, found, await runs.counts(conn, id))


async def save(
    context: Context, account: Account, id: UUID, rules: Dispatch, revision: int
) -> DispatchState:
    """Save rules that can be used as they stand. Raises Invalid, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.dispatch(conn, id)).value.filed_to()
        known = await _usable(conn, account, before)
        found = await _dispatch_faults(conn, id, rules, known)
        if found:
            raise Invalid("The rules cannot be used as they stand.", found)
        saved = await save_part(conn, id, "dispatch", rules, revision, questionnaires.dispatch)
        await note(context, conn, account.id, "dispatch_changed", id)
        return DispatchState(saved.revision, rules, (), await runs.counts(conn, id))


async def rehearse(
    context: Context,
    account: Account,
    questionnaire_id: UUID,
    rules: Dispatch,
    number: int | None,
) -> tuple[Entry, Planned]:
    """What `rules` would do with a past entry, the newest up to `number`; nothing is sent."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", questionnaire_id)
        before = None if number is None else number + 1
        found = await entries.newest(conn, questionnaire_id, before, 1)
        if not found:
            raise NotFound("There is no entry to rehearse with.")
        plan = await context.plan(conn, questionnaire_id, found[0].edition)
        newest = await newest_plan(context, conn, questionnaire_id)
        known = await registers.every(conn)
    faults = problems(rules, plan.questionnaire, known)
    if faults:
        raise Invalid("The rules cannot be used as they stand.", faults)
    entry, _ = opened(found[0], plan, newest)
    return entry, plan_of(rules, plan, entry, known)
