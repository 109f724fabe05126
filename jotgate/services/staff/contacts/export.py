"""Contacts as a table."""

from collections.abc import AsyncIterator
from uuid import UUID

from jotgate.core.contacts.contact import facts_of
from jotgate.core.contacts.fields import BUILT_IN
from jotgate.core.formats.table_in import Row
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.contacts import contacts, lists

AT_ONCE = 2_000


async def table(
    context: Context, account: Account, words: str, list_id: UUID | None
) -> tuple[tuple[str, ...], AsyncIterator[list[Row]]]:
    """The names of its columns, and its rows, some at a time; that they were read is in the
    trail."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        fields = await contacts.fields(conn)
        wanted = lists.wanted(words, list_id)
        count = await contacts.count(conn, wanted)
        await note(context, conn, account.id, "contacts_exported", count=count)
    keys = [*BUILT_IN, *(one.key for one in fields)]
    head = (*BUILT_IN.values(), *(one.label for one in fields), "Opted out")
    return head, _rows(context, wanted, keys)


async def _rows(context: Context, wanted: object, keys: list[str]) -> AsyncIterator[list[Row]]:
    after: tuple[str, UUID] | None = None
    while True:
        async with context.engine.connect() as conn:
            found = await contacts.page(conn, wanted, after, AT_ONCE)
        if not found:
            return
        after = (found[-1].name, found[-1].id)
        facts = [(facts_of(one), one.opted_out) for one in found]
        yield [
            [*(known.get(key, "") for key in keys), out.date().isoformat() if out else ""]
            for known, out in facts
        ]
