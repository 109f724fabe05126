"""The office as it stands now."""

from datetime import timedelta

from jotgate.core.common.errors import Unavailable
from jotgate.core.office import Office
from jotgate.services.context import Context
from jotgate.store import office

KEPT = timedelta(seconds=2)
"""How long a change may take to be seen by every process."""

_NAME = "office"


async def current(context: Context) -> Office:
    """As it was a moment ago; while the database is away, as it was before."""
    now = context.clock.now()
    kept = context.offices.find(_NAME)
    if kept is not None and abs(now - kept[0]) < KEPT:
        return kept[1]
    try:
        async with context.single.connect() as conn:
            found = (await office.find(conn)).value
    except Unavailable:
        if kept is None:
            raise
        return kept[1]
    return context.offices.keep(_NAME, (now, found))[1]


def forget(context: Context) -> None:
    """Read it anew the next time: it was changed here."""
    context.offices.clear()
