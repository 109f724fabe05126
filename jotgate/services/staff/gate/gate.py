"""The gate at the desk: what is set for it, one by one or many at once."""

from collections.abc import Sequence
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.gate.faults import faults_of
from jotgate.core.gate.settings import Gate, State
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Saved
from jotgate.services import waiting_list
from jotgate.services.context import Context
from jotgate.services.staff.gate.recounting import count_anew, is_counted_otherwise
from jotgate.services.staff.many import Changed, each
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import tallies
from jotgate.store.gate import places, versions, waiting
from jotgate.store.gate.waiting import Waiting


async def find(context: Context, account: Account, id: UUID) -> Saved[Gate]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return there(await questionnaires.gate(conn, id))


async def save(
    context: Context, account: Account, id: UUID, value: Gate, revision: int
) -> Saved[Gate]:
    """Save the gate over the `revision` that it was read at. Only a published one can be opened.

    Once it is saved nobody is let in by what was known before, in whatever process. Raises Invalid,
    Stale.
    """
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        return await put(context, conn, account.id, id, value, revision)


async def put(
    context: Context, conn: Connection, by: UUID, id: UUID, value: Gate, revision: int
) -> Saved[Gate]:
    """Save the gate, with everything that follows from that, in the transaction of `conn`."""
    now = context.clock.now()
    found = there(await questionnaires.summary(conn, id))
    if value.state == "open" and found.edition is None:
        fault = Fault(code="not_published", at="state", message="Publish it first.")
        raise Invalid("Nothing has been published that people could answer.", [fault])
    before = there(await questionnaires.gate(conn, id)).value
    plan = await context.plan(conn, id, found.edition) if found.edition else None
    statuses = there(await questionnaires.handling(conn, id)).value.keys
    faults = faults_of(value, plan, statuses)
    if faults:
        raise Invalid("The gate cannot be saved like this.", faults)
    since = before.since if before.state == value.state else now
    value = value.model_copy(update={"since": since})
    saved = await save_part(conn, id, "gate", value, revision, questionnaires.gate)
    anew = is_counted_otherwise(before, value)
    if anew:
        # Places before the tally, as submissions lock them.
        await places.locked(conn, id)
    await tallies.renew(conn, id, saved.revision)
    await versions.add(conn, id, saved.revision, value, now, by)
    if anew:
        await count_anew(context, conn, id, value)
    await note(context, conn, by, "gate_changed", id, state=value.state)
    return saved


MOST_WAITING = 500
"""People on a waiting list who are shown."""


async def waiting_for(context: Context, account: Account, id: UUID) -> list[Waiting]:
    """Who waits for a place, or was offered one, in their order."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        return await waiting.every(conn, id, MOST_WAITING)


async def take_off(context: Context, account: Account, id: UUID, waiting_id: UUID) -> None:
    """Take somebody off the waiting list. Raises NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        saved = there(await questionnaires.gate(conn, id))
        there(await waiting_list.leave(conn, saved.value, id, waiting_id) or None)


async def change_many(
    context: Context, account: Account, ids: Sequence[UUID], state: State, note: str
) -> list[Changed]:
    """Open, hold or shut many, each for itself: what one cannot change stays as it was."""

    async def change(id: UUID) -> None:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            saved = there(await questionnaires.gate(conn, id))
            if saved.value.state == state and saved.value.note == note:
                return
            value = saved.value.model_copy(update={"state": state, "note": note})
            await put(context, conn, account.id, id, value, saved.revision)

    return await each(ids, change)
