"""Deleting an entry: with its files, and with its place given back."""

from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.giving_back import give_back
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import entries, files
from jotgate.store.registers import row_files


async def remove(context: Context, account: Account, id: UUID, entry_id: UUID) -> None:
    """Delete an entry for good. Rows of registers stay, as do lines of the trail. Raises NotFound.

    Its place is free with the commit; the bytes of its files go after it, but for those that stand
    in rows.
    """
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        entry = there(await entries.entry(conn, id, entry_id, lock=True))
        sent = await files.of_entry(conn, entry_id)
        await give_back(conn, entry, there(await entries.stripe_of(conn, id, entry_id)))
        there(await entries.remove(conn, id, entry_id) or None)
        kept = await row_files.stand_in_rows(conn, [file.id for file in sent])
        for file in sent:
            await files.remove(conn, file.id)
        await note(context, conn, account.id, "entry_deleted", id, number=entry.number)
    for file in sent:
        if file.id not in kept:
            await context.files.remove(f"files/{file.id}")
