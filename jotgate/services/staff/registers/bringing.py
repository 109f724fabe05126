"""Rows of a register out of a table that somebody brings, and registers made for one."""

from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.formats.rows_in import proposed_columns, proposed_matching
from jotgate.core.formats.table_in import AT_ONCE
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import UploadedTable, Work
from jotgate.core.registers.columns import Column, Register
from jotgate.services.context import Context
from jotgate.services.staff.registers.registers import there
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.tables import tables
from jotgate.store import work
from jotgate.store.registers import registers


async def take_new(
    context: Context, account: Account, name: str, body: bytes
) -> tuple[UploadedTable, list[Column]]:
    """A table, and the columns of a register that could be made for it."""
    in_office(account, "begin")
    table = await tables.take(context, account, name, body)
    first = await tables.rows(context, table, 0, AT_ONCE)
    return table, await context.apart(proposed_columns, table.columns, first)


async def take_table(
    context: Context, account: Account, id: UUID, name: str, body: bytes
) -> tuple[UploadedTable, dict[int, str]]:
    """A table of rows for a register, and which column each of its columns probably is."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id, "register")
        register = there((await registers.every(conn, [id])).get(id))
    table = await tables.take(context, account, name, body)
    return table, proposed_matching(table.columns, register.columns)


@dataclass(frozen=True)
class Bringing:
    """`columns` says by the number of a column of the table, from 0, which column of the register
    it is. With `partly` cells that do not fit are left empty; without it nothing is added where
    there are any. `zone` is the time zone in which moments are written."""

    table_id: UUID
    columns: Mapping[int, str]
    partly: bool
    zone: str | None


async def bring(context: Context, account: Account, id: UUID, wanted: Bringing) -> Work:
    """Have the rows of a table added by the worker. Raises Invalid, NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id, "register")
        register = there((await registers.every(conn, [id])).get(id))
        table = await tables.own(conn, account, wanted.table_id)
        _suit(register, table, wanted.columns)
        said = {
            "table_id": str(table.id),
            "register_id": str(id),
            "revision": register.revision,
            "columns": [[at, key] for at, key in wanted.columns.items()],
            "partly": wanted.partly,
            "zone": wanted.zone,
        }
        return await tables.ask(context, conn, account, "bring_rows", table, said)


def _suit(register: Register, table: UploadedTable, columns: Mapping[int, str]) -> None:
    faults = []
    known = {one.key for one in register.columns if one.formula is None and one.type != "files"}
    held = list(columns.values())
    for number, key in columns.items():
        at = f"columns/{number}"
        if key not in known or not 0 <= number < len(table.columns):
            message = f"There is no column {key} to write to."
            faults.append(Fault(code="no_column", at=at, message=message))
        elif held.count(key) > 1:
            message = "Another column goes there already."
            faults.append(Fault(code="twice", at=at, message=message))
    if not columns:
        message = "Say what at least one column of the table is."
        faults.append(Fault(code="nothing", at="columns", message=message))
    if faults:
        raise Invalid(faults[0].message, faults)


async def progress(context: Context, account: Account, id: UUID, work_id: UUID) -> Work:
    """Work at a register that `account` asked for. Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        found = await work.find(conn, work_id)
    if (
        found is None
        or found.account_id != account.id
        or found.arguments.get("register_id") != str(id)
    ):
        raise NotFound("There is no such work.")
    return found
