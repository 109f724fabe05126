"""Tables that people bring: read once in a process of their own, then kept sealed in pieces, so
that whoever works on one holds a piece at a time."""

from collections.abc import AsyncIterator, Mapping
from datetime import timedelta
from uuid import UUID

import orjson

from jotgate.core.answers.file_kinds import file_name
from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.formats.table_in import AT_ONCE, Row, read_table
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import UploadedTable, Work, WorkKind
from jotgate.services.context import Context
from jotgate.store import work
from jotgate.store.base import Connection

LARGEST = 30_000_000
"""Bytes of a table at most."""

KEPT = timedelta(days=1)
"""For how long a table waits for something to be made of it."""


async def take(context: Context, account: Account, name: str, body: bytes) -> UploadedTable:
    """Read a table and keep it. Raises Invalid with the rows that cannot be read, TooHeavy."""
    if not 0 < len(body) <= LARGEST:
        raise Invalid(f"Choose a file that is not empty, of at most {LARGEST // 1_000_000} MB.")
    name = file_name(name)
    found = await context.apart(read_table, name, body)
    if not found.rows:
        raise Invalid(f"{name} has no rows below the names of its columns.")
    id = context.ids.id()
    for number, chunk in enumerate(found.chunks):
        sealed = context.cipher.seal(chunk, _purpose(id, number))
        await context.files.put(_piece(id, number), sealed)
    made = UploadedTable(
        id=id,
        account_id=account.id,
        name=name,
        columns=found.columns,
        sample=found.sample,
        rows=found.rows,
        chunks=len(found.chunks),
        made=context.clock.now(),
    )
    async with context.engine.begin() as conn:
        await work.add_table(conn, made)
    return made


def _piece(id: UUID, number: int) -> str:
    return f"tables/{id}/{number:06}"


def _purpose(id: UUID, number: int) -> str:
    return f"table {id} {number}"


async def own(conn: Connection, account: Account, id: UUID) -> UploadedTable:
    """A table that `account` brought. Raises NotFound."""
    found = await work.table(conn, id)
    if found is None or found.account_id != account.id:
        raise NotFound("This table is no longer there. Choose the file again.")
    return found


async def ask(
    context: Context,
    conn: Connection,
    account: Account,
    kind: WorkKind,
    table: UploadedTable,
    said: Mapping[str, object],
) -> Work:
    """Have the worker do something with a table of `account`."""
    now = context.clock.now()
    id, total = context.ids.id(), table.rows
    one = Work(id, account.id, None, kind, "waiting", 0, total, dict(said), {}, now)
    await work.ask(conn, one, context.queue)
    return one


async def chunks(context: Context, table: UploadedTable) -> AsyncIterator[list[Row]]:
    """The rows of a table, some at a time. Raises Missing, Sealed."""
    for number in range(table.chunks):
        sealed = await context.files.get(_piece(table.id, number))
        rows: list[Row] = orjson.loads(context.cipher.open(sealed, _purpose(table.id, number)))
        yield rows


async def rows(context: Context, table: UploadedTable, after: int, count: int) -> list[Row]:
    """At most `count` rows behind the first `after`, across pieces."""
    found: list[Row] = []
    for number in range(after // AT_ONCE, min((after + count - 1) // AT_ONCE + 1, table.chunks)):
        sealed = await context.files.get(_piece(table.id, number))
        found += orjson.loads(context.cipher.open(sealed, _purpose(table.id, number)))
    return found[after % AT_ONCE : after % AT_ONCE + count]


async def forget_old(context: Context) -> None:
    """Remove tables that nothing was made of."""
    async with context.engine.begin() as conn:
        gone = await work.forget_tables(conn, context.clock.now() - KEPT)
    for id in gone:
        await context.files.remove(f"tables/{id}")
