"""Steps go when their moment has come: letters are made ready, worklists filled."""

from datetime import datetime
from uuid import UUID

from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import StepRun
from jotgate.core.rounds.round import Step
from jotgate.core.rounds.schedule import in_hours
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, look_again, state_of
from jotgate.services.rounds.whom import of_step
from jotgate.services.trail import note
from jotgate.store.base import Connection, joins_many
from jotgate.store.links import mailings, sending
from jotgate.store.rounds import letters, people, rounds, tries


async def go_due(context: Context) -> bool:
    """Have one step go whose moment has come, in one transaction; whether one did, or a round was
    looked at. Two workers never work on the same round at once."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        kept = await rounds.due(conn, now)
        if kept is None:
            return False
        state = await state_of(conn, kept)
        due = [one for one in state.ahead if one.moment is not None and one.moment <= now]
        if due:
            first = min(due, key=lambda one: (one.moment, one.portion))
            await _go(context, conn, state, first.step, first.portion, now)
        await look_again(conn, kept, now)
    return True


async def _go(
    context: Context, conn: Connection, state: RoundState, step: Step, portion: int, now: datetime
) -> None:
    mailing_id: UUID | None = None
    async with joins_many(conn):
        if step.way in ("mail", "paper"):
            mailing_id, asked = await _write(context, conn, state, step, portion, now)
        else:
            asked = await _list(conn, state, step, portion, now)
    run = StepRun(portion, step.key, now, asked, mailing_id)
    await rounds.add_run(conn, state.kept, run)
    await note(
        context,
        conn,
        None,
        "round_step",
        state.kept.questionnaire_id,
        name=f"{state.kept.round.name}: {step.name}",
        count=asked,
    )


async def _write(
    context: Context, conn: Connection, state: RoundState, step: Step, portion: int, now: datetime
) -> tuple[UUID, int]:
    """Make the letters of a step ready, each at the moment that the pace of its receiving domain
    and the office hours of its contact allow; they are asked once more before they go."""
    assert step.text is not None
    kept = state.kept
    found, where = await of_step(conn, state, step, portion, now)
    one = Mailing(
        id=context.ids.id(),
        questionnaire_id=kept.questionnaire_id,
        name=f"{kept.round.name}: {step.name}",
        text=step.text,
        state="sending",
        made=now,
        by=kept.by,
        batch_id=None,
        round_id=kept.id,
        step=step.key,
        way="paper" if step.way == "paper" else "mail",
        kind=kept.round.kind,
    )
    await mailings.add(conn, one)
    zones = await people.zones(conn, kept)
    at = {zone: in_hours(kept.round.hours, zone, now) or now for zone in zones}
    count = await letters.begin(conn, one, found, where, at)
    if one.way == "mail":
        await sending.open_domains(conn, one, now)
    return one.id, count


async def _list(
    conn: Connection, state: RoundState, step: Step, portion: int, now: datetime
) -> int:
    """Put those whom a step goes to on the worklist."""
    kept = state.kept
    found, where = await of_step(conn, state, step, portion, now)
    ids = people.ids_among(found, where)
    times = kept.round.trying.times
    at = {zone: in_hours(times, zone, now) for zone in await people.zones(conn, kept)}
    return await tries.put_on_worklist(conn, kept, ids, step.key, at)
