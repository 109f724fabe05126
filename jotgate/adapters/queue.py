"""Procrastinate: a queue in the same PostgreSQL, written to in the caller's transaction."""

from typing import TYPE_CHECKING, Any

from procrastinate import App, PsycopgConnector
from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.ports.queue import Task

if TYPE_CHECKING:
    from psycopg import AsyncConnection as PsycopgConnection


def queue_app(database_url: str, max_size: int = 4) -> App:
    """A Procrastinate application on the database that `database_url` (SQLAlchemy's) names."""
    conninfo = database_url.replace("postgresql+psycopg://", "postgresql://", 1)
    return App(connector=PsycopgConnector(conninfo=conninfo, min_size=1, max_size=max_size))


class ProcrastinateQueue:
    def __init__(self, app: App) -> None:
        self._app = app

    async def defer(self, conn: AsyncConnection, task: Task, **arguments: str) -> None:
        raw: Any = await conn.get_raw_connection()
        own: PsycopgConnection[Any] = raw.driver_connection
        job = self._app.configure_task(task, connection=own)
        await job.defer_async(**arguments)
