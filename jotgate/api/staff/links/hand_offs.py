"""Where people go on from a questionnaire, and which sites may show it in a frame."""

from datetime import datetime
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.hand_off import HandedValue
from jotgate.core.links import Links
from jotgate.services.staff.links import link_keys, links_part

router = routes("/api/questionnaires/{id}/links", "links")


class LinksBody(BaseModel):
    revision: int
    links: Links


class NamedOut(BaseModel):
    name: str
    label: str


class TargetOut(NamedOut):
    """`fits` are the names of what fits into it; a question can be locked, a carried value needs no
    lock."""

    fits: list[str]
    lockable: bool


class OfferOut(BaseModel):
    """What can go along to another questionnaire, where it fits, and what probably goes where."""

    sources: list[NamedOut]
    targets: list[TargetOut]
    proposed: list[HandedValue]


@router.get("/settings")
async def links_part_of(id: UUID, context: CurrentContext, account: CurrentAccount) -> LinksBody:
    saved = await links_part.find(context, account, id)
    return LinksBody(revision=saved.revision, links=saved.value)


@router.put("/settings")
async def save_links_part(
    id: UUID, body: LinksBody, context: CurrentContext, account: CurrentAccount
) -> LinksBody:
    saved = await links_part.save(context, account, id, body.links, body.revision)
    return LinksBody(revision=saved.revision, links=saved.value)


class LinkKeyOut(BaseModel):
    id: str
    made: datetime


class NewLinkKeyOut(BaseModel):
    """`secret` is shown once: 64 bytes, base64url; and so is `calls`, which signs calls. `address`
    is what the links begin with."""

    id: str
    secret: str
    calls: str
    audience: str
    address: str


@router.get("/keys")
async def link_keys_of(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[LinkKeyOut]:
    found = await link_keys.every(context, account, id)
    return [LinkKeyOut(id=key_id, made=made) for key_id, made in found]


@router.post("/keys", status_code=201)
async def make_link_key(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> NewLinkKeyOut:
    made = await link_keys.add(context, account, id)
    base = request.app.state.settings.public_url.rstrip("/")
    return NewLinkKeyOut(**vars(made), address=f"{base}/s/{made.audience}/")


@router.delete("/keys/{key_id}", status_code=204)
async def end_link_key(
    id: UUID, key_id: str, context: CurrentContext, account: CurrentAccount
) -> None:
    await link_keys.end(context, account, id, key_id)


@router.get("/onward/{to}")
async def what_can_go_along(
    id: UUID, to: str, context: CurrentContext, account: CurrentAccount
) -> OfferOut:
    """`to` is the address of the other questionnaire."""
    found = await links_part.offer(context, account, id, to)
    return OfferOut(
        sources=[NamedOut(name=name, label=label) for name, label in found.sources],
        targets=[
            TargetOut(name=one.name, label=one.label, fits=list(one.fits), lockable=one.lockable)
            for one in found.targets
        ],
        proposed=list(found.proposed),
    )
