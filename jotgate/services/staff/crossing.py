"""One question by another: how often each answer to the one goes with each to the other."""

import asyncio
from collections.abc import Mapping
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.entries.table import TableColumn
from jotgate.core.figures.categories import has_categories
from jotgate.core.figures.crossing import Both, Crossing, crossing
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked, look_at
from jotgate.services.staff.figures import MOST_DIFFERENT, reader_of, readers_of
from jotgate.store.entry_table import answered


async def crossed(
    context: Context, account: Account, id: UUID, asked: Asked, row: str, column: str
) -> Crossing:
    """One question by another, of the entries that a view shows. Raises as `figures` does, NotFound
    before the first publishing, and Invalid for what has no categories or is restricted."""
    async with context.engine.begin() as conn:
        opened, look = await look_at(context, conn, account, id, asked)
        if look is None:
            raise NotFound("Nothing is published yet.")
        one, other = (_crossable(look.table.open, key) for key in (row, column))
        found = await answered.both(conn, look, one, other, MOST_DIFFERENT + 1)
    if len(found) > MOST_DIFFERENT:
        raise Invalid("There are too many different answers to these two. Filter the entries.")
    reader = reader_of(one, readers_of(opened))
    said = [Both(*each) for each in found]
    return await asyncio.to_thread(crossing, one.item, other.item, said, reader)


def _crossable(columns: Mapping[str, TableColumn], key: str) -> TableColumn:
    found = columns.get(key)
    if found is None or found.fact or not has_categories(found.item):
        raise Invalid(f"{key} is no open question whose answers can be counted side by side.")
    return found
