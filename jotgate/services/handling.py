"""Changing where an entry stands, and what that frees at the gate or takes again."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid, NoPlace, NotFound
from jotgate.core.entries.entry import Entry
from jotgate.core.gate.places import NONE, Counts, Take, cell_parts, fits, most_of
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import Care
from jotgate.services.context import Context
from jotgate.services.trail import note
from jotgate.store import entries, questionnaires
from jotgate.store.base import Connection
from jotgate.store.care import names
from jotgate.store.gate import admissions, places
from jotgate.store.gate.admissions import Admission


@dataclass(frozen=True)
class Change:
    """What is to be: a status, empty for none, whether it is archived, or who takes care of it;
    None leaves it."""

    status: str | None = None
    archived: bool | None = None
    care: Care | None = None


async def change_entry(
    context: Context,
    conn: Connection,
    account_id: UUID | None,
    id: UUID,
    entry_id: UUID,
    change: Change,
) -> None:
    """Change one, for somebody or by a rule. The gate stays as it is meanwhile, and has to be kept
    before an entry is locked; that is locked before its places. Raises Invalid, NoPlace, NotFound.
    """
    gate = await questionnaires.gate(conn, id, keep=True)
    handling = await questionnaires.handling(conn, id)
    entry = await entries.entry(conn, id, entry_id, lock=True)
    if gate is None or handling is None or entry is None:
        raise NotFound("There is no such entry.")
    if change.status and change.status not in handling.value.keys:
        raise Invalid("There is no such status.")
    taken = await admissions.of_entry(conn, id, entry_id)
    status = entry.status if change.status is None else change.status
    archived = entry.archived
    if change.archived is not None and change.archived != (archived is not None):
        archived = context.clock.now() if change.archived else None
    before = Care(entry.carer_id, entry.care_team_id)
    care = before if change.care is None else change.care
    if (status, archived, care) == (entry.status, entry.archived, before):
        return
    if taken is not None:
        await _places(conn, gate.value, entry, taken, status)
        await _person(conn, gate.value, entry, taken, archived)
    await entries.handle(conn, id, entry_id, status, archived, care)
    told: dict[str, Any] = {} if status == entry.status else {"status": status}
    told |= {} if archived == entry.archived else {"archived": archived is not None}
    told |= {} if care == before else {"care": await called(conn, care)}
    await note(
        context, conn, account_id, "entry_handled", id, entry_id, number=entry.number, **told
    )


async def called(conn: Connection, care: Care) -> str:
    """The name of who takes care; empty for nobody."""
    id = care.person or care.team
    return (await names(conn, [id])).get(id, "") if id else ""


async def _places(
    conn: Connection, gate: Gate, entry: Entry, taken: Admission, status: str
) -> None:
    """Give places back where the new status frees them, or take them again. Raises NoPlace."""
    before, after = gate.frees(entry.status), gate.frees(status)
    if before == after or not taken.takes:
        return
    counts = await places.locked(conn, entry.questionnaire_id, taken.takes)
    if before:
        _fit(gate, taken, counts)
    by = -1 if after else 1
    changed = {cell: by * amount for cell, amount in taken.takes.items()}
    await places.change(conn, entry.questionnaire_id, taken=changed)


def _fit(gate: Gate, taken: Admission, counts: Counts) -> None:
    by_key = {one.key: one for one in gate.places}
    for cell, amount in taken.takes.items():
        key, values = cell_parts(cell)
        one = by_key.get(key)
        if one and not fits(Take(cell, amount, most_of(one, values)), counts.get(cell, NONE)):
            raise NoPlace


async def _person(
    conn: Connection, gate: Gate, entry: Entry, taken: Admission, archived: datetime | None
) -> None:
    """Where archived entries do not count, its time is forgotten, or noted again."""
    limit = gate.per_person
    same = (archived is None) == (entry.archived is None)
    if limit is None or limit.archived or taken.person is None or same:
        return
    id = entry.questionnaire_id
    if archived is not None:
        await admissions.forget_time(conn, id, taken.person, entry.arrived)
    else:
        await admissions.note_time(conn, id, taken.person, entry.arrived)
