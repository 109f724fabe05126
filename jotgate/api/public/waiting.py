"""The waiting list of a questionnaire whose places are taken."""

from fastapi import Request, Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.public.mail_addresses import mail_address_in
from jotgate.api.routes import routes
from jotgate.api.visits import set_waiting
from jotgate.services.public import waiting

router = routes("/api/public/{address}/waiting", "answering")


class WaitingIn(BaseModel):
    email: str = Field(max_length=300)
    language: str = Field("", max_length=40)


class WaitingPlaceOut(BaseModel):
    """The place on the list, from 1."""

    place: int


@router.post("", status_code=202)
async def join_the_list(
    address: str, body: WaitingIn, request: Request, reply: Response, context: CurrentContext
) -> WaitingPlaceOut:
    """We write to the address once there is a place for it. A cookie tells whoever comes back at
    which place they wait."""
    email = mail_address_in(body.email, body.language)
    client = request.scope["client_address"]
    joined = await waiting.join(context, address, email, body.language, client)
    set_waiting(reply, request, address, joined.secret)
    return WaitingPlaceOut(place=joined.place)
