"""What the tables share: the metadata, columns of one kind everywhere, the engine, and our errors
for those of the database."""

from collections.abc import AsyncIterable, AsyncIterator, Callable, Iterable, Mapping, Sequence
from contextlib import asynccontextmanager
from datetime import datetime
from typing import Any, TypeVar

import orjson
from psycopg import AsyncRawCursor, sql
from pydantic import BaseModel
from sqlalchemy import (
    JSON,
    BigInteger,
    Column,
    ColumnElement,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    LargeBinary,
    MetaData,
    Select,
    Table,
    Text,
    Uuid,
    cast,
    column,
    event,
    func,
    insert,
    literal,
    literal_column,
    null,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.engine import ExceptionContext
from sqlalchemy.exc import DataError, IntegrityError, OperationalError
from sqlalchemy.ext.asyncio import AsyncConnection, AsyncEngine, create_async_engine

from jotgate.core.common.errors import AlreadyThere, OutOfRange, Unavailable

M = TypeVar("M")

Connection = AsyncConnection
Engine = AsyncEngine

CANCELED = "57014"
UNIQUE_VIOLATION = "23505"
"""The SQLSTATE (PostgreSQL, appendix A)."""

metadata = MetaData(
    naming_convention={
        "ix": "ix_%(table_name)s_%(column_0_N_name)s",
        "uq": "uq_%(table_name)s_%(column_0_N_name)s",
        "fk": "fk_%(table_name)s_%(column_0_name)s",
        "pk": "pk_%(table_name)s",
    }
)


def dumped(value: BaseModel) -> dict[str, Any]:
    """A document as a column of JSON holds it, with every member."""
    return value.model_dump(mode="json")


def as_column(value: BaseModel | str) -> Any:
    """A document, or JSON as text, for a column of JSON."""
    return cast(literal(value, Text), JSONB) if isinstance(value, str) else dumped(value)


def uuid_column(name: str, *args: Any, **options: Any) -> Column[Any]:
    return Column(name, Uuid, *args, nullable=options.pop("nullable", False), **options)


def questionnaire_key() -> Column[Any]:
    """The part of a key that says which questionnaire it belongs to, and goes with."""
    to = ForeignKey("questionnaires.id", ondelete="CASCADE")
    return uuid_column("questionnaire_id", to, primary_key=True)


def entry_key() -> ForeignKeyConstraint:
    """That a row belongs to an entry, which it goes with. It is looked at when the transaction
    ends: both are made in one statement."""
    return ForeignKeyConstraint(
        ["questionnaire_id", "entry_id"],
        ["entries.questionnaire_id", "entries.id"],
        ondelete="CASCADE",
        deferrable=True,
        initially="DEFERRED",
    )


def sealed_columns() -> tuple[Column[Any], Column[Any]]:
    """What is stored encrypted, and which data key opens it; without one, the installation's."""
    return Column("sealed", LargeBinary, nullable=False), uuid_column("key_id", nullable=True)


def time_column(name: str) -> Column[datetime]:
    """A moment, kept in UTC."""
    return Column(name, DateTime(timezone=True), nullable=False)


def maybe_time_column(name: str) -> Column[datetime]:
    """A moment in UTC, or none."""
    return Column(name, DateTime(timezone=True), nullable=True)


SNAPSHOT_XMIN = literal_column("pg_snapshot_xmin(pg_current_snapshot())::text::bigint", BigInteger)
"""What all transactions below this number wrote can be seen, and none of them is under way."""

SNAPSHOT_XMAX = literal_column("pg_snapshot_xmax(pg_current_snapshot())::text::bigint", BigInteger)
"""No transaction from this number on can be seen; a database that was restored elsewhere can have
rows with such."""


def nothing() -> ColumnElement[Any]:
    return null()


async def insert_all(conn: Connection, table: Table, rows: Sequence[Mapping[str, Any]]) -> None:
    """Store rows with the same columns in one statement, to which they are sent as one JSON. One
    statement for each row, as a list of parameters is sent, takes several times as long, and so do
    arrays, of which psycopg writes each text with care."""
    columns = [table.c[name] for name in rows[0]]
    sent = orjson.dumps(rows, default=_in_hex).decode()
    some = func.json_to_recordset(cast(literal(sent, Text), JSON)).table_valued(
        *(column(one.name, one.type) for one in columns)
    )
    derived = some.render_derived(name="some", with_types=True)
    given = select(*(derived.c[one.name] for one in columns))
    await conn.execute(insert(table).from_select([one.name for one in columns], given))


def _in_hex(value: Any) -> str:
    """Bytes as PostgreSQL reads them (bytea, hex format)."""
    if isinstance(value, bytes):
        return f"\\x{value.hex()}"
    raise TypeError(f"{type(value).__name__} is nothing that a column holds.")


async def copy_out(conn: Connection, query: Select[Any]) -> list[bytes]:
    """What a statement finds as lines of CSV, which PostgreSQL writes (COPY). What it asks for
    stands in the statement then, written there by psycopg: COPY knows no parameters."""
    dialect = conn.dialect
    compiled = query.compile(dialect=dialect, compile_kwargs={"render_postcompile": True})
    given = dict(compiled.construct_params())
    for bind, name in compiled.bind_names.items():
        process = bind.type.dialect_impl(dialect).bind_processor(dialect)
        if process is not None and name in given:
            given[name] = process(given[name])
    raw = (await conn.get_raw_connection()).driver_connection
    assert raw is not None
    async with (
        raw.cursor() as cursor,
        cursor.copy(f"copy ({compiled}) to stdout with (format csv)", given) as copy,
    ):
        return [bytes(line) async for line in copy]


async def copy_into(
    conn: Connection,
    table: str,
    columns: Sequence[str],
    types: Sequence[str],
    made: Iterable[M] | AsyncIterable[M],
    as_row: Callable[[M], tuple[Any, ...]],
) -> int:
    """Store many rows at once (COPY, binary), in the transaction of `conn`; how many."""
    raw = (await conn.get_raw_connection()).driver_connection
    assert raw is not None
    names = sql.SQL(", ").join(map(sql.Identifier, columns))
    text = sql.SQL("copy {} ({}) from stdin (format binary)")
    count = 0
    async with (
        raw.cursor() as cursor,
        cursor.copy(text.format(sql.Identifier(table), names)) as copy,
    ):
        copy.set_types(types)
        async for one in _each(made):
            await copy.write_row(as_row(one))
            count += 1
    return count


async def _each(made: Iterable[M] | AsyncIterable[M]) -> AsyncIterator[M]:
    if isinstance(made, AsyncIterable):
        async for one in made:
            yield one
        return
    for one in made:
        yield one


def _as_ours(context: ExceptionContext) -> None:
    """Raise our own error for one of the database that its callers can do something about.

    The words of the database never go on: they can hold what was to be stored.
    """
    error = context.sqlalchemy_exception
    if isinstance(error, IntegrityError):
        if getattr(error.orig, "sqlstate", None) == UNIQUE_VIOLATION:
            raise AlreadyThere("There is one like this already.")
    elif isinstance(error, DataError):
        raise OutOfRange("The request has a value that is out of range.")
    elif getattr(getattr(error, "orig", None), "sqlstate", "") == CANCELED:
        raise Unavailable("That takes too long. Ask for less, or try again in a moment.")
    elif isinstance(error, OperationalError):
        raise Unavailable("The database is not answering at the moment. Try again shortly.")


@asynccontextmanager
async def joins_many(conn: Connection) -> AsyncIterator[None]:
    """Have joins within read each table once. PostgreSQL does not know yet of many rows that were
    stored a moment ago, and would look through all of them for each other one."""
    name = "enable_nestloop"
    before = (await conn.execute(select(func.current_setting(name)))).scalar_one()
    await conn.execute(select(func.set_config(name, "off", True)))
    yield
    await conn.execute(select(func.set_config(name, before, True)))


def connect(url: str, pool_size: int, statementwise: bool = False) -> AsyncEngine:
    """An engine on `url` with at most `pool_size` connections of this process.

    `statementwise` makes each statement a transaction of its own, in one round trip, and writes
    its parameters as PostgreSQL does: psycopg reads through long statements each time otherwise.
    They are planned once for a connection: planning a submission takes longer than storing it.
    """
    options: dict[str, Any] = {}
    if statementwise:
        options = {
            "isolation_level": "AUTOCOMMIT",
            "pool_reset_on_return": None,
            "paramstyle": "numeric_dollar",
            "connect_args": {
                "cursor_factory": AsyncRawCursor,
                "options": "-c plan_cache_mode=force_generic_plan",
            },
        }
    engine = create_async_engine(
        url,
        pool_size=pool_size,
        max_overflow=0,
        pool_pre_ping=False,
        hide_parameters=True,
        json_serializer=lambda value: orjson.dumps(value).decode(),
        json_deserializer=orjson.loads,
        **options,
    )
    event.listen(engine.sync_engine, "handle_error", _as_ours)
    return engine
