"""Pages of a table of entries, and what is counted of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, Text, and_, cast, func, literal, or_, select, text, tuple_
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.entry import Entry
from jotgate.core.entries.table import TableColumn
from jotgate.core.items import options_of
from jotgate.store.base import Connection
from jotgate.store.entries import ENTRY, WITH_WAYS, entries
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import (
    Looking,
    SortKey,
    chosen,
    fitting,
    number_in,
    sort_keys,
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


SETTINGS = {
    "plan_cache_mode": "force_custom_plan",
    "jit": "off",
    "random_page_cost": "1.1",
}
"""Which index serves a statement hangs on what it asks for; compiling it takes longer than it runs;
and what is looked at every day is in memory."""


async def planned_anew(conn: Connection, milliseconds: int) -> None:
    """For this transaction: statements are planned for what they ask for, and end after so long."""
    wanted = {**SETTINGS, "statement_timeout": str(milliseconds)}
    await conn.execute(select(*(func.set_config(name, one, True) for name, one in wanted.items())))


async def any_archived(conn: Connection, questionnaire_id: UUID) -> bool:
    query = select(_E.number).where(
        _E.questionnaire_id == questionnaire_id, _E.archived.is_not(None)
    )
    return (await conn.execute(query.limit(1))).one_or_none() is not None


async def highest(conn: Connection, questionnaire_id: UUID) -> int:
    """The largest number that an entry has; 0 where there is none."""
    query = select(func.coalesce(func.max(_E.number), 0))
    query = query.where(_E.questionnaire_id == questionnaire_id)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def page(
    conn: Connection, look: Looking, after: Cursor | None, over: int | None, limit: int
) -> Found:
    """Entries in the order of the view, from behind `after` on; of those with a number over `over`
    where it is given."""
    keys, tests = sort_keys(look), fitting(look)
    if over is not None:
        tests.append(number_in([*(one.by for one in keys), *tests]) > over)
    first = look.view.order[0] if look.view.order else None
    if first is not None and first.column == STATUS:
        codes = [one.code for one in options_of(look.table.columns[STATUS].item)]
        stretches = [*(reversed(codes) if first.descending else codes), ""]
        return await _by_status(conn, look, (keys[1:], tests), stretches, after, limit)
    return await _ordered(conn, look, keys, tests, after, limit)


async def _by_status(
    conn: Connection,
    look: Looking,
    what: tuple[Sequence[SortKey], list[ColumnElement[bool]]],
    stretches: Sequence[str],
    after: Cursor | None,
    limit: int,
) -> Found:
    """One status after the other, those without one last: there is an index by status, and none
    that has statuses in the order of the office."""
    keys, tests = what
    at = int(after[0]) if after else 0
    entries_found: list[Entry] = []
    cursors: list[Cursor] = []
    for place in range(at, len(stretches)):
        behind = after[1:] if after and place == at else None
        own = [*tests, _E.status == stretches[place]]
        left = limit - len(entries_found)
        found = await _ordered(conn, look, keys, own, behind, left)
        entries_found += found.entries
        cursors += [(str(place), *one) for one in found.cursors]
        if len(entries_found) == limit:
            break
    return Found(tuple(entries_found), tuple(cursors))


async def _ordered(
    conn: Connection,
    look: Looking,
    keys: Sequence[SortKey],
    tests: Sequence[ColumnElement[bool]],
    after: Cursor | None,
    limit: int,
) -> Found:
    number = number_in([*(one.by for one in keys), *tests])
    last = _behind(keys, number, after)
    by = [one.by.label(f"s{at}") for at, one in enumerate(keys)]
    wanted = [*tests, last] if last is not None else tests
    inner = chosen(look, [number.label("found"), *by], wanted)
    inner = inner.order_by(*_order(keys, number)).limit(limit)
    some = inner.subquery("some")
    again = [SortKey(some.c[f"s{at}"], one.descending) for at, one in enumerate(keys)]
    query = (
        select(*ENTRY, *(cast(one.by, Text) for one in again))
        .select_from(some)
        .join(
            entries,
            and_(_E.questionnaire_id == look.questionnaire_id, _E.number == some.c.found),
        )
        .outerjoin(*WITH_WAYS)
        .order_by(*_order(again, some.c.found, _tied(keys)))
    )
    rows = (await conn.execute(query)).all()
    names = list(Entry.model_fields)
    found = tuple(Entry(**dict(zip(names, row, strict=False))) for row in rows)
    ends = (row[len(names) :] for row in rows)
    cursors = zip(found, ends, strict=True)
    return Found(found, tuple((*end, str(one.number)) for one, end in cursors))


def _tied(keys: Sequence[SortKey]) -> bool:
    """Whether what is alike stands with the newest first; what arrived at one moment stands as all
    else, since the index for it is made already."""
    only = [one for one in keys if one.part is None]
    return not (len(keys) == 1 and only and only[0].by is _R.arrived)


def _order(
    keys: Sequence[SortKey], number: ColumnElement[Any], newest: bool | None = None
) -> list[Any]:
    newest = _tied(keys) if newest is None else newest
    every = [one.by.desc() if one.descending else one.by.asc() for one in keys]
    if not keys or not all(not one.descending for one in keys):
        return [*every, number.desc()]
    return [*every, (-number).asc() if newest else number.asc()]


def _behind(
    keys: Sequence[SortKey], number: ColumnElement[Any], after: Cursor | None
) -> ColumnElement[bool] | None:
    """That an entry stands behind the one at `after`."""
    if after is None:
        return None
    there = int(after[-1])
    values = [cast(literal(one), key.by.type) for key, one in zip(keys, after, strict=False)]
    by = [one.by for one in keys]
    if all(one.descending for one in keys):
        found: ColumnElement[bool] = tuple_(*by, number) < tuple_(*values, literal(there))
        return found
    if not any(one.descending for one in keys):
        if not _tied(keys):
            found = tuple_(*by, number) > tuple_(*values, literal(there))
            return found
        found = tuple_(*by, -number) > tuple_(*values, literal(-there))
        return found
    each = []
    for at, one in enumerate(keys):
        same = [key.by == value for key, value in zip(keys[:at], values, strict=False)]
        beyond = one.by < values[at] if one.descending else one.by > values[at]
        each.append(and_(*same, beyond))
    alike = [key.by == value for key, value in zip(keys, values, strict=True)]
    return or_(*each, and_(*alike, number < there))


async def count(conn: Connection, look: Looking, over: int | None = None) -> int:
    tests = fitting(look)
    number = number_in(tests)
    tests += [number > over] if over is not None else []
    query = chosen(look, [func.count(number)], tests)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def numbers(conn: Connection, look: Looking, after: int, upto: int, limit: int) -> list[int]:
    """The numbers of entries that a view shows, from the smallest on."""
    tests = fitting(look)
    number = number_in(tests)
    query = chosen(look, [number.label("number")], [*tests, number > after, number <= upto])
    return list((await conn.execute(query.order_by(number).limit(limit))).scalars())


async def groups(
    conn: Connection, look: Looking, column: TableColumn, limit: int
) -> list[tuple[Any, int]]:
    """What entries say in a column, as it is stored, each with how many do, in its order."""
    (key, *_) = sort_keys(look)
    said: ColumnElement[Any] = (
        FACTS[column.key].at(look.today)
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


__all__ = ["Cursor", "Found", "any_archived", "count", "groups", "numbers", "page"]
