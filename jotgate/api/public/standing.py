"""Whether somebody has answered, for other programs."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Header, Request
from pydantic import BaseModel, ConfigDict, Field

from jotgate.api.dependencies import CurrentContext
from jotgate.api.routes import routes
from jotgate.core.signed_calls import SignedCall
from jotgate.services.public import asked_standing
from jotgate.services.standing import Standing, State, Whom

router = routes("/api/public", "answering")

Short = Annotated[str, Field(max_length=500)]


class WhomIn(BaseModel):
    """One of: `pass`, the secret at the end of a pass's address; `contact_key` or `contact_email`;
    `issuer` with `subject`, of somebody who signed in."""

    model_config = ConfigDict(extra="forbid")

    passed: Short = Field("", alias="pass")
    contact_key: Short = ""
    contact_email: Short = ""
    issuer: Short = ""
    subject: Short = ""


class ProgressOut(BaseModel):
    """`when` and `entry` are of the newest entry once it is `done`; `link` leads on to the page."""

    state: State
    when: datetime | None
    entry: UUID | None
    number: int | None
    link: str


def whom_of(body: WhomIn) -> Whom:
    return Whom(**vars(body))


def progress_out(found: Standing) -> ProgressOut:
    return ProgressOut(
        state=found.state,
        when=found.when,
        entry=found.entry_id,
        number=found.number,
        link=found.link,
    )


Head = Annotated[str, Header(max_length=1000)]


@router.post("/{address}/standing")
async def asked_for_standing(
    address: str,
    body: WhomIn,
    request: Request,
    context: CurrentContext,
    webhook_id: Head = "",
    webhook_timestamp: Head = "",
    webhook_signature: Head = "",
) -> ProgressOut:
    """Signed as in Standard Webhooks, with the secret for calls of a key of the questionnaire."""
    call = SignedCall(webhook_id, webhook_timestamp, webhook_signature, await request.body())
    return progress_out(await asked_standing.ask(context, address, call, whom_of(body)))
