"""Contacts brought in from tables."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.passes import TableOut, WorkOut, table_out, work_out
from jotgate.services.staff.contacts import bringing
from jotgate.services.staff.contacts.bringing import Bringing, Known

router = routes("/api/contact-tables", "contacts")


@router.post("", status_code=201)
async def bring_contact_table(
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
    name: Annotated[str, Query(max_length=1000)],
) -> TableOut:
    """The body is the file itself, CSV or XLSX."""
    return table_out(*await bringing.take_table(context, account, name, await request.body()))


class TableLookIn(BaseModel):
    """`columns` says by a column's number, from 0, which field it holds."""

    table_id: UUID
    columns: dict[int, str] = Field(max_length=200)


@router.post("/look", status_code=202)
async def look_at_contacts(
    body: TableLookIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await bringing.look(context, account, body.table_id, body.columns))


class BringIn(BaseModel):
    """`known` says what becomes of contacts that are there already."""

    table_id: UUID
    known: Known
    list_id: UUID | None = None
    new_list: str = Field("", max_length=120)


@router.post("/bring", status_code=202)
async def bring_contacts(
    body: BringIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await bringing.bring(context, account, Bringing(**vars(body))))


@router.get("/work/{work_id}")
async def contact_work(work_id: UUID, context: CurrentContext, account: CurrentAccount) -> WorkOut:
    return work_out(await bringing.progress(context, account, work_id))
