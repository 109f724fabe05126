"""Outlines read as typed questions, before they are added to a draft."""

from typing import Annotated

from fastapi.responses import Response
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.wording import Language
from jotgate.core.items import Item, Key
from jotgate.core.outline import LONGEST, jotted_json

router = routes("/api/outlines", "outlines")


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


class LeftLineOut(BaseModel):
    """A line of which something is in nothing that is proposed."""

    line: int
    words: str


class JotOut(BaseModel):
    pages: list[JottedPageOut]
    remarks: list[str]
    left: list[LeftLineOut]


@router.post("", response_model=JotOut)
async def outline(body: OutlineIn, context: CurrentContext, account: CurrentAccount) -> Response:
    """The questions of an outline, each with why it is taken for its kind."""
    found = await context.apart(jotted_json, body.text, body.language, frozenset(body.taken))
    return Response(found, media_type="application/json")
