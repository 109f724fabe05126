"""Registers, their columns, and single rows with what became of them."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entry_words import ThingOut, thing_out
from jotgate.api.staff.table_views import ViewOut, view_out
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column, Register
from jotgate.core.rights import IN_THING, Right
from jotgate.services.staff.registers import columns, registers
from jotgate.services.staff.registers.columns import ColumnsGiven

router = routes("/api", "registers")

RegisterName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class RegisterOut(BaseModel):
    """One that is `cleared` may hold restricted answers beside its rows."""

    id: UUID
    name: str
    columns: list[Column]
    rows: int
    rights: list[Right]
    cleared: bool = False


class NewRegister(BaseModel):
    name: RegisterName
    columns: list[Column] = Field(min_length=1, max_length=100)


class PersonNamed(BaseModel):
    """Somebody whom cells name; `here` is false of who has left the office."""

    id: str
    name: str
    here: bool


class RegisterRead(BaseModel):
    register_: Register = Field(alias="register")
    rights: list[Right]
    rows: int
    views: list[ViewOut]
    people: list[PersonNamed]


class RegisterRowOut(BaseModel):
    """`entry_number` is null of a row that was written by hand."""

    id: int
    values: dict[str, Cell]
    entry_number: int | None
    filed: datetime
    about: ThingOut | None = None


def row_out(row: Row) -> RegisterRowOut:
    return RegisterRowOut(
        id=row.id,
        values=row.values,
        entry_number=row.entry_number,
        filed=row.filed,
        about=thing_out(row.about),
    )


@router.get("/registers")
async def every_register(context: CurrentContext, account: CurrentAccount) -> list[RegisterOut]:
    return [
        RegisterOut(
            id=one.register.id,
            name=one.register.name,
            columns=list(one.register.columns),
            rows=one.rows,
            rights=list(one.rights),
            cleared=one.register.cleared,
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
async def read_register(id: UUID, context: CurrentContext, account: CurrentAccount) -> RegisterRead:
    found = await registers.read(context, account, id)
    return RegisterRead(
        register=found.register,
        rights=list(found.rights),
        rows=found.rows,
        views=[view_out(one) for one in found.views],
        people=[
            PersonNamed(id=id, name=one.name, here=one.here) for id, one in found.people.items()
        ],
    )


class RegisterIn(BaseModel):
    """What a register becomes over `revision`. With `clear` cells that cannot be kept in what their
    column becomes are cleared; without it nothing is changed where there are any. Where it is no
    more `cleared` what was restricted beside its rows is removed."""

    revision: int
    name: RegisterName
    columns: list[Column] = Field(min_length=1, max_length=100)
    clear: bool = False
    cleared: bool = False


class UnfitCell(BaseModel):
    row: int
    column: str
    said: str
    why: str


class RegisterChanged(BaseModel):
    """The register by now. It was not changed where cells are `unfit`: how many, and the first."""

    register_: Register = Field(alias="register")
    unfit: int
    told: list[UnfitCell]


@router.put("/registers/{id}")
async def put_register(
    id: UUID, body: RegisterIn, context: CurrentContext, account: CurrentAccount
) -> RegisterChanged:
    given = ColumnsGiven(body.revision, body.name, body.columns, body.clear, body.cleared)
    found = await columns.put(context, account, id, given)
    told = [UnfitCell(**vars(one)) for one in found.told]
    return RegisterChanged(register=found.register, unfit=found.unfit, told=told)


class RegisterNamed(BaseModel):
    """The name of the register, written to delete it."""

    name: str = Field(max_length=200)


@router.post("/registers/{id}/removal", status_code=204)
async def remove_register(
    id: UUID, body: RegisterNamed, context: CurrentContext, account: CurrentAccount
) -> None:
    """Delete it for good, with its rows."""
    await registers.remove(context, account, id, body.name)


class MadeOfOut(BaseModel):
    """The questionnaire that was begun, and the columns that it does not ask for."""

    id: UUID
    left_out: list[str]


@router.post("/registers/{id}/questionnaire", status_code=201)
async def make_of_register(id: UUID, context: CurrentContext, account: CurrentAccount) -> MadeOfOut:
    """Begin a questionnaire with a question for each column."""
    made = await registers.make_questionnaire(context, account, id)
    return MadeOfOut(id=made.id, left_out=list(made.left_out))
