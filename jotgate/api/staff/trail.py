"""The trail: a diary of who did and who saw what."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from fastapi import Depends, Query
from fastapi.responses import StreamingResponse
from pydantic import AwareDatetime, BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.records.trail import Action, TrailFilter
from jotgate.services.staff import trail

router = routes("/api", "trail")


class TrailEntryOut(BaseModel):
    """A line: `who` did it, whom it is `about`; both empty for nobody of the office."""

    id: int
    at: datetime
    account_id: UUID | None
    who: str
    action: Action
    questionnaire_id: UUID | None
    entry_id: UUID | None
    register_id: UUID | None
    about_id: UUID | None
    about: str
    detail: dict[str, Any]


class TrailPage(BaseModel):
    marks: list[TrailEntryOut]
    more: bool


async def wanted(
    person: UUID | None = None,
    questionnaire: UUID | None = None,
    entry: UUID | None = None,
    register: UUID | None = None,
    action: Annotated[list[Action] | None, Query(max_length=40)] = None,
    key: Annotated[str | None, Query(max_length=40)] = None,
    since: AwareDatetime | None = None,
    until: AwareDatetime | None = None,
) -> TrailFilter:
    """Which lines are asked for."""
    actions = tuple(action or ())
    return TrailFilter(person, questionnaire, entry, register, actions, key, since, until)


Wanted = Annotated[TrailFilter, Depends(wanted)]


@router.get("/trail")
async def trail_page(
    context: CurrentContext, account: CurrentAccount, wanted: Wanted, before: int | None = None
) -> TrailPage:
    """From the newest back, those with a number under `before` where it is given."""
    marks, more = await trail.page(context, account, wanted, before)
    return TrailPage(marks=[TrailEntryOut(**vars(mark)) for mark in marks], more=more)


@router.get("/trail/export", response_class=StreamingResponse)
async def trail_export(
    context: CurrentContext, account: CurrentAccount, wanted: Wanted
) -> StreamingResponse:
    """What matches as CSV (RFC 4180)."""
    headers = {"Content-Disposition": 'attachment; filename="trail.csv"'}
    lines = await trail.export(context, account, wanted)
    return StreamingResponse(lines, media_type="text/csv; charset=utf-8", headers=headers)
