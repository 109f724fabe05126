"""What waits in the queue, for those who look whether somebody works it off."""

from datetime import datetime, timedelta

from sqlalchemy import text

from jotgate.store.base import Connection

_WAITING = text("""
    select count(*), min(due) from (
        select coalesce(job.scheduled_at, (
            select min(event.at) from procrastinate_events event
            where event.job_id = job.id and event.type = 'deferred'
        )) as due
        from procrastinate_jobs job where job.status = 'todo'
        order by job.id limit :most
    ) waiting where due < :before
""")

MOST = 1000
"""Jobs that are looked at, the oldest first."""


async def overdue(conn: Connection, now: datetime, by: timedelta) -> tuple[int, datetime | None]:
    """How many jobs should have been done `by` then or longer ago (up to `MOST`), and since when
    the first of them waits. Both by the clock of the database, which notes when jobs came."""
    given = {"before": now - by, "most": MOST}
    count, since = (await conn.execute(_WAITING, given)).one()
    return count, since
