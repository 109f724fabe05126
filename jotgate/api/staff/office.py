"""The office: its settings, and the mail room."""

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.media import MediumOut, medium_out
from jotgate.core.office import Office
from jotgate.ports.mail import MailDoes, MailRule
from jotgate.services.staff import office

router = routes("/api", "office")


class OfficeBody(BaseModel):
    revision: int
    office: Office


class LetterOut(BaseModel):
    id: str
    at: datetime
    sender: str
    to: str
    subject: str
    body: str


@router.get("/office")
async def office_settings(context: CurrentContext, account: CurrentAccount) -> OfficeBody:
    found = await office.settings(context, account)
    return OfficeBody(revision=found.revision, office=found.value)


@router.put("/office")
async def save_office(
    body: OfficeBody, context: CurrentContext, account: CurrentAccount
) -> OfficeBody:
    saved = await office.save(context, account, body.office, body.revision)
    return OfficeBody(revision=saved.revision, office=saved.value)


@router.post("/office/picture", status_code=201)
async def add_office_picture(
    request: Request,
    context: CurrentContext,
    account: CurrentAccount,
    name: Annotated[str, Query(max_length=1000)],
) -> MediumOut:
    """The body is the file itself."""
    return medium_out(*await office.add_picture(context, account, name, await request.body()))


@router.get("/mail-room")
async def mail_room(context: CurrentContext, account: CurrentAccount) -> list[LetterOut]:
    return [LetterOut(**vars(letter)) for letter in await office.letters(context, account)]


class MailRuleBody(BaseModel):
    """What the simulated mail room does with letters to an address, or to everybody at a domain
    such as `@example.net`."""

    to: Annotated[str, StringConstraints(strip_whitespace=True, max_length=254)]
    does: MailDoes


class MailRules(BaseModel):
    rules: list[MailRuleBody] = Field(max_length=200)


def _told(rules: Sequence[MailRule]) -> MailRules:
    return MailRules(rules=[MailRuleBody(to=one.to, does=one.does) for one in rules])


@router.get("/mail-room/rules")
async def mail_rules(context: CurrentContext, account: CurrentAccount) -> MailRules:
    return _told(await office.mail_rules(context, account))


@router.put("/mail-room/rules")
async def put_mail_rules(
    body: MailRules, context: CurrentContext, account: CurrentAccount
) -> MailRules:
    rules = [MailRule(one.to, one.does) for one in body.rules]
    return _told(await office.put_mail_rules(context, account, rules))
