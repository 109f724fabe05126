"""Passes: made of tables and lists, read again with their links, revoked."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.links import BatchOut, Values, batch_out, pairs
from jotgate.api.tables import TableFormat, table_file
from jotgate.core.records.work import UploadedTable, Work, WorkState
from jotgate.services.staff.links import batches, passes
from jotgate.services.staff.links.batches import BatchPage, PassLine
from jotgate.services.staff.links.passes import NewPasses

router = routes("/api/questionnaires/{id}/links", "links")


class TableOut(BaseModel):
    """A table that was brought; `proposed` says by a column's number what it probably brings."""

    id: UUID
    name: str
    columns: list[str]
    sample: list[list[str]]
    rows: int
    proposed: dict[int, str]


@router.post("/tables", status_code=201)
async def bring_table(
    id: UUID,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
    name: Annotated[str, Query(max_length=1000)],
) -> TableOut:
    """The body is the file itself, CSV or XLSX."""
    return table_out(*await passes.take_table(context, account, id, name, await request.body()))


def table_out(table: UploadedTable, proposed: dict[int, str]) -> TableOut:
    return TableOut(
        id=table.id,
        name=table.name,
        columns=list(table.columns),
        sample=[list(row) for row in table.sample],
        rows=table.rows,
        proposed=proposed,
    )


class PassesIn(BaseModel):
    """A pass for each row of the table, or for each contact of the list. `columns` says by a
    column's number, from 0, what it brings: a key, or `key.part`."""

    name: str = Field(max_length=120)
    table_id: UUID | None = None
    list_id: UUID | None = None
    columns: dict[int, str] = Field({}, max_length=200)
    values: Values = []
    expires: datetime | None = None
    uses: int | None = None


class WorkOut(BaseModel):
    """`done` of `total` rows; once it has ended `result`, with `faults` where it failed."""

    id: UUID
    state: WorkState
    done: int
    total: int
    result: dict[str, Any]


def work_out(one: Work) -> WorkOut:
    return WorkOut(id=one.id, state=one.state, done=one.done, total=one.total, result=one.result)


@router.post("/passes", status_code=202)
async def make_passes(
    id: UUID, body: PassesIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    wanted = NewPasses(**{**vars(body), "values": pairs(body.values)})
    return work_out(await passes.ask(context, account, id, wanted))


@router.get("/work/{work_id}")
async def progress_of(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await passes.progress(context, account, id, work_id))


PassState = Literal["works", "used", "used_up", "expired", "revoked"]


class PassOut(BaseModel):
    """`row` is that of the table that it was made for; `entries` are the numbers of what came."""

    id: UUID
    number: int
    state: PassState
    row: list[str]
    entries: list[int]


class BatchPageOut(BaseModel):
    batch: BatchOut
    columns: list[str]
    passes: list[PassOut]
    more: bool


def _state(line: PassLine, now: datetime) -> PassState:
    one = line.one
    if one.revoked is not None:
        return "revoked"
    if one.is_used_up:
        return "used_up"
    if one.is_over(now):
        return "expired"
    return "used" if one.used else "works"


def _batch_page(found: BatchPage, now: datetime) -> BatchPageOut:
    return BatchPageOut(
        batch=batch_out(found.batch),
        columns=list(found.columns),
        passes=[
            PassOut(
                id=line.one.id,
                number=line.one.number,
                state=_state(line, now),
                row=line.row,
                entries=list(line.entries),
            )
            for line in found.lines
        ],
        more=found.more,
    )


@router.get("/passes/{batch_id}")
async def passes_of(
    id: UUID,
    batch_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    after: Annotated[int, Query(ge=0, le=10**9)] = 0,
) -> BatchPageOut:
    """A hundred passes from the one after number `after` on."""
    found = await batches.page(context, account, id, batch_id, after)
    return _batch_page(found, context.clock.now())


@router.delete("/passes/{batch_id}")
async def revoke_passes(
    id: UUID, batch_id: UUID, context: CurrentContext, account: CurrentAccount
) -> int:
    """Revoke all of them; how many worked until now."""
    return await batches.revoke(context, account, id, batch_id, None)


@router.delete("/passes/{batch_id}/{pass_id}")
async def revoke_pass(
    id: UUID, batch_id: UUID, pass_id: UUID, context: CurrentContext, account: CurrentAccount
) -> int:
    return await batches.revoke(context, account, id, batch_id, pass_id)


@router.post("/passes/{batch_id}/{pass_id}/link")
async def link_of_pass(
    id: UUID, batch_id: UUID, pass_id: UUID, context: CurrentContext, account: CurrentAccount
) -> str:
    """The address of a pass."""
    return await batches.link(context, account, id, pass_id)


@router.get("/passes/{batch_id}/file", response_class=Response)
async def links_of_passes(
    id: UUID,
    batch_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    format: TableFormat = "csv",
) -> Response:
    """The table that the passes were made of, with a link in each row."""
    table = await batches.with_links(context, account, id, batch_id)
    return table_file(table.name, format, table.head, table.rows)
