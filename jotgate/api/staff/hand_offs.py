"""Where people go on from a questionnaire, and which sites may show it in a frame."""

from uuid import UUID

from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.hand_off import HandedValue
from jotgate.core.links import Links
from jotgate.services.staff import links_part

router = routes("/api/questionnaires/{id}/links", "links")


class LinksBody(BaseModel):
    revision: int
    links: Links


class NamedOut(BaseModel):
    name: str
    label: str


class TargetOut(NamedOut):
    """`fits` are the names of what fits into it."""

    fits: list[str]


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


@router.get("/onward/{to}")
async def what_can_go_along(
    id: UUID, to: str, context: CurrentContext, account: CurrentAccount
) -> OfferOut:
    """`to` is the address of the other questionnaire."""
    found = await links_part.offer(context, account, id, to)
    return OfferOut(
        sources=[NamedOut(name=name, label=label) for name, label in found.sources],
        targets=[
            TargetOut(name=one.name, label=one.label, fits=list(one.fits)) for one in found.targets
        ],
        proposed=list(found.proposed),
    )
