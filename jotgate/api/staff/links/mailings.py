"""Letters to contacts, each with a pass."""

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.links import Values, pairs
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.core.contacts.contact import Contact
from jotgate.core.mailing import Composed, Kind, MailingText
from jotgate.core.records.mailings import LetterState, MailingState
from jotgate.services.staff.links import mailings
from jotgate.services.staff.links.mailings import NewMailing

router = routes("/api/questionnaires/{id}/links/mailings", "links")


class MailingOut(BaseModel):
    """The numbers count letters by what became of them."""

    id: UUID
    name: str
    text: MailingText
    state: MailingState
    made: datetime
    batch_id: UUID | None
    waiting: int
    sent: int
    left_out: int
    failed: int


class MailingLetterOut(BaseModel):
    """`changed` is, of one that waits, when it is tried."""

    id: UUID
    email: str
    contact_id: UUID
    state: LetterState
    error: str
    changed: datetime


class MailingIn(BaseModel):
    """A letter to a list, or to the addresses in `to`."""

    name: str = Field(max_length=120)
    text: MailingText
    list_id: UUID | None = None
    to: str = Field("", max_length=400_000)
    values: Values = []
    expires: datetime | None = None
    uses: int | None = None
    kind: Kind = ""


class PreviewIn(BaseModel):
    text: MailingText
    list_id: UUID | None = None


class SeenLetterOut(BaseModel):
    """A letter as the one who is `called` so reads it at the address `to`; `html` is the formatted
    one."""

    called: str
    to: str
    subject: str
    body: str
    html: str


def seen_letter(one: Contact, said: Composed) -> SeenLetterOut:
    return SeenLetterOut(
        called=one.called, to=one.email, subject=said.subject, body=said.body, html=said.html
    )


class HeldIn(BaseModel):
    held: bool


@router.get("")
async def mailings_of(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[MailingOut]:
    left = ("questionnaire_id", "by")
    found = await mailings.every(context, account, id)
    return [
        MailingOut(**{name: value for name, value in vars(one).items() if name not in left})
        for one in found
    ]


@router.post("", status_code=202)
async def ask_for_mailing(
    id: UUID, body: MailingIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    wanted = NewMailing(**{**vars(body), "values": pairs(body.values)})
    return work_out(await mailings.ask(context, account, id, wanted))


@router.post("/preview")
async def preview_of_mailing(
    id: UUID, body: PreviewIn, context: CurrentContext, account: CurrentAccount
) -> SeenLetterOut:
    return seen_letter(*await mailings.preview(context, account, id, body.text, body.list_id))


@router.get("/{mailing_id}/letters")
async def letters_of_mailing(
    id: UUID, mailing_id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[MailingLetterOut]:
    """Two hundred at most, those with trouble first."""
    found = await mailings.letters(context, account, id, mailing_id)
    return [
        MailingLetterOut(
            id=one.id,
            email=one.email,
            contact_id=one.contact_id,
            state=one.state,
            error=one.error,
            changed=one.changed,
        )
        for one in found
    ]


@router.put("/{mailing_id}/held", status_code=204)
async def hold_mailing(
    id: UUID, mailing_id: UUID, body: HeldIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await mailings.hold(context, account, id, mailing_id, body.held)
