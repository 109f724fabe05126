"""Dispatch rules and their rehearsal."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Fault
from jotgate.core.dispatch.effects import (
    CallPlanned,
    NoticePlanned,
    NotPlanned,
    Outcome,
    RowPlanned,
    StatusPlanned,
)
from jotgate.core.dispatch.rules import Dispatch, Gathered
from jotgate.core.records.dispatch import RunKind
from jotgate.core.registers.cells import Cell
from jotgate.services.staff import dispatch_changes, dispatch_rules, rehearsing
from jotgate.services.staff.dispatch_changes import OtherwiseDone
from jotgate.services.staff.dispatch_rules import DispatchState
from jotgate.services.staff.rehearsing import Rehearsed

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
    many entries it has acted on; `teams`, `links` and `statuses` are what rules can name beside the
    questionnaire."""

    faults: list[Fault]
    hints: list[Fault]
    counts: dict[str, int]
    teams: list[RuleChoice]
    links: list[RuleChoice]
    statuses: list[RuleChoice]


class WrittenRules(BaseModel):
    """Rules that are being written, which may not be rules yet."""

    dispatch: dict[str, Any]


class Rehearse(BaseModel):
    """`number` picks a past entry, the newest up to it; without it the newest of all."""

    dispatch: Dispatch
    number: int | None = None


class EffectOut(BaseModel):
    """What an act would come to, of which rule; `why_not` where it would not be done."""

    rule: str
    position: int
    part: int
    why_not: str = ""


class RowMovedOut(BaseModel):
    """A row that changes; without an id it is one that an act before would have added."""

    id: int | None
    before: dict[str, Cell]
    after: dict[str, Cell]


class RowPlannedOut(EffectOut):
    """A new row, or the `rows` that are brought up to date."""

    kind: Literal["row"] = "row"
    register_id: UUID
    values: dict[str, Cell]
    rows: list[RowMovedOut]


class NoticePlannedOut(EffectOut):
    kind: Literal["notice"] = "notice"
    to: str
    subject: str
    plain: str
    html: str
    language: str
    gathered: Gathered


class CallPlannedOut(EffectOut):
    """A call with this body, in JSON."""

    kind: Literal["call"] = "call"
    hook_id: UUID
    body: dict[str, Any]


class StatusPlannedOut(EffectOut):
    kind: Literal["status"] = "status"
    status: str


class NotDoneOut(EffectOut):
    """An act that cannot be done with this entry."""

    kind: Literal["not_done"] = "not_done"
    of: RunKind
    left_out: bool


AnyEffect = Annotated[
    RowPlannedOut | NoticePlannedOut | CallPlannedOut | StatusPlannedOut | NotDoneOut,
    Field(discriminator="kind"),
]


class Rehearsal(BaseModel):
    """`outcomes` says of each rule by key, and of `otherwise`, what came of it; `earlier` and
    `later` are the numbers of the entries beside it."""

    number: int
    earlier: int | None
    later: int | None
    caught_by: str | None
    outcomes: dict[str, Outcome]
    effects: list[AnyEffect]


def _dispatch(state: DispatchState) -> DispatchOut:
    around = state.known.around
    return DispatchOut(
        revision=state.revision,
        dispatch=state.rules,
        faults=list(state.checked.faults),
        hints=list(state.checked.hints),
        counts=dict(state.counts),
        teams=[RuleChoice(code=str(id), name=name) for id, name in state.teams.items()],
        links=[RuleChoice(code=code, name=name) for code, name in around.links.items()],
        statuses=[RuleChoice(code=code, name=name) for code, name in around.statuses.items()],
    )


def effect_out(shown: Rehearsed) -> AnyEffect:
    effect = shown.effect
    at = {**vars(effect.at), "why_not": shown.why_not}
    match effect:
        case RowPlanned():
            rows = [
                RowMovedOut(**{**vars(row), "id": row.id if row.id > 0 else None})
                for row in shown.rows
            ]
            values = dict(effect.values)
            return RowPlannedOut(**at, register_id=effect.register_id, values=values, rows=rows)
        case NoticePlanned():
            return NoticePlannedOut(
                **at,
                to=effect.to,
                subject=effect.subject,
                plain=effect.plain,
                html=effect.html,
                language=effect.language,
                gathered=effect.gathered,
            )
        case CallPlanned():
            return CallPlannedOut(**at, hook_id=effect.hook_id, body=dict(effect.body))
        case StatusPlanned():
            return StatusPlannedOut(**at, status=effect.status)
        case NotPlanned():
            left_out = effect.left_out
            return NotDoneOut(**(at | {"why_not": effect.why}), of=effect.kind, left_out=left_out)


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
    hints: list[Fault]


@router.post("/{id}/dispatch/faults")
async def check_dispatch(
    id: UUID, body: WrittenRules, context: CurrentContext, account: CurrentAccount
) -> CheckedOut:
    """Look at rules that are being written."""
    found = await dispatch_rules.check(context, account, id, body.dispatch)
    return CheckedOut(faults=list(found.faults), hints=list(found.hints))


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


@router.post("/{id}/rehearsals")
async def rehearse(
    id: UUID, body: Rehearse, context: CurrentContext, account: CurrentAccount
) -> Rehearsal:
    found = await rehearsing.rehearse(context, account, id, body.dispatch, body.number)
    return Rehearsal(
        number=found.entry.number,
        earlier=found.beside[0],
        later=found.beside[1],
        caught_by=found.planned.caught_by,
        outcomes=dict(found.planned.outcomes),
        effects=[effect_out(effect) for effect in found.effects],
    )
