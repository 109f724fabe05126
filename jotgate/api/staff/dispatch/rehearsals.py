"""Rehearsals of dispatch rules: nothing is done."""

from typing import Any
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.dispatch.effects import AnyEffect, effect_out
from jotgate.core.dispatch.effects import Outcome
from jotgate.core.dispatch.rules import Dispatch
from jotgate.services.staff.dispatch import rehearsing
from jotgate.services.staff.dispatch.rehearsing import Typed

router = routes("/api/questionnaires", "dispatch")


class TypedIn(BaseModel):
    """Answers as a visitor sends them, what the visitor arrives with as the query string of a link,
    and facts of the entry by name, such as `entry.language`."""

    answers: dict[str, Any]
    link: str = Field("", max_length=8_000)
    facts: dict[str, bool | str] = Field({}, max_length=20)


class Rehearse(BaseModel):
    """`number` picks a past entry, the newest up to it; without it the newest of all. With `typed`
    it is answers that nobody sent. With a `status` it is the reaching of that one, else it is the
    arrival."""

    dispatch: Dispatch
    status: str = Field("", max_length=40)
    number: int | None = None
    typed: TypedIn | None = None


class Rehearsal(BaseModel):
    """`outcomes` says of each rule by key, and of `otherwise`, what came of it; `number` is that of
    the entry, null for typed answers, `earlier` and `later` those of the entries beside it."""

    number: int | None
    earlier: int | None
    later: int | None
    caught_by: str | None
    outcomes: dict[str, Outcome]
    effects: list[AnyEffect]


@router.post("/{id}/rehearsals")
async def rehearse(
    id: UUID, body: Rehearse, context: CurrentContext, account: CurrentAccount
) -> Rehearsal:
    rules = body.dispatch.reaching(body.status) if body.status else body.dispatch
    if body.typed is None:
        found = await rehearsing.rehearse(context, account, id, rules, body.number)
    else:
        typed = Typed(**vars(body.typed))
        found = await rehearsing.rehearse_typed(context, account, id, rules, typed)
    return Rehearsal(
        number=found.number,
        earlier=found.beside[0],
        later=found.beside[1],
        caught_by=found.planned.caught_by,
        outcomes=dict(found.planned.outcomes),
        effects=[effect_out(effect) for effect in found.effects],
    )
