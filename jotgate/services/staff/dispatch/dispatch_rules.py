"""The dispatch rules of a questionnaire: reading, checking and saving them."""

import asyncio
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.dispatch.acts import AddToList, CarePerson, CareTeam, Notice, SetCare, ToTeam
from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.reading import read_rules
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof.findings import Finding
from jotgate.core.proof.routing.hints import Answering, hints
from jotgate.core.records.accounts import Account
from jotgate.core.rights import IN_THING, reaches
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs, role_in, roles
from jotgate.services.trail import note
from jotgate.store import editions, questionnaires, runs
from jotgate.store.accounts import parts
from jotgate.store.base import Connection


@dataclass(frozen=True)
class Checked:
    """What keeps rules from being used as they stand, and what in them is likely not meant."""

    faults: tuple[Fault, ...]
    hints: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class DispatchState:
    """The rules, what is wrong with them, how many entries each has acted on, and by id the teams
    that they can write to: those that they do, for people who only read."""

    revision: int
    rules: Dispatch
    checked: Checked
    counts: Mapping[str, int]
    known: Known
    teams: Mapping[UUID, str]


async def _checked(conn: Connection, id: UUID, rules: Dispatch, known: Known) -> Checked:
    """Rules speak of the newest edition, before that of the draft."""
    number = there(await questionnaires.summary(conn, id)).edition
    if number is not None:
        document = there(await editions.edition(conn, id, number))
    else:
        document = there(await questionnaires.draft(conn, id)).value
    signs_in = bool((await questionnaires.sign_in(conn, id)).providers)
    answering = Answering(signs_in, number)
    return await asyncio.to_thread(_looked_at, rules, document, known, answering)


def _looked_at(rules: Dispatch, document: str, known: Known, answering: Answering) -> Checked:
    scope = scope_of(Questionnaire.model_validate_json(document), known)
    return Checked(problems(rules, scope), hints(rules, scope, answering))


def _refuse(faults: tuple[Fault, ...]) -> None:
    if faults:
        raise Invalid("The rules cannot be used as they stand.", faults)


async def refuse_unusable(rules: Dispatch, plan: Plan, known: Known) -> None:
    """Raise Invalid for rules that cannot be used with an edition."""
    _refuse(await asyncio.to_thread(_faults_with, rules, plan, known))


def _faults_with(rules: Dispatch, plan: Plan, known: Known) -> tuple[Fault, ...]:
    return problems(rules, scope_of(plan.written, known))


async def _usable(conn: Connection, account: Account, known: Known, before: Dispatch) -> Known:
    """What `account` may name in rules: the registers that they may file to, contacts and lists
    where they reach those, and what the rules `before` named; everything else is to them as if it
    were not there."""
    filed, own = before.filed_to(), await roles(conn, account, "register")
    usable = {
        id: one
        for id, one in known.registers.items()
        if id in filed or reaches(own.of(id), IN_THING["write"])
    }
    return _reached(account, replace(known, registers=usable), before)


def _reached(account: Account, known: Known, rules: Dispatch) -> Known:
    """Of contacts and lists what `account` reaches, or `rules` name already."""
    if account.may("reach"):
        return known
    named = {act.list_id for act in rules.acts() if isinstance(act, AddToList)}
    lists = {id: name for id, name in known.lists.items() if id in named}
    return replace(known, lists=lists, reaches=rules.needs.fields)


async def find(context: Context, account: Account, id: UUID) -> DispatchState:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        saved = there(await questionnaires.dispatch(conn, id))
        known = await known_to(conn, id, context.clock.now())
        found = await _checked(conn, id, saved.value, known)
        return await _state(conn, account, id, saved.revision, saved.value, found, known)


async def _state(
    conn: Connection,
    account: Account,
    id: UUID,
    revision: int,
    rules: Dispatch,
    checked: Checked,
    known: Known,
) -> DispatchState:
    writes = reaches(await role_in(conn, account, "questionnaire", id), IN_THING["write"])
    letters = (act.to for act in rules.acts() if isinstance(act, Notice))
    named = {to.team_id for to in letters if isinstance(to, ToTeam)}
    named |= {one.team_id for one in _carers(rules) if isinstance(one, CareTeam)}
    every = await parts.every_team(conn)
    teams = {team.id: team.name for team in every if writes or team.id in named}
    counts = await runs.counts(conn, id)
    known = _reached(account, known, rules)
    return DispatchState(revision, rules, checked, counts, known, teams)


def _carers(rules: Dispatch) -> Iterator[CarePerson | CareTeam]:
    return (act.who for act in rules.acts() if isinstance(act, SetCare))


async def save(
    context: Context, account: Account, id: UUID, rules: Dispatch, revision: int
) -> DispatchState:
    """Save rules that can be used as they stand. Raises Invalid, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.dispatch(conn, id)).value
        known = await _usable(conn, account, await known_to(conn, id, context.clock.now()), before)
        found = await _checked(conn, id, rules, known)
        _refuse(found.faults)
        saved = await save_part(conn, id, "dispatch", rules, revision, questionnaires.dispatch)
        await note(context, conn, account.id, "dispatch_changed", id)
        return await _state(conn, account, id, saved.revision, rules, found, known)


async def check(context: Context, account: Account, id: UUID, written: Any) -> Checked:
    """What is wrong with rules as they are being written, in JSON."""
    rules, unread = read_rules(written)
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.dispatch(conn, id)).value
        known = await known_to(conn, id, context.clock.now())
        usable = await _usable(conn, account, known, before)
        return Checked(unread) if unread else await _checked(conn, id, rules, usable)
