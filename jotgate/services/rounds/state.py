"""A round with all that decides what goes next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.common.errors import Fault, NotFound
from jotgate.core.records.rounds import KeptRound, StepRun
from jotgate.core.rounds.faults import Around, faulty_steps, people_faults, step_faults
from jotgate.core.rounds.schedule import Planned, Run, planned
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, lists
from jotgate.store.rounds import rounds

GONE = "There is no such round."


@dataclass(frozen=True)
class RoundState:
    """`released` says when each portion was released, `gone` which steps went, `ahead` when those
    that did not will; `faults` are those of the steps and, before the draw, of the people."""

    kept: KeptRound
    zone: str
    around: Around
    faults: tuple[Fault, ...]
    released: Mapping[int, datetime]
    gone: Sequence[StepRun]
    ahead: Sequence[Planned]

    @property
    def begun(self) -> dict[Run, datetime]:
        return {(one.portion, one.step): one.began for one in self.gone}

    def until(self, now: datetime) -> dict[str, dict[int, datetime]]:
        """Of each step that went, until when it was the last one, by portion."""
        found: dict[str, dict[int, datetime]] = {}
        order = {one.key: number for number, one in enumerate(self.kept.round.steps)}
        for portion, step in self.begun:
            later = [
                began
                for (other, key), began in self.begun.items()
                if other == portion and order.get(key, 0) > order.get(step, 0)
            ]
            found.setdefault(step, {})[portion] = min(later, default=now)
        return found

    @property
    def next_at(self) -> datetime | None:
        return min((one.moment for one in self.ahead if one.moment), default=None)


async def kept_round(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> KeptRound:
    """A round; with `lock` nobody else changes it until the transaction ends. Raises NotFound."""
    found = await rounds.find(conn, questionnaire_id, id, lock)
    if found is None:
        raise NotFound(GONE)
    return found


async def around(conn: Connection, questionnaire_id: UUID) -> tuple[Around, str]:
    """What the rounds of a questionnaire speak of, and its time zone. Raises NotFound."""
    summary = await questionnaires.summary(conn, questionnaire_id)
    if summary is None:
        raise NotFound(GONE)
    fields = await contacts.fields(conn)
    known = frozenset(str(id) for id in await lists.names(conn))
    return Around(fields, tuple(summary.languages), known), summary.zone


async def state_of(conn: Connection, kept: KeptRound) -> RoundState:
    about, zone = await around(conn, kept.questionnaire_id)
    wrong = list(step_faults(kept.round, about))
    released = await rounds.released(conn, kept)
    gone = await rounds.gone(conn, kept)
    begun = {(one.portion, one.step): one.began for one in gone}
    ahead = planned(kept.round, zone, released, begun, faulty_steps(iter(wrong)))
    people = [] if kept.drawn else list(people_faults(kept.round, about))
    return RoundState(kept, zone, about, (*people, *wrong), released, gone, ahead)


LOOKED_AT = timedelta(minutes=10)
"""After so long the worker looks again at a round of which something is still to go: what its steps
speak of changes elsewhere, such as fields of contacts and languages of the questionnaire."""


async def look_again(conn: Connection, kept: KeptRound, now: datetime) -> RoundState:
    """Note when to look at a round next: when a step is to go, as things stand now, or soon."""
    state = await state_of(conn, kept)
    soon = now + LOOKED_AT
    at = min(state.next_at or soon, soon) if state.ahead else None
    await rounds.look_at(conn, kept, at)
    return state
