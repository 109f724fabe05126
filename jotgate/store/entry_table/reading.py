"""Reading entries in the order of a view, some at a time."""

import re
from bisect import bisect_right
from collections.abc import Awaitable, Callable, Sequence
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
    tuple_,
)

from jotgate.core.handling import stored
from jotgate.core.items import options_of
from jotgate.store.base import Connection, copy_out
from jotgate.store.entries.entry_tables import WITH_WAYS, entries, entry_ways
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
"""Where entries end that were read: what the last is sorted by, as PostgreSQL writes it, and its
number."""


@dataclass(frozen=True)
class Form:
    """In which form `get` has what a statement finds; `first` are the first fields of a row."""

    get: Callable[[Connection, Select[Any]], Awaitable[Sequence[Any]]]
    first: Callable[[Any, int], Sequence[Any]]


async def _rows(conn: Connection, query: Select[Any]) -> Sequence[Any]:
    found: Sequence[Any] = (await conn.execute(query)).all()
    return found


_FIELD = re.compile(r'"((?:[^"]|"")*)"|([^",\r\n]*)')
"""A field of CSV (RFC 4180)."""


def _first(line: bytes, many: int) -> list[str]:
    text, at = line.decode(), 0
    found: list[str] = []
    while len(found) < many and (one := _FIELD.match(text, at)):
        quoted, plain = one.groups()
        found.append(plain if quoted is None else quoted.replace('""', '"'))
        at = one.end() + 1
    return found


ROWS = Form(_rows, lambda row, many: row[:many])
LINES = Form(copy_out, _first)
"""As lines of CSV, which PostgreSQL writes."""


@dataclass(frozen=True)
class Read:
    """Entries in the order of a view, each as the columns that were asked for, behind `before`
    others; `end` is where the entry at an index stands."""

    rows: Sequence[Any]
    before: int
    end: Callable[[int], Cursor]


RECENT, SELDOM = 50, 6
"""For each entry that is wanted, so many from the newest back are looked through for words before
the index over them is asked; where not one in `SELDOM` of those wanted is found, they are rare, and
what is rare the index finds at once. PostgreSQL cannot know how often beginnings of words occur."""


_THROUGH = select(func.set_config("enable_bitmapscan", bindparam("bitmaps", type_=Text()), True))
"""Whether statements may ask indexes over all there is, or have to look through what is there."""


async def read(
    conn: Connection,
    look: Looking,
    columns: Sequence[ColumnElement[Any]],
    after: Cursor | None,
    limit: int,
    over: int | None = None,
    form: Form = ROWS,
) -> Read:
    """Columns of entries and of their ways in the order of the view, from behind `after` on; of
    those with a number over `over` where it is given."""
    keys, tests = sort_keys(look), fitting(look)
    if over is not None:
        tests.append(number_in([*(one.by for one in keys), *tests]) > over)
    rare = False
    if look.view.search and over is None:
        before = after if not keys else None
        recent = await _recent(conn, _Wanted(look, columns, tests, limit, form), before)
        if len(recent.rows) == limit and not keys:
            return recent
        rare = len(recent.rows) * SELDOM < limit
        if rare:
            rarest = await _rarest(conn, look, before, limit)
            tests = fitting(look, rarest)
    wanted = _Wanted(look, columns, tests, limit, form, rare)
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
    form: Form
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
    rows: list[Any] = []
    parts: list[tuple[int, str, Read]] = []
    for place in range(at, len(stretches)):
        behind = after[1:] if after and place == at else None
        own = [*wanted.tests, _E.status == stretches[place]]
        left = replace(wanted, tests=own, limit=limit - len(rows))
        found = await _ordered(conn, left, keys, behind)
        parts.append((len(rows), str(place), found))
        rows += found.rows
        if len(rows) == limit:
            break

    def end(at: int) -> Cursor:
        first, place, part = parts[bisect_right(parts, at, key=lambda one: one[0]) - 1]
        return place, *part.end(at - first)

    return Read(rows, len(keys) + 1, end)


async def _ordered(
    conn: Connection, wanted: _Wanted, keys: Sequence[SortKey], after: Cursor | None
) -> Read:
    form, many = wanted.form, len(keys) + 1
    rows = await form.get(conn, _query(wanted, keys, after))

    def end(at: int) -> Cursor:
        return tuple(map(str, form.first(rows[at], many)))

    return Read(rows, many, end)


def _query(wanted: _Wanted, keys: Sequence[SortKey], after: Cursor | None) -> Select[Any]:
    """What is sorted by as text, the number, and the columns. What has to be sorted is found before
    anything else is read of it."""
    look, tests = wanted.look, wanted.tests
    number = number_in([*(one.by for one in keys), *tests])
    tie = _tie(keys)
    last = _behind([*keys, tie(number)], after, tie)
    by = [one.by.label(f"s{at}") for at, one in enumerate(keys)]
    behind = [*tests, last] if last is not None else tests
    if not keys and number is _E.number:
        whole_rows = chosen(look, [number.label("end"), *wanted.columns], behind)
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
    ends = [*(cast(one.by, Text) for one in again), some.c.found]
    named = select(*ends, *wanted.columns)
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
