"""The ways into a questionnaire: its address, named links, passes; and their QR codes."""

from collections.abc import AsyncIterator
from datetime import datetime
from typing import Annotated, Any, Literal
from urllib.parse import quote
from uuid import UUID

from fastapi import Query, Request
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Invalid
from jotgate.core.formats.qr import QrFormat, qr
from jotgate.core.formats.table import lines, write
from jotgate.core.records.links import Batch, NamedLink
from jotgate.core.records.work import Work, WorkState
from jotgate.core.walking.arrival import Pairs
from jotgate.services.context import Context
from jotgate.services.staff.links import named_links, passes
from jotgate.services.staff.links.passes import BatchPage, LinkTable, NewPasses, PassLine
from jotgate.services.workbooks import workbook

router = routes("/api/questionnaires/{id}/links", "links")


class GivenValue(BaseModel):
    """`name` is a key, or `key.part`."""

    name: str = Field(max_length=100)
    text: str = Field(max_length=2000)


Values = Annotated[list[GivenValue], Field(max_length=400)]


def _pairs(values: list[GivenValue]) -> Pairs:
    return tuple((one.name, one.text) for one in values)


class NamedLinkIn(BaseModel):
    name: str = Field(max_length=120)
    values: Values = []


class NamedLinkPut(BaseModel):
    name: str = Field(max_length=120)
    shut: bool


class NamedLinkOut(BaseModel):
    """`address` is the whole of it; `entries` counts what came by it, `latest` is when the last."""

    id: UUID
    name: str
    address: str
    values: list[GivenValue]
    made: datetime
    shut: datetime | None
    entries: int
    latest: datetime | None


class BatchOut(BaseModel):
    """Passes made together: `live` work still, `used` counts the entries that they brought."""

    id: UUID
    name: str
    made: datetime
    passes: int
    live: int
    used: int
    expires: datetime | None
    uses: int | None


class WaysOut(BaseModel):
    """`address` is the plain one, `plain` counts what came by it."""

    address: str
    plain: int
    named: list[NamedLinkOut]
    batches: list[BatchOut]


def _address(request: Request, way: str, address: str, secret: str = "") -> str:
    base = request.app.state.settings.public_url.rstrip("/")
    return "/".join([base, way, quote(address), *([quote(secret)] if secret else [])])


def _named_out(request: Request, address: str, link: NamedLink) -> NamedLinkOut:
    return NamedLinkOut(
        id=link.id,
        name=link.name,
        address=_address(request, "l", address, link.code),
        values=[GivenValue(name=name, text=text) for name, text in link.values],
        made=link.made,
        shut=link.shut,
        entries=link.entries,
        latest=link.latest,
    )


def _batch_out(batch: Batch) -> BatchOut:
    left = ("questionnaire_id", "by")
    return BatchOut(**{name: one for name, one in vars(batch).items() if name not in left})


@router.get("")
async def ways_in(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> WaysOut:
    found = await named_links.ways(context, account, id)
    return WaysOut(
        address=_address(request, "q", found.address),
        plain=found.plain,
        named=[_named_out(request, found.address, link) for link in found.named],
        batches=[_batch_out(one) for one in found.batches],
    )


@router.post("/named", status_code=201)
async def add_named_link(
    id: UUID, body: NamedLinkIn, context: CurrentContext, account: CurrentAccount
) -> UUID:
    return (await named_links.add(context, account, id, body.name, _pairs(body.values))).id


@router.put("/named/{link_id}", status_code=204)
async def put_named_link(
    id: UUID, link_id: UUID, body: NamedLinkPut, context: CurrentContext, account: CurrentAccount
) -> None:
    await named_links.put(context, account, id, link_id, body.name, body.shut)


@router.delete("/named/{link_id}", status_code=204)
async def remove_named_link(
    id: UUID, link_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await named_links.remove(context, account, id, link_id)


@router.get("/qr", response_class=Response)
async def qr_code(
    id: UUID,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
    address: Annotated[str, Query(max_length=2000)],
    format: QrFormat = "svg",
) -> Response:
    """A QR code of an address of this questionnaire."""
    found = await named_links.ways(context, account, id)
    if not any(
        address == own or address.startswith((f"{own}/", f"{own}?"))
        for own in (_address(request, way, found.address) for way in "qlps")
    ):
        raise Invalid("This is no address of this questionnaire.")
    try:
        picture = qr(address, format)
    except ValueError:
        raise Invalid("This address is too long for a QR code. Make a named link of it.") from None
    kind = "image/svg+xml" if format == "svg" else "image/png"
    headers = {"Content-Disposition": f'inline; filename="qr.{format}"'}
    return Response(picture, media_type=kind, headers=headers)


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
    table, proposed = await passes.take_table(context, account, id, name, await request.body())
    return TableOut(
        id=table.id,
        name=table.name,
        columns=list(table.columns),
        sample=[list(row) for row in table.sample],
        rows=table.rows,
        proposed=proposed,
    )


class PassesIn(BaseModel):
    """`columns` says by a column's number, from 0, what it brings: a key, or `key.part`."""

    name: str = Field(max_length=120)
    table_id: UUID
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
    wanted = NewPasses(**{**vars(body), "values": _pairs(body.values)})
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
    if one.uses is not None and one.used >= one.uses:
        return "used_up"
    if one.expires is not None and one.expires <= now:
        return "expired"
    return "used" if one.used else "works"


def _batch_page(found: BatchPage, now: datetime) -> BatchPageOut:
    return BatchPageOut(
        batch=_batch_out(found.batch),
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
    found = await passes.page(context, account, id, batch_id, after)
    return _batch_page(found, context.clock.now())


@router.delete("/passes/{batch_id}")
async def revoke_passes(
    id: UUID, batch_id: UUID, context: CurrentContext, account: CurrentAccount
) -> int:
    """Revoke all of them; how many worked until now."""
    return await passes.revoke(context, account, id, batch_id, None)


@router.delete("/passes/{batch_id}/{pass_id}")
async def revoke_pass(
    id: UUID, batch_id: UUID, pass_id: UUID, context: CurrentContext, account: CurrentAccount
) -> int:
    return await passes.revoke(context, account, id, batch_id, pass_id)


@router.get("/passes/{batch_id}/file", response_class=Response)
async def links_of_passes(
    id: UUID,
    batch_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    format: Literal["csv", "xlsx"] = "csv",
) -> Response:
    """The table that the passes were made of, with a link in each row."""
    table = await passes.with_links(context, account, id, batch_id)
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(table.name)}.{format}"}
    if format == "csv":
        kind = "text/csv; charset=utf-8"
        return StreamingResponse(_as_csv(table), media_type=kind, headers=headers)
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    return StreamingResponse(_as_xlsx(context, table), media_type=kind, headers=headers)


async def _as_csv(table: LinkTable) -> AsyncIterator[bytes]:
    yield b"\xef\xbb\xbf" + write(table.head, []).encode()
    async for rows in table.rows:
        yield lines(rows).encode()


async def _as_xlsx(context: Context, table: LinkTable) -> AsyncIterator[bytes]:
    async for piece in workbook(table.name, table.head, table.rows):
        yield piece
