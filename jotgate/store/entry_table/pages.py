"""Pages of a table of entries, and what is counted of it."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Select,
    Text,
    and_,
    bindparam,
    cast,
    func,
    literal,
    or_,
    select,
    text,
    tuple_,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.entry import Entry
from jotgate.core.entries.table import TableColumn
from jotgate.core.handling import stored
from jotgate.core.items import options_of
from jotgate.store.base import Connection
from jotgate.store.entries.entries import ENTRY, WITH_WAYS, entries, entry_ways
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import (
    Looking,
    SortKey,
    chosen,
    fitting,
    how_often,
    number_in,
    sort_keys,
    tables_of,
)
from jotgate.store.entry_table.rows import entry_rows

_E, _R = entries.c, entry_rows.c

STATUS = "entry.status"

Cursor = tuple[str, ...]
"""Where a page ends: what its last entry is sorted by, as PostgreSQL writes it, and its number."""


@dataclass(frozen=True)
class Found:
    """Entries in the order of a view, with where each stands."""

    entries: tuple[Entry, ...]
    cursors: tuple[Cursor, ...]


@dataclass(frozen=True)
class Read:
    """Columns of entries in the order of a view, and where each entry stands."""

    rows: Sequence[Sequence[Any]]
    cursors: Sequence[Cursor]


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

RECENT, SELDOM = 50, 6
"""For each entry that is wanted, so many from the newest back are looked through for words before
the index over them is asked; where not one in `SELDOM` of those wanted is found, they are rare, and
what is rare the index finds at once. PostgreSQL cannot know how often beginnings of words occur."""


_THROUGH = select(func.set_config("enable_bitmapscan", bindparam("bitmaps", type_=Text()), True))
"""Whether statements may ask indexes over all there is, or have to look through what is there."""

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
    return Found(tuple(Entry._make(row) for row in found.rows), tuple(found.cursors))


async def read(
    conn: Connection,
    look: Looking,
    columns: Sequence[ColumnElement[Any]],
    after: Cursor | None,
    limit: int,
    over: int | None = None,
) -> Read:
    """Columns of entries and of their ways, as `page` has the entries."""
    keys, tests = sort_keys(look), fitting(look)
    if over is not None:
        tests.append(number_in([*(one.by for one in keys), *tests]) > over)
    rare = False
    if look.view.search and over is None:
        before = after if not keys else None
        recent = await _recent(conn, _Wanted(look, columns, tests, limit), before)
        if len(recent.rows) == limit and not keys:
            return recent
        rare = len(recent.rows) * SELDOM < limit
        if rare:
            rarest = await _rarest(conn, look, before, limit)
            tests = fitting(look, rarest)
    wanted = _Wanted(look, columns, tests, limit, rare)
    first = look.view.order[0] if look.view.order else None
    if first is not None and first.column == STATUS:
        codes = [stored(one.code) for one in options_of(look.table.columns[STATUS].item)]
        stretches = [*reversed(codes)] if first.descending else codes
        return await _by_status(conn, wanted, keys[1:], stretches, after)
    return await _ordered(conn, wanted, keys, after)


@dataclass(frozen=True)
class _Wanted:
    """`columns` of the entries of which `tests` are true, at most `limit`. Where they are `rare`
    all of them are found first, and sorted then."""

    look: Looking
    columns: Sequence[ColumnElement[Any]]
    tests: Sequence[ColumnElement[bool]]
    limit: int
    rare: bool = False


def _late(look: Looking, before: Cursor | None, limit: int) -> ColumnElement[bool]:
    """That an entry is among the newest, or among those that arrived last before one."""
    own = _R.questionnaire_id == look.questionnaire_id
    newest: Any = select(func.max(_R.number)).where(own).scalar_subquery()
    edge = literal(int(before[-1])) if before else newest
    return _R.number > edge - RECENT * limit


async def _recent(conn: Connection, wanted: _Wanted, before: Cursor | None) -> Read:
    recent = [*wanted.tests, _late(wanted.look, before, wanted.limit)]
    await conn.execute(_THROUGH, {"bitmaps": "off"})
    found = await _ordered(conn, replace(wanted, tests=recent), (), before)
    await conn.execute(_THROUGH, {"bitmaps": "on"})
    return found


async def _rarest(conn: Connection, look: Looking, before: Cursor | None, limit: int) -> str:
    """The word that fewest of the recent entries have, of several that are searched; else none.

    An index over words goes through all that begin so, for each of them: with a common word that
    takes longer than to look at all entries that have a rare one."""
    often = how_often(look)
    if len(often) < 2:
        return ""
    query = chosen(look, list(often.values()), [_late(look, before, limit)])
    counts = (await conn.execute(query)).one()
    return min(zip(often, counts, strict=True), key=lambda one: one[1])[0]


async def _by_status(
    conn: Connection,
    wanted: _Wanted,
    keys: Sequence[SortKey],
    stretches: Sequence[str],
    after: Cursor | None,
) -> Read:
    """One status after the other: there is an index by status, and none that has statuses in the
    order of the office. What is no status any more is left out, and no entry has such."""
    at, limit = int(after[0]) if after else 0, wanted.limit
    rows: list[Sequence[Any]] = []
    cursors: list[Cursor] = []
    for place in range(at, len(stretches)):
        behind = after[1:] if after and place == at else None
        own = [*wanted.tests, _E.status == stretches[place]]
        left = replace(wanted, tests=own, limit=limit - len(rows))
        found = await _ordered(conn, left, keys, behind)
        rows += found.rows
        cursors += [(str(place), *one) for one in found.cursors]
        if len(rows) == limit:
            break
    return Read(rows, cursors)


async def _ordered(
    conn: Connection, wanted: _Wanted, keys: Sequence[SortKey], after: Cursor | None
) -> Read:
    query = _query(wanted, keys, after)
    many = len(wanted.columns)
    rows = (await conn.execute(query)).all()
    return Read([row[:many] for row in rows], [(*row[many:-1], str(row[-1])) for row in rows])


def _query(wanted: _Wanted, keys: Sequence[SortKey], after: Cursor | None) -> Select[Any]:
    """The columns, what is sorted by as text, and the number. What has to be sorted is found before
    anything else is read of it."""
    look, tests = wanted.look, wanted.tests
    number = number_in([*(one.by for one in keys), *tests])
    tie = _tie(keys)
    last = _behind([*keys, tie(number)], after, tie)
    by = [one.by.label(f"s{at}") for at, one in enumerate(keys)]
    behind = [*tests, last] if last is not None else tests
    if not keys and number is _E.number:
        whole_rows = chosen(look, [*wanted.columns, number], behind)
        return whole_rows.order_by(number.desc()).limit(wanted.limit)
    inner = chosen(look, [number.label("found"), *by], behind)
    at = [*keys, tie(number)]
    if wanted.rare:
        whole = inner.cte("whole").prefix_with("MATERIALIZED")
        inner = select(*whole.c)
        sorts = [SortKey(whole.c[f"s{n}"], one.descending) for n, one in enumerate(keys)]
        at = [*sorts, tie(whole.c.found)]
    some = inner.order_by(*_order(at)).limit(wanted.limit).subquery("some")
    again = [SortKey(some.c[f"s{at}"], one.descending) for at, one in enumerate(keys)]
    named = select(*wanted.columns, *(cast(one.by, Text) for one in again), some.c.found)
    joined = named.select_from(some).join(
        entries, and_(_E.questionnaire_id == look.questionnaire_id, _E.number == some.c.found)
    )
    if entry_ways in tables_of(wanted.columns):
        joined = joined.outerjoin(*WITH_WAYS)
    return joined.order_by(*_order([*again, tie(some.c.found)]))


Tie = Callable[[ColumnElement[Any]], SortKey]
"""By what stands what is alike, of a number."""


def _newest(number: ColumnElement[Any]) -> SortKey:
    return SortKey(number, descending=True)


def _newest_upwards(number: ColumnElement[Any]) -> SortKey:
    return SortKey(-number, descending=False)


def _oldest(number: ColumnElement[Any]) -> SortKey:
    return SortKey(number, descending=False)


def _tie(keys: Sequence[SortKey]) -> Tie:
    """The newest first, in the direction of the keys so that one index serves it all; what arrived
    at one moment stands as all else, since the index for it is made already."""
    if not keys or any(one.descending for one in keys):
        return _newest
    return _oldest if len(keys) == 1 and keys[0].by is _R.arrived else _newest_upwards


def _order(keys: Sequence[SortKey]) -> list[Any]:
    return [one.by.desc() if one.descending else one.by.asc() for one in keys]


def _behind(keys: Sequence[SortKey], after: Cursor | None, tie: Tie) -> ColumnElement[bool] | None:
    """That an entry stands behind the one at `after`."""
    if after is None:
        return None
    stood = zip(keys, after[:-1], strict=False)
    values: list[ColumnElement[Any]] = [cast(literal(one), key.by.type) for key, one in stood]
    values.append(tie(literal(int(after[-1]))).by)
    by = [one.by for one in keys]
    if len({one.descending for one in keys}) == 1:
        here, there = tuple_(*by), tuple_(*values)
        found: ColumnElement[bool] = here < there if keys[0].descending else here > there
        return found
    each = []
    for at, one in enumerate(keys):
        same = [key.by == value for key, value in zip(keys[:at], values, strict=False)]
        beyond = one.by < values[at] if one.descending else one.by > values[at]
        each.append(and_(*same, beyond))
    return or_(*each)


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
