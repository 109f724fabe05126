"""What was deleted is erased: its data key is destroyed, and no copy of it can be read any more."""

from jotgate.services.context import Context
from jotgate.store.entries import erased_keys

AT_ONCE = 1_000


async def destroy_keys(context: Context) -> int:
    """Destroy the data keys of what was deleted or replaced; how many. A key is forgotten here once
    it is gone there: where that fails, it is tried again."""
    count, some = 0, AT_ONCE
    while some == AT_ONCE:
        async with context.engine.begin() as conn:
            found = await erased_keys.some(conn, AT_ONCE)
            gone = set(found) - await erased_keys.still_held(conn, found)
            await context.data_keys.destroy(gone)
            await erased_keys.forget(conn, found)
        count, some = count + len(gone), len(found)
    return count
