"""Trying a draft, decided as on the public page."""

from uuid import UUID

from fastapi import APIRouter

from jotgate.api.given import GivenAccount, GivenHouse
from jotgate.api.problems import PROBLEMS
from jotgate.api.public.answering import FinishOut, PageIn, PageOut, finish_out, page_out
from jotgate.core.path import FinishAhead
from jotgate.services import trying

router = APIRouter(prefix="/api/questionnaires/{id}/trial", tags=["trial"], responses=PROBLEMS)


@router.post("/page", response_model_exclude_defaults=True)
async def trial_page(
    id: UUID, body: PageIn, house: GivenHouse, account: GivenAccount
) -> PageOut | FinishOut:
    """The next page; at the end what the finish says, and nothing is stored."""
    visitor, ahead = await trying.page(house, id, body.core(), body.move, body.at, body.touched)
    if isinstance(ahead, FinishAhead):
        return finish_out(visitor.plan, ahead.walk.finish, visitor.language)
    return page_out(visitor, ahead)
