"""A portion of a round released: its people get their passes, and the first step can go."""

from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.records.rounds import Portion
from jotgate.core.records.work import Work
from jotgate.services import making_passes
from jotgate.services.context import Context
from jotgate.services.rounds.state import kept_round, look_again
from jotgate.services.trail import note
from jotgate.store.base import Connection, joins_many
from jotgate.store.rounds import people, rounds


async def release(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Release the portion that `one` asks for, in the transaction of `conn`. Raises Invalid,
    NotFound, RowsWrong."""
    assert one.questionnaire_id is not None
    id, number = UUID(one.arguments["round_id"]), int(one.arguments["portion"])
    kept = await kept_round(conn, one.questionnaire_id, id, lock=True)
    if number in await rounds.released(conn, kept):
        raise Invalid("This portion was released already.")
    ids = await people.in_portion(conn, kept, number)
    every = len(await rounds.sizes(conn, kept))
    name = kept.round.name if every == 1 else f"{kept.round.name}, portion {number}"
    batch_id = await making_passes.for_contacts(context, conn, one, name, ids)
    now = context.clock.now()
    await rounds.release(conn, kept, Portion(number, now, batch_id))
    async with joins_many(conn):
        await people.give_passes(conn, kept, number, batch_id)
    await look_again(conn, kept, now)
    where = one.questionnaire_id
    await note(context, conn, one.account_id, "round_released", where, name=name, count=len(ids))
    return {"round_id": str(id), "portion": number, "people": len(ids)}
