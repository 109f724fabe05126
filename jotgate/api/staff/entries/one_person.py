"""What is kept of one person: found, taken out, erased. For owners alone."""

from typing import Annotated
from uuid import UUID

from fastapi import Query
from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entry_words import CalledOut, LinkedOut, linked_out
from jotgate.services.staff.entries import one_person

router = routes("/api/person", "handling")

Email = Annotated[str, Query(max_length=300)]


class RowFoundOut(BaseModel):
    register_id: UUID
    name: str
    row: int


class OnePersonOut(BaseModel):
    """`letters` of mailings and `notices` of rules went to the address; it is `waiting` for so many
    places; `out` tells that nobody may write to it. `unsearched` questionnaires have restricted
    answers that whoever asked has no clearance for."""

    email: str
    contacts: list[CalledOut]
    entries: list[LinkedOut]
    rows: list[RowFoundOut]
    letters: int
    notices: int
    waiting: int
    out: bool
    unsearched: int


@router.get("")
async def find_person(
    email: Email, context: CurrentContext, account: CurrentAccount
) -> OnePersonOut:
    """By a mail address: contacts with it, entries that came by them or say it in an answer, rows
    that were filed from those or say it."""
    found = await one_person.find(context, account, email)
    return OnePersonOut(
        email=found.email,
        contacts=[CalledOut(id=one.id, name=one.called) for one in found.contacts],
        entries=[linked_out(one) for one in found.entries],
        rows=[
            RowFoundOut(register_id=one.register_id, name=one.register, row=one.id)
            for one in found.rows
        ],
        letters=len(found.letters),
        notices=found.notices,
        waiting=found.waiting,
        out=found.out,
        unsearched=found.unsearched,
    )


@router.get("/file", response_class=Response)
async def person_file(email: Email, context: CurrentContext, account: CurrentAccount) -> Response:
    """All of it as one JSON document."""
    made = await one_person.as_file(context, account, email)
    headers = {
        "Content-Disposition": 'attachment; filename="person.json"',
        "Cache-Control": "no-store",
    }
    return Response(made, media_type="application/json", headers=headers)


class EraseIn(BaseModel):
    """The address, typed once more."""

    email: str = Field(max_length=300)
    typed: str = Field(max_length=300)


class ErasedOut(BaseModel):
    """How many of each are gone."""

    contacts: int
    entries: int
    rows: int
    letters: int
    notices: int
    waiting: int


@router.post("/erased")
async def erase_person(
    body: EraseIn, context: CurrentContext, account: CurrentAccount
) -> ErasedOut:
    """For good; that nobody may write to the address stays."""
    return ErasedOut(**await one_person.erase(context, account, body.email, body.typed))
