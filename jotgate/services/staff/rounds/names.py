"""Who is behind the numbers of a round, by name, with what was tried and what comes next."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.records.rounds import Asked, Attempt
from jotgate.core.rounds.schedule import Run
from jotgate.core.rounds.standing import (
    Standing,
    concerns,
    disposition,
    standing,
)
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, kept_round, state_of
from jotgate.services.rounds.whom import of_step, only_those
from jotgate.services.staff.rights import in_office, needs
from jotgate.store.base import Connection
from jotgate.store.rounds import letters, people, tries
from jotgate.store.rounds.facts import Known, counted, known

PER_PAGE = 50


@dataclass(frozen=True)
class Named:
    """Somebody in a round: how they stand, by which code, what was tried so far, and what comes
    next, a step at a moment."""

    asked: Asked
    number: int
    stands: Standing
    code: str
    letters: Sequence[letters.StepLetter]
    attempts: Sequence[Attempt]
    next_step: str
    next_at: datetime | None


@dataclass(frozen=True)
class Which:
    """Those who are meant: who stand so, with this code, in this stratum; as they stood before the
    step after `after_step` went; or those to whom the step `ahead` will go in a portion."""

    stands: Standing | None = None
    code: str = ""
    stratum: str | None = None
    after_step: str = ""
    ahead: str = ""
    portion: int = 1
    behind: int = 0


async def names(
    context: Context, account: Account, id: UUID, round_id: UUID, which: Which
) -> tuple[list[Named], bool]:
    """Those who are meant, in the order of the draw, and whether there are more."""
    in_office(account, "reach")
    now = context.clock.now()
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        found, where = await _meant(conn, state, which, now)
        if found is None:
            return [], False
        rows = await people.page(conn, found, where, which.behind, PER_PAGE + 1)
        return await _named(conn, state, rows[:PER_PAGE], now), len(rows) > PER_PAGE


async def _meant(
    conn: Connection, state: RoundState, which: Which, now: datetime
) -> tuple[Known | None, Any]:
    step = state.kept.round.step(which.ahead)
    if step is not None:
        return await of_step(conn, state, step, which.portion, now)
    at = dict.fromkeys(state.released, now)
    if which.after_step:
        at = state.until(now).get(which.after_step, {})
    if not at:
        return None, None
    found = known(state.kept, at)
    wanted = {
        facts
        for facts, _, _ in await counted(conn, found)
        if (which.stands is None or standing(facts) == which.stands)
        and (not which.code or disposition(facts) == which.code)
    }
    return found, people.in_stratum(found, wanted, which.stratum)


async def _named(
    conn: Connection, state: RoundState, rows: Sequence[tuple[int, Asked]], now: datetime
) -> list[Named]:
    fits = await _fitting(conn, state, (asked.portion for _, asked in rows), now)
    one, ids = state.kept, [asked.contact_id for _, asked in rows]
    wrote: dict[UUID, list[letters.StepLetter]] = {}
    for sent in await letters.of_people(conn, one.questionnaire_id, one.id, ids):
        wrote.setdefault(sent.letter.contact_id, []).append(sent)
    tried: dict[UUID, list[Attempt]] = {}
    for attempt in await tries.attempts_of(conn, one, ids):
        tried.setdefault(attempt.contact_id, []).append(attempt)
    return [
        Named(
            asked,
            number,
            standing(asked.facts),
            disposition(asked.facts),
            wrote.get(asked.contact_id, []),
            tried.get(asked.contact_id, []),
            *_next(state, asked, fits),
        )
        for number, asked in rows
    ]


async def _fitting(
    conn: Connection, state: RoundState, portions: Iterable[int], now: datetime
) -> dict[Run, set[UUID]]:
    """Of whom the conditions of the steps ahead are true, where they have one."""
    found: dict[Run, set[UUID]] = {}
    wanted = set(portions)
    for one in state.ahead:
        if one.step.only is not None and one.portion in wanted:
            ids = await only_those(conn, state, one.step, one.portion, now)
            found[one.portion, one.step.key] = set(ids or ())
    return found


def _next(
    state: RoundState, asked: Asked, fits: Mapping[Run, set[UUID]]
) -> tuple[str, datetime | None]:
    """What comes next for somebody: when they are up on a worklist, or a step that will go to them
    as they stand."""
    step = state.kept.round.step(asked.on_step)
    if step is not None and asked.next_try is not None and concerns(step, asked.facts):
        return step.key, asked.next_try
    for one in state.ahead:
        if one.portion != asked.portion or not concerns(one.step, asked.facts):
            continue
        only = fits.get((one.portion, one.step.key))
        if only is None or asked.contact_id in only:
            return one.step.key, one.moment
    return "", None


async def person(
    context: Context, account: Account, id: UUID, round_id: UUID, contact_id: UUID
) -> Named:
    """One of them with all that happened. Raises NotFound."""
    in_office(account, "reach")
    now = context.clock.now()
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        return await named_one(conn, state, contact_id, now)


async def named_one(conn: Connection, state: RoundState, contact_id: UUID, now: datetime) -> Named:
    """Raises NotFound."""
    found = known(state.kept, dict.fromkeys(state.released or [1], now), contact_id)
    rows = await people.page(conn, found, people.anybody(), 0, 1)
    if not rows:
        raise NotFound("They are not asked in this round.")
    return (await _named(conn, state, rows, now))[0]
