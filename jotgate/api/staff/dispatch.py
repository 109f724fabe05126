"""Dispatch rules and their rehearsal."""

from typing import Literal
from uuid import UUID

from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Fault
from jotgate.core.entries.dispatch import Dispatch, Effect, NoticePlanned
from jotgate.services.staff import dispatch_rules
from jotgate.services.staff.dispatch_rules import DispatchState

router = routes("/api/questionnaires", "dispatch")


class DispatchBody(BaseModel):
    revision: int
    dispatch: Dispatch


class DispatchOut(DispatchBody):
    """`counts` tells by rule key, and for `otherwise`, how many entries it has acted on."""

    faults: list[Fault]
    counts: dict[str, int]


class Rehearse(BaseModel):
    """`number` picks a past entry, the newest up to it; without it the newest of all."""

    dispatch: Dispatch
    number: int | None = None


class RowOut(BaseModel):
    kind: Literal["row"]
    rule: str
    register_id: UUID
    values: dict[str, str | bool]


class NoticeOut(BaseModel):
    kind: Literal["notice"]
    rule: str
    to: str
    subject: str
    body: str


class Rehearsal(BaseModel):
    number: int
    caught_by: str | None
    effects: list[RowOut | NoticeOut]


def _dispatch(state: DispatchState) -> DispatchOut:
    return DispatchOut(
        revision=state.revision,
        dispatch=state.rules,
        faults=list(state.faults),
        counts=dict(state.counts),
    )


def _effect(effect: Effect) -> RowOut | NoticeOut:
    if isinstance(effect, NoticePlanned):
        return NoticeOut(
            kind="notice", rule=effect.rule, to=effect.to, subject=effect.subject, body=effect.body
        )
    return RowOut(
        kind="row", rule=effect.rule, register_id=effect.register_id, values=dict(effect.values)
    )


@router.get("/{id}/dispatch")
async def dispatch(id: UUID, context: CurrentContext, account: CurrentAccount) -> DispatchOut:
    return _dispatch(await dispatch_rules.find(context, account, id))


@router.put("/{id}/dispatch")
async def save_dispatch(
    id: UUID, body: DispatchBody, context: CurrentContext, account: CurrentAccount
) -> DispatchOut:
    saved = await dispatch_rules.save(context, account, id, body.dispatch, body.revision)
    return _dispatch(saved)


@router.post("/{id}/rehearsals")
async def rehearse(
    id: UUID, body: Rehearse, context: CurrentContext, account: CurrentAccount
) -> Rehearsal:
    entry, planned = await dispatch_rules.rehearse(context, account, id, body.dispatch, body.number)
    return Rehearsal(
        number=entry.number,
        caught_by=planned.caught_by,
        effects=[_effect(effect) for effect in planned.effects],
    )
