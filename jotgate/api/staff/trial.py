"""Trying a draft, decided as on the public page."""

from typing import Any
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.public.answering import FinishOut, PageIn, PageOut, finish_out, page_out
from jotgate.api.routes import routes
from jotgate.core.walking.next_page import NextFinish
from jotgate.services.staff import trial

router = routes("/api/questionnaires/{id}/trial", "trial")


@router.post("/page", response_model_exclude_defaults=True)
async def trial_page(
    id: UUID, body: PageIn, context: CurrentContext, account: CurrentAccount
) -> PageOut | FinishOut:
    """The next page; at the end what the finish says, and nothing is stored."""
    visitor, following = await trial.page(context, account, id, body.core(), body.turn())
    if isinstance(following, NextFinish):
        return finish_out(trial.ending_of(visitor, following))
    return page_out(visitor, following)


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
    id: UUID, body: MadeUpIn, context: CurrentContext, account: CurrentAccount
) -> MadeUpOut:
    """Made-up answers of all pages up to one and on it; 404 where none are found."""
    made = await trial.made_up(context, account, id, body.link, body.page, body.seed)
    return MadeUpOut(revision=made.revision, page=made.page, answers=made.answers)
