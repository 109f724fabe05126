"""Other systems that rules may call."""

from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.dispatch.known import Hook
from jotgate.services.staff.dispatch import hooks

router = routes("/api/questionnaires/{id}/hooks", "dispatch")


class HookIn(BaseModel):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    address: str = Field(min_length=1, max_length=2_000)
    cleared: bool = False


class HookOut(BaseModel):
    """One that is `cleared` is told what is restricted too."""

    id: UUID
    name: str
    address: str
    cleared: bool


class NewSecretOut(HookOut):
    """`secret` is shown once."""

    secret: str


def _hook(hook: Hook) -> HookOut:
    return HookOut(**vars(hook))


def _new(made: hooks.NewSecret) -> NewSecretOut:
    return NewSecretOut(**vars(made.hook), secret=made.secret)


@router.get("")
async def every_hook(id: UUID, context: CurrentContext, account: CurrentAccount) -> list[HookOut]:
    return [_hook(one) for one in (await hooks.every(context, account, id)).values()]


@router.post("", status_code=201)
async def add_hook(
    id: UUID, body: HookIn, context: CurrentContext, account: CurrentAccount
) -> NewSecretOut:
    return _new(await hooks.add(context, account, id, body.name, body.address, body.cleared))


@router.put("/{hook_id}")
async def change_hook(
    id: UUID, hook_id: UUID, body: HookIn, context: CurrentContext, account: CurrentAccount
) -> HookOut:
    told = (body.name, body.address, body.cleared)
    return _hook(await hooks.change(context, account, id, hook_id, *told))


@router.post("/{hook_id}/secret", status_code=201)
async def new_secret(
    id: UUID, hook_id: UUID, context: CurrentContext, account: CurrentAccount
) -> NewSecretOut:
    """The one before is good for a day more."""
    return _new(await hooks.rotate(context, account, id, hook_id))


@router.delete("/{hook_id}", status_code=204)
async def remove_hook(
    id: UUID, hook_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    """Not while a rule calls it."""
    await hooks.remove(context, account, id, hook_id)
