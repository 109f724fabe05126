"""Uploading pictures, videos and captions for a questionnaire."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request
from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.records.files import Medium
from jotgate.ports.files import Inspected
from jotgate.services.staff import media

router = routes("/api/questionnaires/{id}/media", "media")


class MediumOut(BaseModel):
    """`size` is in bytes, `width` and `height` of a picture in pixels."""

    id: UUID
    name: str
    type: str
    size: int
    width: int | None
    height: int | None


def medium_out(made: Medium, seen: Inspected) -> MediumOut:
    return MediumOut(
        id=made.id,
        name=made.name,
        type=made.type,
        size=made.size,
        width=seen.width,
        height=seen.height,
    )


@router.post("", status_code=201)
async def add_medium(
    id: UUID,
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
    name: Annotated[str, Query(max_length=1000)],
) -> MediumOut:
    """The body is the file itself."""
    return medium_out(*await media.add(context, account, id, name, await request.body()))
