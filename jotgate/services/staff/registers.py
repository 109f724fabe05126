"""Registers: listing, adding, reading their rows."""

from collections.abc import Sequence
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.entries.register import Column, Register
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.services.context import Context, may_write
from jotgate.store import registers, trail

PER_PAGE = 100


async def every(context: Context) -> list[tuple[Register, int]]:
    """All registers with their number of rows, in the order of their names."""
    async with context.engine.connect() as conn:
        found = await registers.every(conn)
        counts = await registers.counts(conn)
    return [(register, counts.get(id, 0)) for id, register in found.items()]


async def add(context: Context, account: Account, name: str, columns: Sequence[Column]) -> Register:
    """Make a register. Raises Invalid for a name or a column key that is taken."""
    may_write(account)
    keys = [column.key for column in columns]
    doubles = sorted({key for key in keys if keys.count(key) > 1})
    if doubles:
        message = f"More than one column has the key {doubles[0]}. Give each its own."
        raise Invalid(message, [Fault(code="double_key", at="columns", message=message)])
    register = Register(id=context.ids.id(), name=" ".join(name.split()), columns=tuple(columns))
    try:
        async with context.engine.begin() as conn:
            await registers.add(conn, register)
            now = context.clock.now()
            await trail.add(conn, now, account.id, "register_created", name=register.name)
    except AlreadyThere:
        message = f"There is a register named {register.name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None
    return register


async def page(
    context: Context, id: UUID, before: int | None
) -> tuple[Register, tuple[Row, ...], bool]:
    """A register, rows from the newest back, and whether older ones follow."""
    async with context.engine.connect() as conn:
        register = (await registers.every(conn)).get(id)
        if register is None:
            raise NotFound("There is no such register.")
        found = await registers.newest(conn, id, before, PER_PAGE + 1)
    return register, tuple(found[:PER_PAGE]), len(found) > PER_PAGE
