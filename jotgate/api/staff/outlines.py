"""Outlines read as typed questions, before they are added to a draft."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.given import GivenAccount
from jotgate.api.problems import PROBLEMS
from jotgate.core.items import Item, Key
from jotgate.core.outline import LONGEST, jot
from jotgate.core.wording import Language

router = APIRouter(prefix="/api/outlines", tags=["outlines"], responses=PROBLEMS)


class OutlineIn(BaseModel):
    """`taken` are keys that the new questions may not have."""

    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    language: Language
    taken: list[Key] = Field(max_length=50_000)


class JottedOut(BaseModel):
    line: int
    why: str
    item: Item


class JottedPageOut(BaseModel):
    title: str
    items: list[JottedOut]


class JotOut(BaseModel):
    pages: list[JottedPageOut]
    remarks: list[str]


@router.post("")
async def outline(body: OutlineIn, account: GivenAccount) -> JotOut:
    """The questions of an outline, each with why it is taken for its kind."""
    found = jot(body.text, body.language, frozenset(body.taken))
    return JotOut(
        pages=[
            JottedPageOut(
                title=page.title,
                items=[JottedOut(line=one.line, why=one.why, item=one.item) for one in page.items],
            )
            for page in found.pages
        ],
        remarks=list(found.remarks),
    )
