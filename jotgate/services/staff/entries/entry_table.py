"""The table of a questionnaire's entries: pages of it by a view, counts, and what is grouped."""

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound, Unavailable
from jotgate.core.common.today import Today, today_in
from jotgate.core.conditions.comparison import is_like
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import Around
from jotgate.core.entries.stored import from_json
from jotgate.core.entries.table import EntryTable, TableColumn, table_of, team_code, view_faults
from jotgate.core.records.accounts import Account
from jotgate.core.table_views import TableView
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.entries.entries import carers_of, own_clearance, withheld_of
from jotgate.services.staff.rights import needs
from jotgate.store.base import Connection
from jotgate.store.entry_table import indexes, likes, pages, rows
from jotgate.store.entry_table.known import TableKnown, table_known
from jotgate.store.entry_table.looking import Chosen, Looking, sort_keys, specs
from jotgate.store.entry_table.reading import Cursor

PER_PAGE = 100
MANY = 20_000
"""Entries from which on an order or a filter has an index made for it."""

LONGEST = 10_000
"""Milliseconds that a page or a count may take the database."""

DIFFERENT = 20_000
"""Different texts that are looked through for a pattern."""

GROUPS = 300


@dataclass(frozen=True)
class Opened:
    """What is known of the table before anything is looked for. `table` and `newest` are None
    before the first publishing."""

    table: EntryTable | None
    plans: Mapping[int, Plan]
    known: TableKnown

    @property
    def total(self) -> int:
        return self.known.total

    @property
    def zone(self) -> str:
        return self.known.zone

    @property
    def newest(self) -> Plan | None:
        return self.plans[max(self.plans)] if self.plans else None


@dataclass(frozen=True)
class EntryPage:
    """Entries in the order of a view; `next` is where the next page begins, None behind the last.

    `withheld` are for each entry the restricted questions that were answered, where the reader has
    clearance. `carers` are the names of the people and teams that take care of some, by id.
    `highest` is the largest number of all there are. `lag` entries are not in the order yet, for
    which an index is being made where `making` says so.
    """

    entries: tuple[Entry, ...]
    next: Cursor | None
    opened: Opened
    cleared: bool
    asks_reason: bool
    withheld: Mapping[UUID, tuple[str, ...]]
    carers: Mapping[UUID, str]
    highest: int = 0
    lag: int = 0
    making: bool = False


@dataclass(frozen=True)
class Asked:
    """`archived`: those in the archive too. `over`: of those with a number over it. `chosen`: those
    alone, or all but those."""

    view: TableView = TableView()
    after: Cursor | None = None
    archived: bool = False
    over: int | None = None
    chosen: Chosen | None = None


async def open_table(context: Context, account: Account, id: UUID) -> Opened:
    """The columns. Raises NotFound, NotAllowed."""
    async with context.engine.connect() as conn:
        return await opened_table(context, conn, account, id)


async def opened_table(context: Context, conn: Connection, account: Account, id: UUID) -> Opened:
    await needs(conn, account, "read", id)
    return await open_for_all(context, conn, id)


async def open_for_all(context: Context, conn: Connection, id: UUID) -> Opened:
    """The same for what is shown to others, as those decided who may read it. Raises NotFound."""
    known = await table_known(conn, id, context.clock.now())
    if known is None:
        raise NotFound("There is no such questionnaire.")
    numbers = range(1, (known.edition or 0) + 1)
    plans = {number: await context.plan(conn, id, number) for number in numbers}
    if not plans:
        return Opened(None, {}, known)
    teams = {team_code(id): name for id, name in known.teams.items()}
    around = Around(known.links, known.handling.names)
    table = table_of(plans, around, {**known.people, **teams}, known.handling.terms)
    return Opened(table, plans, known)


async def look_at(
    context: Context, conn: Connection, account: Account, id: UUID, asked: Asked
) -> tuple[Opened, Looking | None]:
    """The table and a view of it, None before the first publishing; in a transaction that is
    planned for it. Raises NotFound, NotAllowed, Invalid."""
    known = await opened_table(context, conn, account, id)
    if known.table is None:
        return known, None
    return known, await looking(context, conn, id, known, asked)


async def page(context: Context, account: Account, id: UUID, asked: Asked = Asked()) -> EntryPage:
    """A page of the table. Raises NotFound, Invalid for a view that asks for what is not there, and
    Unavailable where it takes too long."""
    async with context.engine.begin() as conn:
        known, look = await look_at(context, conn, account, id, asked)
        leave = await own_clearance(context, conn, account, id)
        if look is None:
            return EntryPage((), None, known, leave is not None, False, {}, {})
        making = await _indexed(context, conn, look, known.total)
        found = await pages.page(conn, look, asked.after, asked.over, PER_PAGE + 1)
        plain = asked.view == TableView()
        lag = 0 if plain else await rows.lag(conn, id, known.known.upto, MANY)
        some = found.entries[:PER_PAGE]
        carers = await carers_of(conn, some, {**known.known.people, **known.known.teams})
    more = len(found.entries) > PER_PAGE
    shown = [opened(one, known.plans[one.edition], known.newest) for one in some]
    hidden = {one.id: more for one, more in shown if leave}
    withheld = await withheld_of(context, id, hidden)
    return EntryPage(
        entries=tuple(one for one, _ in shown),
        next=found.end(PER_PAGE - 1) if more else None,
        opened=known,
        cleared=leave is not None,
        asks_reason=leave is not None and leave.asks_reason,
        withheld=withheld,
        carers=carers,
        highest=known.known.highest,
        lag=lag,
        making=making,
    )


async def looking(
    context: Context, conn: Connection, id: UUID, opened: Opened, asked: Asked
) -> Looking:
    """A view of a table with editions, ready to be looked at. Raises Invalid."""
    table = opened.table
    assert table is not None
    faults = list(view_faults(asked.view, table))
    if faults:
        raise Invalid(faults[0].message, faults)
    if asked.view.search and opened.known.sealing:
        message = "Answers that are restricted by now are being sealed. Search again in a moment."
        raise Unavailable(message)
    await pages.planned_anew(conn, LONGEST)
    today = today_in(opened.zone, context.clock.now())
    archived = asked.archived or not opened.known.archived
    like = await _likes(conn, id, table, asked.view, today)
    return Looking(id, table, asked.view, today, archived, like, asked.chosen)


async def _likes(
    conn: Connection, id: UUID, table: EntryTable, view: TableView, today: Today
) -> dict[tuple[str, str], list[str]]:
    """The texts that are like the patterns of a filter: PostgreSQL has patterns of another kind."""
    found = {}
    for key, pattern in likes.likes_in(view.filter):
        texts = await likes.texts(conn, id, key, table, today, DIFFERENT + 1)
        if len(texts) > DIFFERENT:
            message = f"There are too many different answers to {key} for a pattern."
            raise Invalid(message)
        found[key, pattern] = await asyncio.to_thread(_like, texts, pattern)
    return found


def _like(texts: Sequence[str], pattern: str) -> list[str]:
    return [one for one in texts if is_like(one, pattern)]


async def _indexed(context: Context, conn: Connection, look: Looking, total: int) -> bool:
    """Have indexes made where there are many entries; whether one is being made."""
    if total < MANY:
        return False
    wanted = list(specs(look, sort_keys(look)))[:4]
    return await indexes.want(conn, wanted, context.clock.now(), context.queue)


async def count(context: Context, account: Account, id: UUID, asked: Asked) -> int:
    """How many entries a view shows. Raises as `page` does."""
    async with context.engine.begin() as conn:
        known, look = await look_at(context, conn, account, id, asked)
        if look is None:
            return 0
        every = look.archived and asked.view.filter is None and not asked.view.search
        if every and asked.over is None:
            return known.total
        return await pages.count(conn, look, asked.over)


@dataclass(frozen=True)
class Group:
    """So many entries that say the same in the column that is grouped by, in words; empty where
    they say nothing."""

    words: str
    entries: int


async def groups(context: Context, account: Account, id: UUID, asked: Asked) -> list[Group]:
    """In their order, at most `GROUPS`. Raises as `page` does, and Invalid where the view groups by
    nothing."""
    async with context.engine.begin() as conn:
        known, look = await look_at(context, conn, account, id, asked)
        if look is None or known.newest is None:
            return []
        column = look.table.open.get(asked.view.group or "")
        if column is None:
            raise Invalid("The view is not grouped.")
        found = await pages.groups(conn, look, column, GROUPS)
    reader = Reader(known.newest)
    return [Group(_words(reader, column, value), many) for value, many in found]


def _words(reader: Reader, column: TableColumn, value: Any) -> str:
    if value is None or value == "":
        return ""
    try:
        return reader.reads(column.item, from_json(column.item, value))
    except (ValueError, ArithmeticError, TypeError, KeyError, AttributeError):
        return str(value)
