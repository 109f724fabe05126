"""Rounds written: made, changed, taken away, stopped and let go on."""

from dataclasses import replace
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, Stale
from jotgate.core.contacts.contact import Contact
from jotgate.core.mailing import Composed
from jotgate.core.records.accounts import Account
from jotgate.core.records.rounds import KeptRound
from jotgate.core.records.rounds import RoundState as State
from jotgate.core.rounds.faults import changed_faults, drawn_faults
from jotgate.core.rounds.round import Round
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, kept_round, look_again, state_of
from jotgate.services.staff.links.mailings import example
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.rounds import letters, rounds

MOST = 200


async def may_change(conn: Connection, account: Account, id: UUID) -> None:
    """Raise what keeps `account` from changing rounds: they reach contacts."""
    in_office(account, "reach")
    await needs(conn, account, "write", id)


async def every(context: Context, account: Account, id: UUID) -> list[KeptRound]:
    """The newest first."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await rounds.every(conn, id)


async def make(context: Context, account: Account, id: UUID, round: Round) -> UUID:
    """A new round as it is written; nothing goes before people are drawn. Raises Invalid."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        there(await questionnaires.summary(conn, id))
        if len(await rounds.every(conn, id)) >= MOST:
            raise Invalid(f"There can be at most {MOST} rounds.")
        one = KeptRound(context.ids.id(), id, round, 1, "draft", context.clock.now(), account.id)
        await rounds.add(conn, one)
        await _noted(context, conn, account, one, "made")
    return one.id


async def _noted(
    context: Context, conn: Connection, account: Account, one: KeptRound, state: str
) -> None:
    where = one.questionnaire_id
    await note(context, conn, account.id, "round_changed", where, name=one.round.name, state=state)


async def read(context: Context, account: Account, id: UUID, round_id: UUID) -> RoundState:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await state_of(conn, await kept_round(conn, id, round_id))


async def save(
    context: Context, account: Account, id: UUID, round_id: UUID, revision: int, round: Round
) -> RoundState:
    """Change a round; what is wrong with it is told with it, and keeps only that from going.
    Raises Stale over a newer version, Invalid where something that went is to be changed."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        if one.revision != revision:
            raise Stale("Somebody changed this round in the meantime.", current=one.round)
        begun = frozenset(run.step for run in await rounds.gone(conn, one))
        wrong = list(changed_faults(one.round, round, begun))
        if one.drawn is not None:
            wrong += drawn_faults(one.round, round)
        if wrong:
            raise Invalid(wrong[0].message, wrong)
        changed = replace(one, round=round, revision=revision + 1)
        await rounds.put(conn, changed)
        await _noted(context, conn, account, changed, "changed")
        return await look_again(conn, changed, context.clock.now())


async def remove(context: Context, account: Account, id: UUID, round_id: UUID) -> None:
    """Take away a round of which nobody was drawn yet. Raises Invalid, NotFound."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        if one.drawn is not None:
            raise Invalid("People were drawn for this round: it stays. Stop it instead.")
        await rounds.remove(conn, one)
        await _noted(context, conn, account, one, "removed")


async def stop(
    context: Context, account: Account, id: UUID, round_id: UUID, stopped: bool
) -> RoundState:
    """Stop everything of a round at once, letters that wait too, or let all of it go on. Raises
    Invalid where it stands so already."""
    before: State = "running" if stopped else "stopped"
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        if one.state != before:
            message = "It is stopped already." if stopped else "It is not stopped."
            raise Invalid(message, [Fault(code="state", at="stopped", message=message)])
        after: State = "stopped" if stopped else "running"
        await rounds.put_state(conn, one, after)
        await letters.hold(conn, id, round_id, stopped)
        changed = replace(one, state=after)
        await _noted(context, conn, account, changed, "stopped" if stopped else "going_on")
        return await look_again(conn, changed, context.clock.now())


async def preview(
    context: Context, account: Account, id: UUID, round: Round, step: str, whom: UUID | None
) -> tuple[Contact, Composed]:
    """The letter of a step as somebody reads it, or as an example would, and who that is. Raises
    Invalid."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        summary = there(await questionnaires.summary(conn, id))
        known = await contacts.find(conn, whom) if whom else None
    found = round.step(step)
    if found is None or found.text is None:
        raise Invalid("This step has no letter.")
    return example(context, summary, found.text, known)
