"""Registers, the trail and the mail room."""

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.entries.register import Column, Register
from jotgate.core.records.trail import Action
from jotgate.services.staff import office, registers

router = routes("/api", "office")


class RegisterOut(BaseModel):
    id: UUID
    name: str
    columns: list[Column]
    rows: int


class NewRegister(BaseModel):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    columns: list[Column] = Field(min_length=1, max_length=100)


class RowOut(BaseModel):
    id: int
    values: dict[str, str | bool]
    entry_number: int
    filed: datetime


class RegisterPage(BaseModel):
    register_: Register = Field(alias="register")
    rows: list[RowOut]
    more: bool


class TrailEntryOut(BaseModel):
    id: int
    at: datetime
    who: str
    action: Action
    questionnaire_id: UUID | None
    entry_id: UUID | None
    detail: dict[str, Any]


class TrailPage(BaseModel):
    marks: list[TrailEntryOut]
    more: bool


class LetterOut(BaseModel):
    id: str
    at: datetime
    sender: str
    to: str
    subject: str
    body: str


@router.get("/registers")
async def every_register(context: CurrentContext, account: CurrentAccount) -> list[RegisterOut]:
    return [
        RegisterOut(id=r.id, name=r.name, columns=list(r.columns), rows=rows)
        for r, rows in await registers.every(context)
    ]


@router.post("/registers", status_code=201)
async def add_register(
    body: NewRegister, context: CurrentContext, account: CurrentAccount
) -> RegisterOut:
    made = await registers.add(context, account, body.name, body.columns)
    return RegisterOut(id=made.id, name=made.name, columns=list(made.columns), rows=0)


@router.get("/registers/{id}")
async def register_page(
    id: UUID, context: CurrentContext, account: CurrentAccount, before: int | None = None
) -> RegisterPage:
    register, rows, more = await registers.page(context, id, before)
    return RegisterPage(register=register, rows=[RowOut(**vars(row)) for row in rows], more=more)


@router.get("/trail")
async def trail(
    context: CurrentContext, account: CurrentAccount, before: int | None = None
) -> TrailPage:
    marks, more = await office.marks(context, account, before)
    return TrailPage(marks=[TrailEntryOut(**vars(mark)) for mark in marks], more=more)


@router.get("/mail-room")
async def mail_room(context: CurrentContext, account: CurrentAccount) -> list[LetterOut]:
    return [LetterOut(**vars(letter)) for letter in await office.letters(context, account)]
