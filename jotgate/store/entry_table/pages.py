"""Pages of a table of entries, and what is counted of it."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Text,
    bindparam,
    cast,
    func,
    literal,
    select,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.entry import Entry
from jotgate.core.entries.table import TableColumn
from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import ENTRY, entries, entry_of
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import (
    Looking,
    chosen,
    fitting,
    number_in,
    sort_keys,
)
from jotgate.store.entry_table.reading import Cursor, read
from jotgate.store.entry_table.rows import entry_rows

_E, _R = entries.c, entry_rows.c


@dataclass(frozen=True)
class Found:
    """Entries in the order of a view; `end` is where the one at an index stands."""

    entries: tuple[Entry, ...]
    end: Callable[[int], Cursor]


SETTINGS = {
    "plan_cache_mode": "force_custom_plan",
    "jit": "off",
    "random_page_cost": "1.1",
    "max_parallel_workers_per_gather": "0",
    "work_mem": "64MB",
}
"""Which index serves a statement hangs on what it asks for; compiling it, or starting others that
help, takes longer than it runs; what is looked at every day is in memory; and what an index over
words finds is noted row by row, not page by page."""

_SET = select(
    *(func.set_config(name, one, True) for name, one in SETTINGS.items()),
    func.set_config("statement_timeout", bindparam("longest", type_=Text()), True),
)


async def planned_anew(conn: Connection, milliseconds: int) -> None:
    """For this transaction: statements are planned for what they ask for, and end after so long."""
    await conn.execute(_SET, {"longest": str(milliseconds)})


async def page(
    conn: Connection, look: Looking, after: Cursor | None, over: int | None, limit: int
) -> Found:
    """Entries in the order of the view, from behind `after` on; of those with a number over `over`
    where it is given."""
    found = await read(conn, look, ENTRY, after, limit, over)
    return Found(tuple(entry_of(row[found.before :]) for row in found.rows), found.end)


async def count(conn: Connection, look: Looking, over: int | None = None) -> int:
    tests = fitting(look)
    number = number_in(tests)
    tests += [number > over] if over is not None else []
    query = chosen(look, [func.count(number)], tests)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def numbers(
    conn: Connection,
    look: Looking,
    over: int,
    under: int | None,
    limit: int,
    newest_first: bool = False,
) -> list[int]:
    """The numbers of entries that a view shows between two others, from the smallest on, or from
    the largest back."""
    tests = fitting(look)
    number = number_in(tests)
    tests += [number > over, *([number < under] if under is not None else [])]
    query = chosen(look, [number.label("number")], tests)
    order = number.desc() if newest_first else number.asc()
    return list((await conn.execute(query.order_by(order).limit(limit))).scalars())


async def groups(
    conn: Connection, look: Looking, column: TableColumn, limit: int
) -> list[tuple[Any, int]]:
    """What entries say in a column, as it is stored, each with how many do, in its order."""
    (key, *_) = sort_keys(look)
    said: ColumnElement[Any] = (
        FACTS[column.key].at(look.today, look.table.terms)
        if column.fact
        else _R.answers.op("->", return_type=JSONB())(literal(column.key, Text))
    )
    tests = fitting(look)
    value = func.to_jsonb(said) if column.fact else said
    many = func.count().label("many")
    inner = chosen(look, [value.label("value"), key.by.label("by"), many], tests)
    inner = inner.group_by(text("1"), text("2"))
    some = inner.subquery()
    by = some.c.by.desc() if key.descending else some.c.by.asc()
    query = select(some.c.value, some.c.many).order_by(by, cast(some.c.value, Text)).limit(limit)
    return [(row.value, row.many) for row in await conn.execute(query)]
