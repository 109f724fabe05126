"""Registers out of tables, and as tables."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.passes import TableOut, WorkOut, table_out, work_out
from jotgate.api.staff.table_views import InAddress
from jotgate.api.tables import TableFormat, table_file
from jotgate.core.common.zones import TimeZone
from jotgate.core.registers.columns import Column
from jotgate.services.staff.registers import bringing, export
from jotgate.services.staff.registers.bringing import Bringing

router = routes("/api", "registers")

FileName = Annotated[str, Query(max_length=1000)]


class NewTableOut(BaseModel):
    """A table that was brought, and the columns of a register that could be made for it."""

    table: TableOut
    columns: list[Column]


@router.post("/register-tables", status_code=201)
async def bring_new_register(
    request: Request, context: CurrentContext, account: CurrentAccount, name: FileName
) -> NewTableOut:
    """The body is the file itself, CSV or XLSX."""
    table, columns = await bringing.take_new(context, account, name, await request.body())
    return NewTableOut(table=table_out(table, {}), columns=columns)


@router.post("/registers/{id}/tables", status_code=201)
async def bring_register_table(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount, name: FileName
) -> TableOut:
    """The body is the file itself, CSV or XLSX; `proposed` says by a column's number which column
    of the register it probably is."""
    taken = await bringing.take_table(context, account, id, name, await request.body())
    return table_out(*taken)


class RowsBroughtIn(BaseModel):
    """`columns` says by the number of a column of the table, from 0, which column of the register
    it is. With `partly` cells that do not fit are left empty."""

    table_id: UUID
    columns: dict[int, str] = Field(max_length=200)
    partly: bool = False
    zone: TimeZone | None = None


@router.post("/registers/{id}/rows/bring", status_code=202)
async def bring_rows(
    id: UUID, body: RowsBroughtIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    wanted = Bringing(body.table_id, body.columns, body.partly, body.zone)
    return work_out(await bringing.bring(context, account, id, wanted))


@router.get("/registers/{id}/work/{work_id}")
async def register_work(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await bringing.progress(context, account, id, work_id))


@router.get("/registers/{id}/export", response_class=Response)
async def export_rows(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    format: TableFormat = "csv",
    zone: TimeZone | None = None,
) -> Response:
    """The rows that a view shows, as a table (CSV or XLSX)."""
    name, head, rows = await export.table(context, account, id, view, zone)
    return table_file(name, format, head, rows)
