"""A visitor asks for a letter that confirms their mail address."""

from fastapi import Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.public.mail_addresses import mail_address_in
from jotgate.api.routes import routes
from jotgate.core.records.links import Way
from jotgate.services.arrivals import Entrance
from jotgate.services.public import confirming
from jotgate.services.public.confirming import Asked

router = routes("/api/public/{address}/confirmations", "answering")


class ConfirmationIn(BaseModel):
    """`way` and `secret` are of the link that they came by, `link` is its query string."""

    email: str = Field(max_length=300)
    language: str = Field("", max_length=40)
    way: Way = ""
    secret: str = Field("", max_length=6000)
    link: str = Field("", max_length=2000)


@router.post("", status_code=202)
async def ask_to_confirm(
    address: str, body: ConfirmationIn, request: Request, context: CurrentContext
) -> None:
    """A letter goes to the address, with a link that lets whoever opens it in."""
    email = mail_address_in(body.email, body.language)
    entrance = Entrance(address=address, way=body.way, secret=body.secret)
    client = request.scope["client_address"]
    await confirming.ask(context, Asked(email, entrance, body.link, body.language, client))
