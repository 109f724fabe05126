"""Letters to those who want to know: a gate opened or shut by its times, or places run low."""

from uuid import UUID

from jotgate.core.common.formatting import moment
from jotgate.core.gate.places import least_left, totals_of
from jotgate.services import gate, letters
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.gate import places, watch
from jotgate.store.gate.watch import Watched


async def watch_gates(context: Context) -> int:
    """Look at all gates of which somebody wants to be told; how many letters were asked for."""
    async with context.engine.connect() as conn:
        ids = await watch.to_watch(conn)
    return sum([await _look(context, id) for id in ids])


async def _look(context: Context, id: UUID) -> int:
    """Several workers may look at once: the row of what was seen last is locked."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        summary = await questionnaires.summary(conn, id)
        if summary is None or summary.edition is None:
            return 0
        plan = await context.plan(conn, id, summary.edition)
        found = summary.public_state
        before = await watch.seen(conn, id)
        totals = totals_of(found.gate.places)
        counts = await places.counts(conn, id, [one.cell for one in totals])
        opening = gate.opening(context, found, plan.questionnaire.time_zone, now)
        is_open = found.gate.state == "open" and opening.open
        free = least_left(totals, counts)
        low = free is not None and free <= found.gate.low and found.gate.low > 0
        seen = Watched(found.gate_revision, is_open, low)
        if before == seen:
            return 0
        await watch.put(conn, id, seen)
        if before is None or before.revision != seen.revision:
            return 0
        title = summary.called
        link = f"{context.public_url}/desk/q/{id}/gate"
        since = moment(now, "en", gate.zone_of(plan))
        told = list(_told(title, before, seen, free, since))
        for subject, body in told:
            await _tell(context, conn, found.gate.tell, subject, f"{body}\n\n{link}\n")
    return len(told) * len(found.gate.tell)


def _told(
    title: str, before: Watched, seen: Watched, free: int | None, since: str
) -> list[tuple[str, str]]:
    """Subjects and bodies."""
    found = []
    if before.open != seen.open:
        what = "opened" if seen.open else "shut"
        found.append((f"{title} {what} by its times", f"{title} {what} by its times on {since}."))
    if seen.low and not before.low:
        how_many = "no place" if not free else f"{free} place{'' if free == 1 else 's'}"
        found.append((f"{title}: {how_many} left", f"{title} has {how_many} left."))
    return found


async def _tell(
    context: Context, conn: Connection, addresses: tuple[str, ...], subject: str, body: str
) -> None:
    for address in addresses:
        await letters.ask(context, conn, Written(address, " ".join(subject.split()), body))
