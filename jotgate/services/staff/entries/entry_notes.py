"""Notes about an entry among the people who read it."""

from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs
from jotgate.store.base import Connection
from jotgate.store.entries import entries, entry_notes
from jotgate.store.entries.entry_notes import Note

MOST = 200
"""Notes of one entry."""


async def every(context: Context, account: Account, id: UUID, entry_id: UUID) -> list[Note]:
    """The oldest first. Raises NotFound."""
    async with context.engine.connect() as conn:
        await _there(conn, account, id, entry_id)
        return await entry_notes.of_entry(conn, id, entry_id)


async def add(context: Context, account: Account, id: UUID, entry_id: UUID, words: str) -> None:
    """Raises NotFound, Invalid."""
    note = Note(context.ids.id(), account.id, account.name, words, context.clock.now())
    async with context.engine.begin() as conn:
        await _there(conn, account, id, entry_id)
        if len(await entry_notes.of_entry(conn, id, entry_id)) >= MOST:
            raise Invalid(f"There are {MOST} notes already.")
        await entry_notes.add(conn, id, entry_id, account.id, note)


async def remove(
    context: Context, account: Account, id: UUID, entry_id: UUID, note_id: UUID
) -> None:
    """One's own. Raises NotFound."""
    async with context.engine.begin() as conn:
        await _there(conn, account, id, entry_id)
        own = await entry_notes.of_entry(conn, id, entry_id)
        if note_id not in {one.id for one in own} or not await entry_notes.remove(
            conn, note_id, account.id
        ):
            raise NotFound("There is no such note of yours.")


async def _there(conn: Connection, account: Account, id: UUID, entry_id: UUID) -> None:
    await needs(conn, account, "read", id)
    if await entries.entry(conn, id, entry_id) is None:
        raise NotFound("There is no such entry.")
