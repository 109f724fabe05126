"""The ways into a questionnaire: its address, named links, passes; and their QR codes."""

from datetime import datetime
from typing import Annotated
from urllib.parse import quote
from uuid import UUID

from fastapi import Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Invalid
from jotgate.core.formats.qr import QrFormat, qr
from jotgate.core.records.links import Batch, NamedLink
from jotgate.core.walking.arrival import Pairs
from jotgate.services.staff.links import named_links

router = routes("/api/questionnaires/{id}/links", "links")


class GivenValue(BaseModel):
    """`name` is a key, or `key.part`."""

    name: str = Field(max_length=100)
    text: str = Field(max_length=2000)


Values = Annotated[list[GivenValue], Field(max_length=400)]


def pairs(values: list[GivenValue]) -> Pairs:
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


def batch_out(batch: Batch) -> BatchOut:
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
        batches=[batch_out(one) for one in found.batches],
    )


@router.post("/named", status_code=201)
async def add_named_link(
    id: UUID, body: NamedLinkIn, context: CurrentContext, account: CurrentAccount
) -> UUID:
    return (await named_links.add(context, account, id, body.name, pairs(body.values))).id


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
