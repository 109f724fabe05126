"""Who must not be written to."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Query
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.services.staff.contacts import no_letters

router = routes("/api/no-letters", "contacts")


class NoLetterOut(BaseModel):
    """An address that nothing goes to; `told` is where that came from, empty for a letter's own way
    to opt out."""

    email: str
    at: datetime
    told: str


class NoLettersOut(BaseModel):
    """`count` is how many there are in all."""

    found: list[NoLetterOut]
    more: bool
    count: int


@router.get("")
async def no_letters_page(
    context: CurrentContext,
    account: CurrentAccount,
    words: Annotated[str, Query(max_length=200)] = "",
    after: Annotated[str, Query(max_length=254)] = "",
) -> NoLettersOut:
    """A hundred addresses with these words in them."""
    found = await no_letters.page(context, account, words, after)
    lines = [NoLetterOut(email=one.email, at=one.at, told=one.told) for one in found.found]
    return NoLettersOut(found=lines, more=found.more, count=found.count)


class NoLetterIn(BaseModel):
    email: str = Field(max_length=254)
    out: bool


@router.put("")
async def set_no_letters(body: NoLetterIn, context: CurrentContext, account: CurrentAccount) -> str:
    """Have no letter go to an address, or letters again; the address as it is kept."""
    return await no_letters.put(context, account, body.email, body.out)


class NoLettersIn(BaseModel):
    """`column` is the number, from 0, of the column that has the addresses."""

    table_id: UUID
    column: int


@router.post("/bring", status_code=202)
async def bring_no_letters(
    body: NoLettersIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await no_letters.bring(context, account, body.table_id, body.column))
