"""Registers and their rows."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries import ThingOut, thing_out
from jotgate.core.records.dispatch import Row
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
        rows=[_row(row) for row in found.rows],
        more=found.more,
    )


class RowChangeOut(BaseModel):
    """What was changed of a row, by somebody or by the rule of an entry; it was filed where
    `before` is null. Cells that were or became empty are not there."""

    at: datetime
    who: str
    rule: str
    entry_number: int | None
    before: dict[str, Cell] | None
    after: dict[str, Cell]


class RowRead(BaseModel):
    """A row with what became of it, the last first. `questionnaire_id` and `entry_id` lead to where
    it came from, where one may see that; `gone` tells that the entry was deleted."""

    row: RegisterRowOut
    columns: list[Column]
    changes: list[RowChangeOut]
    questionnaire_id: UUID | None
    entry_id: UUID | None
    gone: bool


@router.get("/registers/{id}/rows/{row_id}")
async def register_row(
    id: UUID, row_id: int, context: CurrentContext, account: CurrentAccount
) -> RowRead:
    found = await registers.row(context, account, id, row_id)
    source = found.source or (None, None)
    return RowRead(
        row=_row(found.row),
        columns=list(found.register.columns),
        changes=[
            RowChangeOut(
                at=one.at,
                who=found.names.get(one.account_id, "") if one.account_id else "",
                rule=one.rule,
                entry_number=one.entry_number,
                before=None if one.before is None else dict(one.before),
                after=dict(one.after),
            )
            for one in found.changes
        ],
        questionnaire_id=source[0],
        entry_id=source[1],
        gone=found.gone,
    )


def _row(row: Row) -> RegisterRowOut:
    return RegisterRowOut(**{**vars(row), "about": thing_out(row.about)})
