"""The desk: questionnaires in folders, new ones, templates."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.questionnaires import SummaryOut, summary_out
from jotgate.core.starts import starts
from jotgate.services.staff import desk, questionnaires
from jotgate.services.staff.entries import statuses

router = routes("/api/questionnaires", "desk")

Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]


class DeskLineOut(SummaryOut):
    """`failed` is how much of dispatch waits for somebody."""

    arrivals: list[int]
    failed: int


class NewQuestionnaire(BaseModel):
    """It starts from what a template is now, from a start by its name, or empty."""

    title: Title
    template: UUID | None = None
    start: Annotated[str, StringConstraints(max_length=80)] | None = None


class StartOut(BaseModel):
    name: str
    title: str
    about: str


class Created(BaseModel):
    id: UUID


class Placement(BaseModel):
    """Where a questionnaire lies on the desk: `folder` is empty outside of any. What is left
    out stays as it is."""

    folder: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] | None = None
    template: bool | None = None


@router.get("")
async def desk_lines(context: CurrentContext, account: CurrentAccount) -> list[DeskLineOut]:
    """The questionnaires that one has a part in."""
    return [
        DeskLineOut(
            **summary_out(line, context).model_dump(),
            arrivals=list(line.arrivals),
            failed=line.failed,
        )
        for line in await desk.desk(context, account)
    ]


class WaitingOut(BaseModel):
    """Work that waits for over a minute: nobody files entries and sends letters just now."""

    count: int
    since: datetime | None


@router.get("/waiting")
async def waiting(context: CurrentContext, account: CurrentAccount) -> WaitingOut:
    found = await desk.waiting(context)
    return WaitingOut(count=found.count, since=found.since)


class LateOut(BaseModel):
    """So many entries have had a status for too long."""

    questionnaire_id: UUID
    entries: int


@router.get("/late")
async def late_entries(context: CurrentContext, account: CurrentAccount) -> list[LateOut]:
    """Of the questionnaires that one may read, where there are some."""
    found = await statuses.late(context, account)
    return [LateOut(questionnaire_id=id, entries=many) for id, many in found.items()]


@router.post("", status_code=201)
async def add_questionnaire(
    body: NewQuestionnaire, context: CurrentContext, account: CurrentAccount
) -> Created:
    if body.start is not None:
        return Created(id=await desk.from_start(context, account, body.start, body.title))
    if body.template is not None:
        return Created(id=await desk.from_template(context, account, body.template, body.title))
    return Created(id=await questionnaires.add(context, account, body.title, None))


@router.get("/starts")
async def every_start(account: CurrentAccount) -> list[StartOut]:
    """What ships with the application to start from."""
    return [StartOut(name=name, title=one.title, about=one.about) for name, one in starts().items()]


@router.put("/{id}/placement", status_code=204)
async def put_questionnaire(
    id: UUID, body: Placement, context: CurrentContext, account: CurrentAccount
) -> None:
    """Put it into a folder, and offer it as a template or not."""
    await desk.put(context, account, id, body.folder, body.template)
