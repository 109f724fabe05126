"""Registers and their rows."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries import ThingOut, thing_out
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column, Register
from jotgate.core.rights import IN_THING, Right
from jotgate.services.staff import registers

router = routes("/api", "registers")


class RegisterOut(BaseModel):
    id: UUID
    name: str
    columns: list[Column]
    rows: int
    rights: list[Right]


class NewRegister(BaseModel):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    columns: list[Column] = Field(min_length=1, max_length=100)


class RegisterRowOut(BaseModel):
    id: int
    values: dict[str, Cell]
    entry_number: int
    filed: datetime
    about: ThingOut | None = None


class RegisterPage(BaseModel):
    register_: Register = Field(alias="register")
    rights: list[Right]
    rows: list[RegisterRowOut]
    more: bool


@router.get("/registers")
async def every_register(context: CurrentContext, account: CurrentAccount) -> list[RegisterOut]:
    return [
        RegisterOut(
            id=one.register.id,
            name=one.register.name,
            columns=list(one.register.columns),
            rows=one.rows,
            rights=list(one.rights),
        )
        for one in await registers.every(context, account)
    ]


@router.post("/registers", status_code=201)
async def add_register(
    body: NewRegister, context: CurrentContext, account: CurrentAccount
) -> RegisterOut:
    made = await registers.add(context, account, body.name, body.columns)
    return RegisterOut(
        id=made.id, name=made.name, columns=list(made.columns), rows=0, rights=list(IN_THING)
    )


@router.get("/registers/{id}")
async def register_page(
    id: UUID, context: CurrentContext, account: CurrentAccount, before: int | None = None
) -> RegisterPage:
    found = await registers.page(context, account, id, before)
    return RegisterPage(
        register=found.register,
        rights=list(found.rights),
        rows=[RegisterRowOut(**{**vars(row), "about": thing_out(row.about)}) for row in found.rows],
        more=found.more,
    )
