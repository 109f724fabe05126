"""A register that gets another name or other columns."""

import asyncio
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Stale
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column, Register
from jotgate.core.registers.columns_changed import MOST_TOLD, Becoming, Unfit
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import named, refuse_faulty, there, where_of
from jotgate.services.staff.registers.writing import put_cells
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store.base import Connection
from jotgate.store.registers import ordered, registers, row_secrets, rows

AT_ONCE = 1_000
"""Rows that are read anew at once."""


@dataclass(frozen=True)
class ColumnsGiven:
    """What a register becomes over `revision`. Cells that cannot be kept are cleared with `clear`;
    without it nothing is changed where there are any. Where it is not `cleared` any more, what was
    restricted beside its rows is removed."""

    revision: int
    name: str
    columns: Sequence[Column]
    clear: bool
    cleared: bool = False


@dataclass(frozen=True)
class ColumnsPut:
    """The register as it is by now. It was not changed where `unfit` cells stood against it: how
    many, and the first of them."""

    register: Register
    unfit: int = 0
    told: tuple[Unfit, ...] = ()


class _Unfit(Exception):
    def __init__(self, count: int, told: list[Unfit]) -> None:
        super().__init__()
        self.count, self.told = count, told


async def put(context: Context, account: Account, id: UUID, given: ColumnsGiven) -> ColumnsPut:
    """Raises NotAllowed, NotFound, Invalid, Stale."""
    refuse_faulty(given.columns)
    name = " ".join(given.name.split())
    try:
        with named(name):
            async with context.restricted.begin() as conn:
                await needs(conn, account, "write", id, "register")
                before = there(await registers.locked(conn, id))
                if before.revision != given.revision:
                    raise Stale("Somebody changed the columns in the meantime.", current=before)
                if given.cleared != before.cleared:
                    await needs(conn, account, "share", id, "register")
                made = Register(
                    id=id,
                    name=name,
                    columns=tuple(given.columns),
                    revision=before.revision + 1,
                    cleared=given.cleared,
                )
                await _rewrite(context, conn, account, before, made, given.clear)
                if before.cleared and not made.cleared:
                    await row_secrets.remove(conn, id)
                await registers.put(conn, made)
                told: dict[str, Any] = {"name": name}
                told["gone"] = [one.label for one in before.columns if one.key not in _keys(made)]
                told |= {} if made.cleared == before.cleared else {"cleared": made.cleared}
                await note(
                    context,
                    conn,
                    account.id,
                    "register_changed",
                    register_id=id,
                    **told,
                )
    except _Unfit as found:
        return ColumnsPut(before, found.count, tuple(found.told))
    return ColumnsPut(made)


def _keys(register: Register) -> set[str]:
    return {one.key for one in register.columns}


async def _rewrite(
    context: Context,
    conn: Connection,
    account: Account,
    before: Register,
    made: Register,
    clear: bool,
) -> None:
    """Read every row as one of the new columns. Raises _Unfit."""
    becoming = Becoming(before.columns, made.columns, await where_of(context, conn))
    if not becoming.touches_cells:
        return
    count, told = 0, list[Unfit]()
    for ids in await _ids(conn, made.id):
        known = await rows.locked(conn, made.id, ids)
        changed, unfit = await asyncio.to_thread(_become, becoming, known.values())
        count += len(unfit)
        told += unfit[: MOST_TOLD - len(told)]
        if not count or clear:
            await put_cells(conn, account, known, changed, context.clock.now())
    if count and not clear:
        raise _Unfit(count, told)


async def _ids(conn: Connection, id: UUID) -> list[list[int]]:
    found = await ordered.every(conn, id)
    return [found[at : at + AT_ONCE] for at in range(0, len(found), AT_ONCE)]


def _become(
    becoming: Becoming, known: Iterable[Row]
) -> tuple[dict[int, dict[str, Cell]], list[Unfit]]:
    changed: dict[int, dict[str, Cell]] = {}
    unfit: list[Unfit] = []
    for row in known:
        cells, wrong = becoming.row(row.id, row.values)
        unfit += wrong
        if cells != row.values:
            changed[row.id] = cells
    return changed, unfit
