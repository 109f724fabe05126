"""A replay as work: the entries that are meant, one after the other."""

from collections import Counter
from collections.abc import AsyncIterator, Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from jotgate.core.conditions.condition import Condition
from jotgate.core.records.work import Work
from jotgate.services.context import Context
from jotgate.services.dispatch.replaying import Wanted, replay_entry
from jotgate.services.stopping import is_stopped
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.entries import entries

_CONDITION: TypeAdapter[Condition | None] = TypeAdapter(Condition | None)


@dataclass(frozen=True)
class Which:
    """Which entries are replayed: those with these numbers, or every one where there are none, of
    which a condition is true."""

    numbers: frozenset[int] = frozenset()
    when: Condition | None = None

    def as_json(self) -> dict[str, Any]:
        when = _CONDITION.dump_python(self.when, mode="json")
        return {"numbers": sorted(self.numbers), "when": when}

    @classmethod
    def from_json(cls, said: Mapping[str, Any]) -> "Which":
        return cls(frozenset(said["numbers"]), _CONDITION.validate_python(said["when"]))


AT_ONCE = 200
"""Entries that are read at once."""


async def replay(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Replay what was asked for, an entry after the other, each in a transaction of its own: what
    was done counts where it ends early. Done once more it does nothing twice. Raises RowsWrong."""
    assert one.questionnaire_id is not None
    id, said = one.questionnaire_id, one.arguments
    which = Which.from_json(said["which"])
    wanted = Wanted(frozenset(said["kinds"]), bool(said["take_out"]))
    looked, touched, counts = 0, 0, Counter[str]()
    async for entry_id in _meant(conn, id, which):
        looked += 1
        made = await replay_entry(context, id, entry_id, wanted, which.when, said["revision"])
        touched += bool(made)
        counts.update("failed" if run.state == "failed" else run.kind for run in made)
        if looked % 20 == 0 and await is_stopped(context, one.id, looked):
            return await _told(context, conn, one, touched, counts, stopped=True)
    return await _told(context, conn, one, touched, counts, stopped=False)


async def _meant(conn: Connection, id: UUID, which: Which) -> AsyncIterator[UUID]:
    """The ids of the entries with the numbers of `which`, or of every one, the newest first."""
    if which.numbers:
        numbers = sorted(which.numbers, reverse=True)
        for at in range(0, len(numbers), AT_ONCE):
            for entry in await entries.numbered(conn, id, numbers[at : at + AT_ONCE]):
                yield entry.id
        return
    before: int | None = None
    while found := await entries.newest(conn, id, before, AT_ONCE):
        for entry in found:
            yield entry.id
        before = found[-1].number


async def _told(
    context: Context,
    conn: Connection,
    one: Work,
    touched: int,
    counts: Mapping[str, int],
    stopped: bool,
) -> dict[str, object]:
    if touched:
        at = one.questionnaire_id
        await note(context, conn, one.account_id, "replayed", at, entries=touched)
    return {"entries": touched, "stopped": stopped, **counts}
