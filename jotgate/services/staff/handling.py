"""Working through entries: statuses and the archive, and what they free at the gate."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NoPlace
from jotgate.core.entries.entry import Entry
from jotgate.core.gate.places import NONE, Counts, Take, cell_parts, fits, most_of
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import Handling
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Saved
from jotgate.services.context import Context
from jotgate.services.staff.many import Changed, each
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import entries, questionnaires
from jotgate.store.base import Connection
from jotgate.store.gate import admissions, places
from jotgate.store.gate.admissions import Admission


async def find(context: Context, account: Account, id: UUID) -> Saved[Handling]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return there(await questionnaires.handling(conn, id))


async def save(
    context: Context, account: Account, id: UUID, value: Handling, revision: int
) -> Saved[Handling]:
    """Save the statuses over the `revision` that they were read at. One that an entry has, or that
    the gate names, stays. Raises Invalid, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = there(await questionnaires.handling(conn, id)).value
        saved = await save_part(conn, id, "handling", value, revision, questionnaires.handling)
        gone = before.keys - value.keys
        named = there(await questionnaires.gate(conn, id)).value.statuses
        used = gone & (named | await entries.statuses_in_use(conn, id)) if gone else frozenset()
        if used:
            names = ", ".join(one.name for one in before.statuses if one.key in used)
            message = f"Entries have this status, or the gate names it: {names}."
            raise Invalid(message, [Fault(code="in_use", at="statuses", message=message)])
        await note(context, conn, account.id, "statuses_changed", id)
    return saved


@dataclass(frozen=True)
class Change:
    """What is to be: a status, empty for none, or whether it is archived; None leaves it."""

    status: str | None = None
    archived: bool | None = None


async def handle(
    context: Context, account: Account, id: UUID, ids: Sequence[UUID], change: Change
) -> list[Changed]:
    """Change many entries, each for itself. Raises NotAllowed, NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)

    async def changed(entry_id: UUID) -> None:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            await _change(context, conn, account, id, entry_id, change)

    return await each(ids, changed)


async def _change(
    context: Context, conn: Connection, account: Account, id: UUID, entry_id: UUID, change: Change
) -> None:
    """Change one. The gate stays as it is meanwhile; the entry is locked before its places."""
    gate = there(await questionnaires.gate(conn, id, keep=True)).value
    known = there(await questionnaires.handling(conn, id)).value.keys
    if change.status and change.status not in known:
        raise Invalid("There is no such status.")
    entry = there(await entries.entry(conn, id, entry_id, lock=True))
    taken = await admissions.of_entry(conn, id, entry_id)
    status = entry.status if change.status is None else change.status
    now = context.clock.now()
    archived = entry.archived
    if change.archived is not None and change.archived != (archived is not None):
        archived = now if change.archived else None
    if (status, archived) == (entry.status, entry.archived):
        return
    if taken is not None:
        await _places(conn, gate, entry, taken, status)
        await _person(conn, gate, entry, taken, archived)
    await entries.handle(conn, id, entry_id, status, archived)
    told: dict[str, Any] = {} if status == entry.status else {"status": status}
    told |= {} if archived == entry.archived else {"archived": archived is not None}
    await note(
        context, conn, account.id, "entry_handled", id, entry_id, number=entry.number, **told
    )


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
