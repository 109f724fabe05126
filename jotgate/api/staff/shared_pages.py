"""Pages to share: what staff put on them, what they would show, and where they are found."""

from datetime import datetime
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.shared_pages.page import PageContent, SharedPage
from jotgate.services.context import Context
from jotgate.services.staff import shared_pages
from jotgate.services.staff.shared_pages import PageGiven

router = routes("/api/questionnaires/{id}/shared-pages", "sharing")


class SharedPageIn(BaseModel):
    """`live`: its figures are counted whenever somebody looks, else they stay as they are now."""

    content: PageContent
    live: bool = True

    def given(self) -> PageGiven:
        return PageGiven(self.content, self.live)


class SharedPagePut(SharedPageIn):
    revision: int = Field(ge=1)


class Closed(BaseModel):
    closed: bool


class SharedPageOut(BaseModel):
    """`address` is the whole of it, which nobody finds unless `open`. `counted` is when the figures
    of a page that is not live were; `closed` is when it was taken back."""

    id: UUID
    address: str
    content: PageContent
    live: bool
    open: bool
    counted: datetime | None
    closed: datetime | None
    made: datetime
    revision: int


def _out(request: Request, context: Context, one: SharedPage) -> SharedPageOut:
    base = request.app.state.settings.public_url.rstrip("/")
    return SharedPageOut(
        id=one.id,
        address=f"{base}/figures/{one.token}",
        content=one.content,
        live=one.frozen is None,
        open=one.is_open(context.clock.now()),
        counted=None if one.frozen is None else one.frozen.counted,
        closed=one.closed,
        made=one.made,
        revision=one.revision,
    )


@router.get("")
async def all_shared_pages(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> list[SharedPageOut]:
    """The newest first."""
    return [_out(request, context, one) for one in await shared_pages.every(context, account, id)]


@router.post("", status_code=201)
async def add_shared_page(
    id: UUID,
    body: SharedPageIn,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
) -> SharedPageOut:
    return _out(request, context, await shared_pages.add(context, account, id, body.given()))


@router.get("/{page_id}")
async def shared_page(
    id: UUID, page_id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> SharedPageOut:
    return _out(request, context, await shared_pages.page(context, account, id, page_id))


@router.put("/{page_id}")
async def change_shared_page(
    id: UUID,
    page_id: UUID,
    body: SharedPagePut,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
) -> SharedPageOut:
    """Over the revision that it was read at. Figures that stay as they are, are counted anew."""
    found = await shared_pages.change(context, account, id, page_id, body.given(), body.revision)
    return _out(request, context, found)


@router.put("/{page_id}/closed")
async def close_shared_page(
    id: UUID,
    page_id: UUID,
    body: Closed,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
) -> SharedPageOut:
    """Take it back, or open it again at another address."""
    return _out(
        request, context, await shared_pages.close(context, account, id, page_id, body.closed)
    )


@router.delete("/{page_id}", status_code=204)
async def remove_shared_page(
    id: UUID, page_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await shared_pages.remove(context, account, id, page_id)
