"""The question bank."""

from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.items import AnyQuestion
from jotgate.core.records.questionnaires import Banked
from jotgate.services.staff import bank

router = routes("/api/bank", "bank")


class BankedOut(BaseModel):
    """A question of the bank; `revision` counts its wordings."""

    id: UUID
    revision: int
    item: AnyQuestion


class NewBanked(BaseModel):
    item: AnyQuestion


class ChangeBanked(NewBanked):
    """Another wording, made from the one at `revision`."""

    revision: int = Field(ge=1)


def _out(one: Banked) -> BankedOut:
    return BankedOut(id=one.id, revision=one.revision, item=one.item)


@router.get("")
async def every_banked(context: CurrentContext, account: CurrentAccount) -> list[BankedOut]:
    """All questions of the bank, those changed last first."""
    return [_out(one) for one in await bank.every(context, account)]


@router.post("", status_code=201)
async def add_banked(
    body: NewBanked, context: CurrentContext, account: CurrentAccount
) -> BankedOut:
    """Keep a question; conditions and checks across answers stay where they were."""
    return _out(await bank.add(context, account, body.item))


@router.put("/{id}")
async def change_banked(
    id: UUID, body: ChangeBanked, context: CurrentContext, account: CurrentAccount
) -> BankedOut:
    return _out(await bank.change(context, account, id, body.item, body.revision))


@router.delete("/{id}", status_code=204)
async def remove_banked(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    """Take it out of the bank; questionnaires that use it keep their wording."""
    await bank.remove(context, account, id)
