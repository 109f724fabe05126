"""When the holders of passes started: gathered as they go on, and noted together a moment later, so
that nobody waits for it."""

from uuid import UUID

from jotgate.core.common.errors import Unavailable
from jotgate.services.context import Context
from jotgate.store.links import passes


def note(context: Context, questionnaire_id: UUID, pass_id: UUID) -> None:
    """The holder of a pass went on from a page; each process notes it once."""
    if context.begun.find(pass_id) is None:
        context.begun.keep(pass_id, True)
        context.starts[pass_id] = (questionnaire_id, context.clock.now())


async def keep(context: Context) -> None:
    """Store what was gathered; while the database is away it waits. Raises Unavailable."""
    if not context.starts:
        return
    gathered = dict(context.starts)
    context.starts.clear()
    try:
        async with context.single.connect() as conn:
            await passes.start(conn, [(about, id, at) for id, (about, at) in gathered.items()])
    except Unavailable:
        context.starts.update(gathered)
        raise
