"""Dispatch rules."""

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.findings import FindingOut, finding_out
from jotgate.api.routes import routes
from jotgate.api.staff.dispatch.effects import AnyEffect, effect_out
from jotgate.core.common.errors import Fault
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.set_faults import settable
from jotgate.services.staff.dispatch import dispatch_changes, dispatch_rules
from jotgate.services.staff.dispatch.dispatch_changes import OtherwiseDone
from jotgate.services.staff.dispatch.dispatch_rules import Checked, DispatchState
from jotgate.services.staff.dispatch.rehearsing import Rehearsed

router = routes("/api/questionnaires", "dispatch")


class DispatchBody(BaseModel):
    revision: int
    dispatch: Dispatch


class RuleChoice(BaseModel):
    """Something that rules can name, by its id or key."""

    code: str
    name: str


class DispatchOut(DispatchBody):
    """`hints` are what is likely not meant. `counts` tells by rule key, and for `otherwise`, how
    many entries it has acted on; what follows is what rules can name beside the questionnaire:
    `people` who may see the entries, fields of contacts that can be set, and lists of contacts
    among that."""

    faults: list[Fault]
    hints: list[FindingOut]
    counts: dict[str, int]
    teams: list[RuleChoice]
    links: list[RuleChoice]
    statuses: list[RuleChoice]
    people: list[RuleChoice]
    contact_fields: list[RuleChoice]
    lists: list[RuleChoice]


class WrittenRules(BaseModel):
    """Rules that are being written, which may not be rules yet."""

    dispatch: dict[str, Any]


def _dispatch(state: DispatchState) -> DispatchOut:
    around, fields = state.known.around, settable(state.known.contact_fields)
    return DispatchOut(
        revision=state.revision,
        dispatch=state.rules,
        faults=list(state.checked.faults),
        hints=_hints(state.checked),
        counts=dict(state.counts),
        teams=_choices(state.teams),
        links=_choices(around.links),
        statuses=_choices(around.statuses),
        people=_choices(state.known.carers),
        contact_fields=_choices(fields if state.known.reaches else {}),
        lists=_choices(state.known.lists),
    )


def _choices(named: Mapping[UUID, str] | Mapping[str, str]) -> list[RuleChoice]:
    return [RuleChoice(code=str(code), name=name) for code, name in named.items()]


def _hints(checked: Checked) -> list[FindingOut]:
    return [finding_out(one, str) for one in checked.hints]


@router.get("/{id}/dispatch")
async def dispatch(id: UUID, context: CurrentContext, account: CurrentAccount) -> DispatchOut:
    return _dispatch(await dispatch_rules.find(context, account, id))


@router.put("/{id}/dispatch")
async def save_dispatch(
    id: UUID, body: DispatchBody, context: CurrentContext, account: CurrentAccount
) -> DispatchOut:
    saved = await dispatch_rules.save(context, account, id, body.dispatch, body.revision)
    return _dispatch(saved)


class CheckedOut(BaseModel):
    """What keeps rules from being applied, and what in them is likely not meant."""

    faults: list[Fault]
    hints: list[FindingOut]


@router.post("/{id}/dispatch/faults")
async def check_dispatch(
    id: UUID, body: WrittenRules, context: CurrentContext, account: CurrentAccount
) -> CheckedOut:
    """Look at rules that are being written."""
    found = await dispatch_rules.check(context, account, id, body.dispatch)
    return CheckedOut(faults=list(found.faults), hints=_hints(found))


class ChangedEntry(BaseModel):
    """An entry for which something else would be done: the rules that catch it before and
    after, what is done no more and what anew."""

    id: UUID
    number: int
    caught_before: str | None
    caught_after: str | None
    gone: list[AnyEffect]
    new: list[AnyEffect]


class DifferencesIn(BaseModel):
    """Entries with a number under `before` where it is given, the newest otherwise."""

    dispatch: Dispatch
    before: int | None = None


class DifferencesOut(BaseModel):
    """Among so many entries that were looked at; older ones follow before `next`."""

    looked_at: int
    entries: list[ChangedEntry]
    next: int | None


@router.post("/{id}/dispatch/differences")
async def compare_dispatch(
    id: UUID, body: DifferencesIn, context: CurrentContext, account: CurrentAccount
) -> DifferencesOut:
    """What a change of the rules means for past entries. Nothing is done."""
    found = await dispatch_changes.differences(context, account, id, body.dispatch, body.before)
    return DifferencesOut(
        looked_at=found.looked_at, next=found.next, entries=[_changed(one) for one in found.changed]
    )


def _changed(one: OtherwiseDone) -> ChangedEntry:
    told = one.difference
    return ChangedEntry(
        id=one.id,
        number=one.number,
        caught_before=told.caught_before,
        caught_after=told.caught_after,
        gone=[effect_out(Rehearsed(effect)) for effect in told.gone],
        new=[effect_out(Rehearsed(effect)) for effect in told.new],
    )
