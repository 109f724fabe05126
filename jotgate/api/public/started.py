"""Started entries: saved as people go, found again, sent on by letter, thrown away."""

from typing import Annotated, Any

from fastapi import Header, Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.public.answering import LONGEST_ARRIVAL
from jotgate.api.public.mail_addresses import mail_address_in
from jotgate.api.routes import routes
from jotgate.services.public import started
from jotgate.services.public.started import StartedAnswers

router = routes("/api/public/{address}/started", "answering")

Token = Annotated[
    str,
    Header(alias="Started-Token", pattern=r"^[0-9a-f]{64}$"),
]
"""The secret of a started entry: 256 bits that the browser drew, in hexadecimal digits."""


class StartedBody(BaseModel):
    """Answers on their way: the link's query string, the page shown, the submission's name."""

    edition: int = Field(ge=1)
    link: str = Field("", max_length=8000)
    page: str = Field("", max_length=40)
    submission: str = Field("", max_length=64)
    answers: dict[str, Any] = Field({}, max_length=5000)
    arrival: str = Field("", max_length=LONGEST_ARRIVAL)


class LetterIn(BaseModel):
    email: str = Field(max_length=300)
    language: str = Field("", max_length=40)


@router.put("", status_code=204)
async def save_started(
    address: str, body: StartedBody, token: Token, request: Request, context: CurrentContext
) -> None:
    client = request.scope["client_address"]
    await started.save(context, address, token, StartedAnswers(**body.model_dump()), client)


@router.get("")
async def started_so_far(address: str, token: Token, context: CurrentContext) -> StartedBody:
    return StartedBody(**vars(await started.find(context, address, token)))


@router.delete("", status_code=204)
async def forget_started(address: str, token: Token, context: CurrentContext) -> None:
    await started.forget(context, token)


@router.post("/letter", status_code=202)
async def ask_letter(
    address: str, body: LetterIn, token: Token, request: Request, context: CurrentContext
) -> None:
    to = mail_address_in(body.email, body.language)
    base = request.app.state.settings.public_url.rstrip("/")
    client = request.scope["client_address"]
    await started.ask_letter(context, address, token, to, base, body.language, client)
