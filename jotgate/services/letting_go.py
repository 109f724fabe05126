"""Entries let go: deleted by somebody or by themselves, or kept without whoever sent them."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.entries.about import about
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import values_of
from jotgate.core.handling import Keeping
from jotgate.services.context import Context
from jotgate.services.giving_back import give_back
from jotgate.services.keys.sealing import Restricted, restricted_of, seal
from jotgate.services.trail import note
from jotgate.store import files, questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import entries, letting_go, writing
from jotgate.store.registers import row_files

AT_ONCE = 100
"""Entries of one transaction."""


@dataclass(frozen=True)
class Gone:
    """An entry that was let go, by its number; the bytes of these files go once that is committed.
    It is noted on the trail when nothing else is to be locked."""

    id: UUID
    number: int
    files: tuple[UUID, ...]


async def delete(conn: Connection, id: UUID, entry_id: UUID) -> Gone:
    """Delete an entry for good. Rows of registers stay, as do lines of the trail. Raises
    NotFound."""
    entry = await entries.entry(conn, id, entry_id, lock=True)
    stripe = await entries.stripe_of(conn, id, entry_id)
    if entry is None or stripe is None:
        raise NotFound("There is no such entry.")
    sent = [file.id for file in await files.of_entry(conn, entry_id)]
    await give_back(conn, entry, stripe)
    await writing.remove(conn, id, entry_id)
    return Gone(entry_id, entry.number, await _without_files(conn, sent))


async def note_deleted(
    context: Context, conn: Connection, account_id: UUID | None, id: UUID, gone: Gone
) -> None:
    """For somebody, or since it was kept for long enough."""
    await note(context, conn, account_id, "entry_deleted", id, number=gone.number)


async def _without_files(conn: Connection, sent: list[UUID]) -> tuple[UUID, ...]:
    """Remove files; those whose bytes can go, since they stand in no row."""
    kept = await row_files.stand_in_rows(conn, sent)
    for id in sent:
        await files.remove(conn, id)
    return tuple(id for id in sent if id not in kept)


async def remove_bytes(context: Context, gone: Sequence[Gone]) -> None:
    for one in gone:
        for id in one.files:
            await context.files.remove(f"files/{id}")


async def anonymise(context: Context, conn: Connection, entry: Entry, keeping: Keeping) -> Gone:
    """Keep an entry, which is locked, without whoever sent it, and without the answers that are
    dropped. The connection reads restricted answers."""
    id, dropped = entry.questionnaire_id, frozenset(keeping.drop)
    plan = await context.plan(conn, id, entry.edition)
    answers = {key: one for key, one in entry.answers.items() if key not in dropped}
    said = about(plan, values_of(plan.items, answers))
    left = entry._replace(answers=answers, about=said)
    sealed = await entries.sealed(conn, id, [entry.id])
    if sealed:
        kept = await restricted_of(context, entry.id, sealed)
        more = {key: one for key, one in kept.answers.items() if key not in dropped}
        whole = Restricted(more, kept.finish)
        await writing.put_sealed(conn, left, await seal(context, entry.id, whole))
    await letting_go.forget(conn, left, context.clock.now())
    sent = await files.of_entry(conn, entry.id)
    mine = [file.id for file in sent if plan.owners.get(file.item, file.item) in dropped]
    return Gone(entry.id, entry.number, await _without_files(conn, mine))


async def let_go_due(context: Context) -> int:
    """Let go what has been kept for long enough, in every questionnaire that says so; how many."""
    async with context.engine.connect() as conn:
        found = await letting_go.with_keeping(conn)
    total = 0
    for id in found:
        some = AT_ONCE
        while some == AT_ONCE:
            gone = await _some(context, id)
            await remove_bytes(context, gone)
            some, total = len(gone), total + len(gone)
    return total


async def _some(context: Context, id: UUID) -> list[Gone]:
    async with context.restricted.begin() as conn:
        await questionnaires.gate(conn, id, keep=True)
        saved = await questionnaires.handling(conn, id)
        if saved is None or saved.value.keeping is None:
            return []
        keeping, kept = saved.value.keeping, saved.value.terms.kept
        found = await letting_go.due(conn, id, kept, context.clock.now(), AT_ONCE)
        if keeping.then == "delete":
            gone = [await delete(conn, id, entry.id) for entry in found]
            for one in gone:
                await note_deleted(context, conn, None, id, one)
            return gone
        gone = [await anonymise(context, conn, entry, keeping) for entry in found]
        for one in gone:
            await note(context, conn, None, "entry_anonymised", id, one.id, number=one.number)
        return gone
