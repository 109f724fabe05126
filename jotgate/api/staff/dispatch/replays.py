"""Replay: what it would do, having it done, and stopping it."""

from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.dispatch.effects import AnyEffect, effect_out
from jotgate.api.staff.entries.entry_acts import ChoiceIn
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.core.conditions.condition import Condition
from jotgate.core.records.dispatch import RunKind
from jotgate.services.staff.dispatch import replays
from jotgate.services.staff.dispatch.replays import Extent

router = routes("/api/questionnaires/{id}/dispatch/replay", "dispatch")


class ReplayOf(BaseModel):
    """Entries that are `chosen`, or every one where that is null, of which `when` is true."""

    chosen: ChoiceIn | None = None
    when: Condition | None = None

    def extent(self) -> Extent:
        return Extent(self.chosen.choice() if self.chosen else None, self.when)


class ReplayLook(ReplayOf):
    """Which entries; those with a number under `before` where that is given."""

    before: int | None = None


class RowLeft(BaseModel):
    """A row that was filed and that no rule would file any more."""

    register_id: UUID
    row: int


class EntryLeft(BaseModel):
    """What a replay would do with an entry."""

    id: UUID
    number: int
    effects: list[AnyEffect]
    rows: list[RowLeft]


class ReplayLooked(BaseModel):
    """Among so many entries that were looked at; older ones follow before `next`."""

    looked_at: int
    entries: list[EntryLeft]
    next: int | None


@router.post("/look")
async def look_at_replay(
    id: UUID, body: ReplayLook, context: CurrentContext, account: CurrentAccount
) -> ReplayLooked:
    """What the rules in force would still do with past entries. Nothing is done."""
    found = await replays.look(context, account, id, body.extent(), body.before)
    return ReplayLooked(
        looked_at=found.looked_at,
        next=found.next,
        entries=[
            EntryLeft(
                id=one.id,
                number=one.number,
                effects=[effect_out(effect) for effect in one.todo],
                rows=[RowLeft(register_id=register, row=row) for register, row in one.rows],
            )
            for one in found.found
        ],
    )


class ReplayIn(ReplayOf):
    """Which entries, and which kinds of effects are carried out; with `take_out` rows that no rule
    would file any more are taken out of their registers. `revision` is of the rules."""

    kinds: list[RunKind] = Field(max_length=8)
    take_out: bool = False
    revision: int


@router.post("", status_code=202)
async def replay(
    id: UUID, body: ReplayIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    extent, kinds = body.extent(), body.kinds
    asked = await replays.ask(context, account, id, extent, kinds, body.take_out, body.revision)
    return work_out(asked)


@router.get("/{work_id}")
async def replay_progress(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await replays.progress(context, account, id, work_id))


@router.post("/{work_id}/stop", status_code=204)
async def stop_replay(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await replays.stop(context, account, id, work_id)
