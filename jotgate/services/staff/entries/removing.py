"""Deleting an entry: with its files, and with its place given back."""

from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.letting_go import delete, note_deleted, remove_bytes
from jotgate.services.staff.rights import needs


async def remove(context: Context, account: Account, id: UUID, entry_id: UUID) -> None:
    """Delete an entry for good. Its place is free with the commit; the bytes of its files go after
    it. Raises NotFound, NotAllowed."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        gone = await delete(conn, id, entry_id)
        await note_deleted(context, conn, account.id, id, gone)
    await remove_bytes(context, [gone])
