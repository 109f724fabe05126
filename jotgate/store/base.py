"""What the tables share: the metadata, the engine, and columns of one kind everywhere."""

from datetime import datetime
from typing import Any

import orjson
from pydantic import BaseModel
from sqlalchemy import Column, DateTime, MetaData, Text, Uuid, cast, literal
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncEngine, create_async_engine

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


def time_column(name: str) -> Column[datetime]:
    """A moment, kept in UTC."""
    return Column(name, DateTime(timezone=True), nullable=False)


def is_double(error: IntegrityError) -> bool:
    """Whether a row was refused since one with its key is there already."""
    return getattr(error.orig, "sqlstate", None) == UNIQUE_VIOLATION


def connect(url: str, pool_size: int, statementwise: bool = False) -> AsyncEngine:
    """An engine on `url` with at most `pool_size` connections of this process.

    `statementwise` makes each statement a transaction of its own, in one round trip.
    """
    options: dict[str, Any] = {}
    if statementwise:
        options = {"isolation_level": "AUTOCOMMIT", "pool_reset_on_return": None}
    return create_async_engine(
        url,
        pool_size=pool_size,
        max_overflow=0,
        pool_pre_ping=False,
        hide_parameters=True,
        json_serializer=lambda value: orjson.dumps(value).decode(),
        json_deserializer=orjson.loads,
        **options,
    )
