"""Changing where an entry stands, and what that frees at the gate or takes again."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid, JotGateError, NoPlace, NotFound
from jotgate.core.entries.entry import Entry
from jotgate.core.gate.places import NONE, Counts, Take, cell_parts, fits, most_of
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import Care
from jotgate.services.context import Context
from jotgate.services.trail import note, note_each
from jotgate.store import questionnaires
from jotgate.store.accounts.care import names
from jotgate.store.base import Connection
from jotgate.store.entries import entries, writing
from jotgate.store.entries.entries import Stands
from jotgate.store.gate import admissions, places
from jotgate.store.gate.admissions import Admission


@dataclass(frozen=True)
class Change:
    """What is to be: a status as entries store it, whether it is archived, or who takes care of it;
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
    undoing: bool = False,
) -> None:
    """Change one, for somebody or by a rule. The gate stays as it is meanwhile, and has to be kept
    before an entry is locked; that is locked before its places. What is `undoing` may follow
    anything, and no rule acts on it. Raises Invalid, NoPlace, NotFound."""
    gate = await questionnaires.gate(conn, id, keep=True)
    handling = await questionnaires.handling(conn, id)
    entry = await entries.entry(conn, id, entry_id, lock=True)
    if gate is None or handling is None or entry is None:
        raise NotFound("There is no such entry.")
    status, archived, care = _then(context, entry, change)
    if (status, archived, care) == stands(entry):
        return
    why_not = "" if undoing else handling.value.why_not(entry.status, status)
    if why_not:
        raise Invalid(why_not)
    taken = await admissions.of_entry(conn, id, entry_id)
    if taken is not None:
        await _places(conn, gate.value, entry, taken, status)
        await _person(conn, gate.value, entry, taken, archived)
    now = context.clock.now()
    await writing.handle(conn, id, entry_id, status, archived, care, now)
    if status != entry.status and not undoing:
        await _reached(context, conn, id, {status: [entry_id]}, now)
    told = _told(entry, status, archived, care, await called(conn, care))
    await note(context, conn, account_id, "entry_handled", id, entry_id, **told)


async def _reached(
    context: Context,
    conn: Connection,
    id: UUID,
    reached: Mapping[str, Sequence[UUID]],
    now: datetime,
) -> None:
    """Have the rules act on entries by the status that they have from `now` on."""
    saved = await questionnaires.dispatching(conn, id)
    for status, ids in reached.items():
        if saved and saved[0].reaching(status).rules:
            await writing.ask_to_dispatch_status(conn, id, ids, now, context.queue)


Standing = tuple[str, datetime | None, Care]
"""A status, since when it is in the archive, and who takes care."""


def stands(entry: Entry | Stands) -> Standing:
    return entry.status, entry.archived, Care(entry.carer_id, entry.care_team_id)


def _then(context: Context, entry: Entry | Stands, change: Change) -> Standing:
    """How an entry stands after a change."""
    status, archived, care = stands(entry)
    if change.archived is not None and change.archived != (archived is not None):
        archived = context.clock.now() if change.archived else None
    return (
        status if change.status is None else change.status,
        archived,
        care if change.care is None else change.care,
    )


def _told(
    entry: Entry | Stands, status: str, archived: datetime | None, care: Care, carer: str
) -> dict[str, Any]:
    """What the trail keeps of a change."""
    told: dict[str, Any] = {"number": entry.number}
    told |= {} if status == entry.status else {"status": status}
    told |= {} if archived == entry.archived else {"archived": archived is not None}
    return told | ({} if care == stands(entry)[2] else {"care": carer})


@dataclass(frozen=True)
class Handled:
    """An entry that was to be changed: how it stood before, and nothing `wrong`, or why it stays as
    it was."""

    number: int
    before: Standing
    after: Standing
    wrong: str = ""


async def change_entries(
    context: Context,
    conn: Connection,
    account_id: UUID,
    id: UUID,
    wanted: Mapping[int, Change],
    undoing: bool = False,
) -> list[Handled]:
    """Change several, by number, those together that took nothing at the gate; what one cannot
    change stays as it was. Those that are gone are left out. Raises NotFound."""
    gate = await questionnaires.gate(conn, id, keep=True)
    handling = await questionnaires.handling(conn, id)
    if gate is None or handling is None:
        raise NotFound("There is no such questionnaire.")
    done: list[Handled] = []
    together: list[tuple[Stands, Standing]] = []
    for entry in await entries.by_numbers(conn, id, list(wanted)):
        before, after = stands(entry), _then(context, entry, wanted[entry.number])
        if before == after:
            continue
        wrong = "" if undoing else handling.value.why_not(entry.status, after[0])
        if wrong:
            done.append(Handled(entry.number, before, before, wrong))
        elif entry.takes:
            change = wanted[entry.number]
            done.append(await _apart(context, conn, account_id, id, entry, change, undoing))
        else:
            together.append((entry, after))
            done.append(Handled(entry.number, before, after))
    if together:
        await _together(context, conn, account_id, id, together, undoing)
    return done


async def _together(
    context: Context,
    conn: Connection,
    account_id: UUID,
    id: UUID,
    together: Sequence[tuple[Stands, Standing]],
    undoing: bool,
) -> None:
    now = context.clock.now()
    await writing.handle_each(conn, id, [(entry.id, *after) for entry, after in together], now)
    reached: dict[str, list[UUID]] = {}
    for entry, (status, _, _) in together:
        if status != entry.status and not undoing:
            reached.setdefault(status, []).append(entry.id)
    await _reached(context, conn, id, reached, now)
    carers = await names(conn, {care.id for _, (_, _, care) in together if care.id})
    lines = [
        (entry.id, _told(entry, *after, carers.get(after[2].id, "") if after[2].id else ""))
        for entry, after in together
    ]
    await note_each(context, conn, account_id, "entry_handled", id, lines)


async def _apart(
    context: Context,
    conn: Connection,
    account_id: UUID,
    id: UUID,
    entry: Stands,
    change: Change,
    undoing: bool,
) -> Handled:
    before = stands(entry)
    try:
        async with conn.begin_nested():
            await change_entry(context, conn, account_id, id, entry.id, change, undoing)
    except JotGateError as error:
        return Handled(entry.number, before, before, error.message)
    return Handled(entry.number, before, _then(context, entry, change))


async def called(conn: Connection, care: Care) -> str:
    """The name of who takes care; empty for nobody."""
    return (await names(conn, [care.id])).get(care.id, "") if care.id else ""


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
