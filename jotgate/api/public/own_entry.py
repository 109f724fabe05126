"""Whoever sent an entry asks for a letter by which they can change it."""

from fastapi import Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.public.answering import IdempotencyKey
from jotgate.api.public.mail_addresses import mail_address_in
from jotgate.api.routes import routes
from jotgate.services.public import changing

router = routes("/api/public/{address}/own/letter", "answering")


class OwnLetterIn(BaseModel):
    email: str = Field(max_length=300)
    language: str = Field("", max_length=40)


@router.post("", status_code=202)
async def ask_to_change(
    address: str,
    body: OwnLetterIn,
    idempotency_key: IdempotencyKey,
    request: Request,
    context: CurrentContext,
) -> None:
    """A link goes to the address, for whoever knows the key that the entry was sent under."""
    email = mail_address_in(body.email, body.language)
    client = request.scope["client_address"]
    key = idempotency_key
    await changing.ask_letter(context, address, key, email, body.language, client)
