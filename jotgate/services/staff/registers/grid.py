"""The rows of a register as a view shows them, and what others do in it meanwhile."""

import asyncio
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.common.today import Today, today_in
from jotgate.core.conditions.condition import Condition, holds, named
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.core.records.questionnaires import Present
from jotgate.core.registers.cells import Cell, Person
from jotgate.core.registers.columns import Column, Register
from jotgate.core.registers.values import values_of
from jotgate.core.registers.views import view_faults
from jotgate.core.table_views import TableView
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import named_people, there
from jotgate.services.staff.rights import needs
from jotgate.store import presence
from jotgate.store.base import Connection
from jotgate.store.registers import ordered, registers

MOST = 200_000
"""Rows that one view shows."""

AT_ONCE = 500
"""Rows that are read, or told as changed, at once."""


@dataclass(frozen=True)
class Group:
    """So many rows that follow each other and have the same cell."""

    cell: Cell | None
    rows: int


@dataclass(frozen=True)
class Order:
    """The ids of the rows that a view shows, in its order; `mark` is for what is written later,
    `more` tells that there are others behind the last one. `revision` is that of the columns."""

    ids: tuple[int, ...]
    groups: tuple[Group, ...]
    more: bool
    mark: int
    revision: int


async def order(context: Context, account: Account, id: UUID, view: TableView) -> Order:
    """Raises NotFound, Invalid for a view that asks for what is not there."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        register = there((await registers.every(conn, [id])).get(id))
        known = await named_people(context, conn, register)
        _refuse_faulty(view, register.columns, known)
        mark = await ordered.mark(conn)
        ids, cells = await ordered.order(conn, id, register.columns, view, _names(known), MOST + 1)
        fitting = await _fitting(context, conn, register, view.filter)
    more = len(ids) > MOST
    if fitting is not None:
        cells = [cell for one, cell in zip(ids, cells, strict=False) if one in fitting]
        ids = [one for one in ids if one in fitting]
    return Order(tuple(ids), _groups(cells), more, mark, register.revision)


def _refuse_faulty(view: TableView, columns: Sequence[Column], known: Mapping[str, Person]) -> None:
    faults = list(view_faults(view, columns, known))
    if faults:
        raise Invalid(faults[0].message, faults)


def _names(known: Mapping[str, Person]) -> dict[str, str]:
    return {id: one.name for id, one in known.items()}


def _groups(cells: Iterable[Cell | None]) -> tuple[Group, ...]:
    found: list[Group] = []
    for cell in cells:
        if found and found[-1].cell == cell:
            found[-1] = Group(cell, found[-1].rows + 1)
        else:
            found.append(Group(cell, 1))
    return tuple(found)


async def _fitting(
    context: Context,
    conn: Connection,
    register: Register,
    condition: Condition | None,
    ids: Collection[int] | None = None,
) -> frozenset[int] | None:
    """The ids of the rows that a condition is true of, None where all are meant. What rows say in
    the columns that it names is looked at once for all that say the same."""
    if condition is None:
        return None
    keys = sorted(named(condition))
    columns = [one for one in register.columns if one.key in keys]
    today = today_in((await office.current(context)).time_zone, context.clock.now())
    found = await ordered.alike_in(conn, register.id, keys, ids)
    return await asyncio.to_thread(_holding, condition, columns, today, found)


def _holding(
    condition: Condition,
    columns: Sequence[Column],
    today: Today,
    found: Iterable[tuple[Mapping[str, Cell], list[int]]],
) -> frozenset[int]:
    return frozenset(
        id
        for cells, ids in found
        if holds(condition, values_of(columns, cells), today)
        for id in ids
    )


async def read(context: Context, account: Account, id: UUID, ids: Collection[int]) -> list[Row]:
    """Those of these rows that are there, in no order."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        return await ordered.read(conn, id, ids)


@dataclass(frozen=True)
class Written:
    """A row that somebody or a rule wrote; `fits` tells whether the view shows it. It is gone where
    it was removed."""

    row: Row
    fits: bool


@dataclass(frozen=True)
class News:
    """What was written since a mark, and the next mark. With `many` it is too much to be told: the
    order is to be asked anew, as where `revision` is not the one that is known."""

    rows: tuple[Written, ...]
    many: bool
    mark: int
    revision: int
    others: tuple[Present, ...]


@dataclass(frozen=True)
class Looking:
    """Where somebody is: the tab of a browser, and the row and column in it."""

    tab: str
    at: str


async def news(
    context: Context, account: Account, id: UUID, view: TableView, since: int, looking: Looking
) -> News:
    """What is new to a view, and who else is there; says too that `account` is. Raises NotFound,
    Invalid."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "read", id, "register")
        register = there((await registers.every(conn, [id])).get(id))
        mark = await ordered.mark(conn)
        found = await ordered.written_since(conn, id, since, AT_ONCE + 1)
        many = len(found) > AT_ONCE
        rows = () if many else await _written(context, conn, register, view, found)
        await presence.note(conn, id, looking.tab, account.id, looking.at, now)
        others = await presence.others(conn, id, looking.tab, now)
    return News(tuple(rows), many, mark, register.revision, tuple(others))


async def _written(
    context: Context, conn: Connection, register: Register, view: TableView, found: Sequence[Row]
) -> list[Written]:
    if not found:
        return []
    known = await named_people(context, conn, register)
    _refuse_faulty(view, register.columns, known)
    ids = [one.id for one in found]
    fitting = await _fitting(context, conn, register, view.filter, ids)
    if view.search:
        has = await ordered.searched(
            conn, register.id, register.columns, view.search, _names(known), ids
        )
        fitting = frozenset(has) if fitting is None else fitting & has
    return [
        Written(one, one.removed is None and (fitting is None or one.id in fitting))
        for one in found
    ]
