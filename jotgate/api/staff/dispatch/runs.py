"""What dispatch has not done yet: listed, done again, skipped, and all sending paused.
No token opens these."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.changed import ChangedOut, changed_out
from jotgate.core.common.errors import Invalid
from jotgate.core.records.dispatch import Run, RunKind, RunState
from jotgate.services.staff.dispatch import runs

router = routes("/api/questionnaires", "handling")


class AnsweredOut(BaseModel):
    """What the other system answered to a call: the status of HTTP, and its first words."""

    status: int
    words: str


class RunOut(BaseModel):
    """What dispatch did with an entry: a row in a register, a letter, a status. `last_error` says
    why it was not done, `next_try` when it is tried again; `asks` is that a letter asks somebody
    first whether they want to be on a list."""

    id: UUID
    rule: str
    position: int
    kind: RunKind
    state: RunState
    to: str | None
    subject: str | None
    register_id: UUID | None
    row: int | None
    status: str | None
    hook_id: UUID | None
    said: str
    asks: bool
    answered: AnsweredOut | None
    tries: int
    last_error: str | None
    next_try: datetime | None
    changed: datetime


class OpenRunOut(RunOut):
    entry_id: UUID
    entry_number: int


class RunPage(BaseModel):
    """`counts` are those in each state, `paused` since when nothing is sent."""

    runs: list[OpenRunOut]
    more: bool
    counts: dict[RunState, int]
    paused: datetime | None


def run_out(run: Run) -> RunOut:
    detail = run.detail
    return RunOut(
        id=run.id,
        rule=run.rule,
        position=run.position,
        kind=run.kind,
        state=run.state,
        to=detail.get("to"),
        subject=detail.get("subject"),
        register_id=detail.get("register_id"),
        row=detail.get("row"),
        status=detail.get("status"),
        hook_id=detail.get("hook_id"),
        said=str(detail.get("field") or detail.get("key") or detail.get("email") or ""),
        asks=bool(detail.get("confirm")),
        answered=detail.get("answered"),
        tries=run.tries,
        last_error=run.last_error,
        next_try=run.next_try,
        changed=run.changed,
    )


class Ids(BaseModel):
    ids: list[UUID] = Field(min_length=1, max_length=200)


class Skip(Ids):
    reason: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


class Sending(BaseModel):
    paused: bool


class SendingOut(BaseModel):
    paused: datetime | None


@router.get("/{id}/runs")
async def open_runs(
    id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    state: Annotated[list[Literal["waiting", "failing", "failed"]] | None, Query()] = None,
    before: datetime | None = None,
    before_id: UUID | None = None,
) -> RunPage:
    """What is not done, the last changed first; older ones `before` the last of a page."""
    if (before is None) != (before_id is None) or (before and before.tzinfo is None):
        raise Invalid("Give the moment of the last run with its time zone, and its id.")
    last = (before, before_id) if before is not None and before_id is not None else None
    states = state or ["waiting", "failing", "failed"]
    found = await runs.page(context, account, id, states, last)
    return RunPage(
        runs=[
            OpenRunOut(**run_out(run).model_dump(), entry_id=run.entry_id, entry_number=number)
            for run, number in found.runs
        ],
        more=found.more,
        counts=found.counts,
        paused=found.paused,
    )


@router.post("/{id}/runs/again")
async def again(
    id: UUID, body: Ids, context: CurrentContext, account: CurrentAccount
) -> list[ChangedOut]:
    return changed_out(await runs.again(context, account, id, body.ids))


@router.post("/{id}/runs/skipped")
async def skip(
    id: UUID, body: Skip, context: CurrentContext, account: CurrentAccount
) -> list[ChangedOut]:
    return changed_out(await runs.skip(context, account, id, body.ids, body.reason))


@router.put("/{id}/sending")
async def put_sending(
    id: UUID, body: Sending, context: CurrentContext, account: CurrentAccount
) -> SendingOut:
    return SendingOut(paused=await runs.pause(context, account, id, body.paused))
