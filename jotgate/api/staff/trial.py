"""Trying a draft, decided as on the public page."""

from typing import Any
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.given import GivenAccount, GivenHouse
from jotgate.api.public.answering import FinishOut, PageIn, PageOut, finish_out, page_out
from jotgate.api.routes import routes
from jotgate.core.walking.next_page import FinishAhead
from jotgate.services import trying

router = routes("/api/questionnaires/{id}/trial", "trial")


@router.post("/page", response_model_exclude_defaults=True)
async def trial_page(
    id: UUID, body: PageIn, house: GivenHouse, account: GivenAccount
) -> PageOut | FinishOut:
    """The next page; at the end what the finish says, and nothing is stored."""
    visitor, ahead = await trying.page(house, id, body.core(), body.move, body.at, body.touched)
    if isinstance(ahead, FinishAhead):
        return finish_out(trying.ending_of(visitor, ahead))
    return page_out(visitor, ahead)


class MadeUpIn(BaseModel):
    """`seed` chooses among the answers that could be made up."""

    link: str = Field("", max_length=8000)
    page: str = Field(max_length=40)
    seed: int = Field(ge=0, le=2**31)


class MadeUpOut(BaseModel):
    revision: int
    page: str
    answers: dict[str, Any]


@router.post("/answers")
async def trial_answers(
    id: UUID, body: MadeUpIn, house: GivenHouse, account: GivenAccount
) -> MadeUpOut:
    """Made-up answers of all pages up to one and on it; 404 where none are found."""
    made = await trying.made_up(house, id, body.link, body.page, body.seed)
    return MadeUpOut(revision=made.revision, page=made.page, answers=made.answers)
