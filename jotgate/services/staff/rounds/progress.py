"""How a round goes: counted by step and by stratum, with what to expect by its end."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from fractions import Fraction
from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import KeptRound
from jotgate.core.rounds.expected import Brought, Range, expected
from jotgate.core.rounds.rates import FORMULAS, Outcomes, Rate, outcomes
from jotgate.core.rounds.schedule import Planned
from jotgate.core.rounds.standing import (
    Facts,
    Standing,
    disposition,
    reached,
    standing,
)
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, kept_round, state_of
from jotgate.services.rounds.whom import of_step
from jotgate.services.staff.rights import needs
from jotgate.store.base import Connection
from jotgate.store.links import mailings
from jotgate.store.rounds import people, rounds
from jotgate.store.rounds.facts import Moments, counted, known

LATELY = timedelta(days=7)

Counts = Sequence[tuple[Facts, tuple[str, ...], int]]


@dataclass(frozen=True)
class StepCount:
    """How everybody whom a step could go to stood before the next one went, or stands now; how many
    were still open when it went. `letters` counts those of a letter by what became of them."""

    step: str
    asked: int
    stands: Mapping[Standing, int]
    letters: Mapping[str, int]


@dataclass(frozen=True)
class Ahead:
    """A step that is still to go, to so many as they stand now."""

    planned: Planned
    people: int


@dataclass(frozen=True)
class Progress:
    """`drawn` counts those who were drawn, `released` those who have been asked in this round so
    far, `reached` those of them who are known to have been reached; `strata` how each stands, by
    stratum. `lately` is how many answered within seven days."""

    drawn: int
    released: int
    reached: int
    strata: Mapping[str, Mapping[Standing, int]]
    codes: Mapping[str, int]
    steps: Sequence[StepCount]
    ahead: Sequence[Ahead]
    rates: Mapping[Rate, Fraction | None]
    share_eligible: Fraction
    expected: Range | None
    lately: int


async def progress(context: Context, account: Account, id: UUID, round_id: UUID) -> Progress:
    now = context.clock.now()
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        one = state.kept
        counts = await _counts(conn, one, dict.fromkeys(state.released, now))
        before = await _counts(conn, one, dict.fromkeys(state.released, now - LATELY))
        steps = await _steps(conn, state, now)
        ahead = await _ahead(conn, state, now)
        drawn = sum((await rounds.sizes(conn, one)).values())
    codes = Counter[str]()
    for facts, _, count in counts:
        codes[disposition(facts)] += count
    found: Outcomes = outcomes(codes.elements())
    stands = _stands(counts)
    return Progress(
        drawn=drawn,
        released=sum(codes.values()),
        reached=sum(count for facts, _, count in counts if reached(facts)),
        strata=_by_stratum(counts),
        codes=dict(sorted(codes.items())),
        steps=steps,
        ahead=ahead,
        rates={rate: found.rate(rate) for rate in FORMULAS},
        share_eligible=found.share_eligible,
        expected=_expected(stands, steps, ahead),
        lately=stands["answered"] - _stands(before)["answered"],
    )


async def _counts(conn: Connection, one: KeptRound, at: Moments) -> Counts:
    return await counted(conn, known(one, at)) if at else []


def _stands(counts: Counts) -> Counter[Standing]:
    found = Counter[Standing]()
    for facts, _, count in counts:
        found[standing(facts)] += count
    return found


def _by_stratum(counts: Counts) -> dict[str, Counter[Standing]]:
    found: dict[str, Counter[Standing]] = {}
    for facts, (stratum,), count in counts:
        found.setdefault(stratum, Counter())[standing(facts)] += count
    return dict(sorted(found.items()))


async def _steps(conn: Connection, state: RoundState, now: datetime) -> list[StepCount]:
    until = state.until(now)
    sent = await mailings.every(conn, state.kept.questionnaire_id, state.kept.id)
    found = []
    for step in state.kept.round.steps:
        if step.key not in until:
            continue
        stands = _stands(await _counts(conn, state.kept, until[step.key]))
        asked = sum(one.asked for one in state.gone if one.step == step.key)
        told = _letters(one for one in sent if one.step == step.key)
        found.append(StepCount(step.key, asked, dict(stands), told))
    return found


def _letters(sent: Iterable[Mailing]) -> dict[str, int]:
    found = Counter[str]()
    for one in sent:
        for name in ("waiting", "sent", "left_out", "failed"):
            found[name] += getattr(one, name)
    return dict(found)


async def _ahead(conn: Connection, state: RoundState, now: datetime) -> list[Ahead]:
    found = []
    for one in state.ahead:
        where = await of_step(conn, state, one.step, one.portion, now)
        found.append(Ahead(one, await people.count(conn, *where)))
    return found


def _expected(
    stands: Counter[Standing], steps: Sequence[StepCount], ahead: Sequence[Ahead]
) -> Range | None:
    """What the steps brought: of those who had not answered, how many did before the next went."""
    brought, before = [], 0
    for one in steps:
        answered, every = one.stands.get("answered", 0), sum(one.stands.values())
        gained = max(answered - before, 0)
        brought.append(Brought(max(every - before, gained), gained))
        before = answered
    still = stands["open"] + stands["started"]
    left = len({one.planned.step.key for one in ahead if one.people})
    return expected(stands["answered"], still, brought, left) if left else None
