"""Files of respondents, in pieces: announce, send, and ask how much has arrived."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.public.answering import LONGEST_ARRIVAL
from jotgate.api.routes import routes
from jotgate.core.records.files import SentFile
from jotgate.services.context import Context
from jotgate.services.keys.sealing import name_of_file
from jotgate.services.public import uploads
from jotgate.services.public.uploads import AnnouncedFile

router = routes("/api/public/{address}/files", "answering")


class FileOut(BaseModel):
    """A file that has arrived and was looked at. `size` is in bytes, `type` a media type."""

    id: UUID
    name: str
    size: int
    type: str


class ReceivedOut(BaseModel):
    """How many bytes have arrived; `done` once that is all of them."""

    id: UUID
    received: int
    done: FileOut | None


class FileIn(BaseModel):
    """A file about to be sent for the question `item`; `size` is in bytes."""

    edition: int = Field(ge=1)
    item: str = Field(max_length=40)
    name: str = Field(max_length=1000)
    size: int = Field(ge=0, le=10**12)
    language: str = Field("", max_length=40)
    arrival: str = Field("", max_length=LONGEST_ARRIVAL)


async def _received(context: Context, file: SentFile) -> ReceivedOut:
    name = await name_of_file(context, file)
    done = file.type and FileOut(id=file.id, name=name, size=file.size, type=file.type)
    return ReceivedOut(id=file.id, received=file.received, done=done or None)


@router.post("", status_code=201)
async def begin_file(
    address: str, body: FileIn, request: Request, context: CurrentContext
) -> ReceivedOut:
    about, client = AnnouncedFile(**body.model_dump()), request.scope["client_address"]
    return await _received(context, await uploads.begin(context, address, about, client))


@router.put("/{file_id}")
async def take_piece(
    address: str,
    file_id: UUID,
    request: Request,
    context: CurrentContext,
    offset: Annotated[int, Query(ge=0, le=10**12)],
    language: Annotated[str, Query(max_length=40)] = "",
) -> ReceivedOut:
    """The body is the piece itself, at most 1,500,000 bytes of it."""
    piece = await request.body()
    client = request.scope["client_address"]
    return await _received(
        context, await uploads.take(context, address, file_id, offset, piece, language, client)
    )


@router.get("/{file_id}")
async def file_so_far(address: str, file_id: UUID, context: CurrentContext) -> ReceivedOut:
    return await _received(context, await uploads.so_far(context, address, file_id))
