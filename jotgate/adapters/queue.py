"""Procrastinate: a queue in the same PostgreSQL, written to in the caller's transaction."""

from typing import Any

from procrastinate import App, PsycopgConnector
from sqlalchemy import ARRAY, ColumnElement, cast, func, literal, null
from sqlalchemy.dialects.postgresql import array
from sqlalchemy.types import UserDefinedType

from jotgate.ports.queue import Task
from jotgate.settings import for_libpq


def queue_app(database_url: str, max_size: int = 4) -> App:
    """A Procrastinate application on the database that `database_url` (SQLAlchemy's) names."""
    where = for_libpq(database_url)
    return App(connector=PsycopgConnector(conninfo=where, min_size=1, max_size=max_size))


class _JobToDefer(UserDefinedType[Any]):
    """The composite type that Procrastinate's function for deferring takes."""

    cache_ok = True

    def get_col_spec(self, **_: Any) -> str:
        return "procrastinate_job_to_defer_v1"


class ProcrastinateQueue:
    """Asks through Procrastinate's own SQL function, without a round trip of its own."""

    def asking(self, task: Task, arguments: ColumnElement[Any]) -> ColumnElement[Any]:
        job = func.row(literal("default"), literal(task), 0, null(), null(), arguments, null())
        jobs = array([cast(job, _JobToDefer)])
        return func.procrastinate_defer_jobs_v1(cast(jobs, ARRAY(_JobToDefer)))
