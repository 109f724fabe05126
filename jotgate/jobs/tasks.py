"""The tasks of the worker, and taking up again what a dead worker left."""

from collections.abc import Awaitable, Callable
from datetime import datetime
from uuid import UUID

from procrastinate import App, RetryStrategy

from jotgate.services import doing, entry_rows, joining_lists, letters, letting_go, waiting_list
from jotgate.services.context import Context
from jotgate.services.dispatch import arriving, reaching, replaying, sending
from jotgate.services.keys import erasing, resealing
from jotgate.services.mailings import mailing
from jotgate.services.public import allowances, handing, holding, rate_limit, started, uploads
from jotgate.services.rounds import going
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import one_time_links, sessions
from jotgate.services.tables import tables

HEARTBEAT = 2.0
"""Seconds between two signs of life of a worker."""

SILENCE = 8.0
"""Seconds without a sign of life after which a worker counts as dead."""

AT_ONCE = 100
"""Letters to contacts that are sent before anybody looks around."""

TRIES = 12
"""Tries of a job that fails; with waits that double from 2 seconds that is over an hour."""


def register(app: App, context: Context) -> None:
    """Put the tasks into `app`, working on `context`."""
    retry = RetryStrategy(max_attempts=TRIES, exponential_wait=2)

    @app.task(name="dispatch_entry", retry=retry)
    async def dispatch_entry(questionnaire_id: str, entry_id: str) -> None:
        await arriving.dispatch_entry(context, UUID(questionnaire_id), UUID(entry_id))

    @app.task(name="dispatch_change", retry=retry)
    async def dispatch_change(questionnaire_id: str, entry_id: str) -> None:
        await replaying.dispatch_change(context, UUID(questionnaire_id), UUID(entry_id))

    @app.task(name="dispatch_status", retry=retry)
    async def dispatch_status(questionnaire_id: str, entry_id: str, since: str) -> None:
        at = datetime.fromisoformat(since)
        await reaching.dispatch_status(context, UUID(questionnaire_id), UUID(entry_id), at)

    @app.task(name="seal_anew", retry=retry)
    async def seal_anew(questionnaire_id: str) -> None:
        await resealing.seal_anew(context, UUID(questionnaire_id))

    @app.task(name="index_entries", retry=retry)
    async def index_entries(name: str) -> None:
        await entry_rows.make_index(context, name)

    @app.task(name="send_letter", retry=retry)
    async def send_letter(sealed: str) -> None:
        await letters.send(context, sealed)

    @app.task(name="send_reset", retry=retry)
    async def send_reset(sealed: str) -> None:
        await one_time_links.send_reset(context, sealed)

    @app.task(name="do_work", retry=retry)
    async def do_work(work_id: str) -> None:
        await doing.do(context, UUID(work_id))


async def clear_away(context: Context) -> int:
    """Remove what was started long ago and never sent; how much that was."""
    await sessions.forget_old(context)
    await one_time_links.forget_old(context)
    await allowances.forget_old(context)
    await desk.forget_days(context)
    await tables.forget_old(context)
    await doing.forget_old(context)
    await handing.forget_old(context)
    await joining_lists.forget_old(context)
    await rate_limit.forget_old(context)
    await entry_rows.drop_unused(context)
    return await started.remove_untouched(context) + await uploads.remove_unsent(context)


async def send_letters(context: Context) -> int:
    """Send letters to contacts that are due; how many."""
    return await _while_due(mailing.send_due, context)


async def go_on_with_rounds(context: Context) -> int:
    """Have steps of rounds go whose moment has come; how many rounds were looked at."""
    return await _while_due(going.go_due, context)


async def send_notices(context: Context) -> int:
    """Send notices that are due; how many."""
    return await _while_due(sending.send_due, context)


async def make_calls(context: Context) -> int:
    """Make calls that are due; how many."""
    return await _while_due(sending.call_due, context)


async def _while_due(send: Callable[[Context], Awaitable[bool]], context: Context) -> int:
    """Send one after the other while any is due; how many."""
    count = 0
    while count < AT_ONCE and await send(context):
        count += 1
    return count


async def look_at_gates(context: Context) -> int:
    """Give back places that were held for too long, and offer those that are free; how many."""
    count = await holding.let_go_over(context)
    return count + await waiting_list.offer_places(context)


async def copy_entries(context: Context) -> int:
    """Bring the tables of entries up to what has arrived; how many."""
    return await entry_rows.catch_up(context)


async def let_go(context: Context) -> int:
    """Delete or anonymise what has been kept for long enough; how many."""
    return await letting_go.let_go_due(context)


async def destroy_keys(context: Context) -> int:
    """Destroy the keys of what was erased; how many."""
    return await erasing.destroy_keys(context)


async def take_up_stalled(app: App) -> int:
    """Put jobs of dead workers back into the queue; how many."""
    stalled = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENCE))
    for job in stalled:
        await app.job_manager.retry_job(job)
    return len(stalled)
