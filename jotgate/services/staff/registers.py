"""Registers: listing, adding, reading their rows."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row, RowChange
from jotgate.core.registers.columns import Column, Register
from jotgate.core.rights import IN_THING, Right, reaches, rights_of
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office, needs, role_in, roles
from jotgate.services.trail import note
from jotgate.store import accounts, entries, registers

PER_PAGE = 100


@dataclass(frozen=True)
class RegisterLine:
    """A register in the list of them, with its number of rows."""

    register: Register
    rows: int
    rights: tuple[Right, ...]


async def every(context: Context, account: Account) -> list[RegisterLine]:
    """The registers that `account` has a part in, in the order of their names."""
    async with context.engine.connect() as conn:
        known = await roles(conn, account, "register")
        found = await registers.every(conn)
        counts = await registers.counts(conn)
    return [
        RegisterLine(register, counts.get(id, 0), rights_of(role))
        for id, register in found.items()
        if (role := known.of(id))
    ]


async def add(context: Context, account: Account, name: str, columns: Sequence[Column]) -> Register:
    """Make a register. Raises Invalid for a name or a column key that is taken."""
    in_office(account, "begin")
    keys = [column.key for column in columns]
    doubles = sorted({key for key in keys if keys.count(key) > 1})
    if doubles:
        message = f"More than one column has the key {doubles[0]}. Give each its own."
        raise Invalid(message, [Fault(code="double_key", at="columns", message=message)])
    register = Register(id=context.ids.id(), name=" ".join(name.split()), columns=tuple(columns))
    try:
        async with context.engine.begin() as conn:
            await registers.add(conn, register)
            await note(context, conn, account.id, "register_created", name=register.name)
    except AlreadyThere:
        message = f"There is a register named {register.name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None
    return register


@dataclass(frozen=True)
class RegisterPage:
    """A register, rows from the newest back, and whether older ones follow."""

    register: Register
    rights: tuple[Right, ...]
    rows: tuple[Row, ...]
    more: bool


async def page(context: Context, account: Account, id: UUID, before: int | None) -> RegisterPage:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        register = (await registers.every(conn)).get(id)
        if register is None:
            raise NotFound("There is no such register.")
        found = await registers.newest(conn, id, before, PER_PAGE + 1)
        rights = rights_of(await role_in(conn, account, "register", id))
    return RegisterPage(register, rights, tuple(found[:PER_PAGE]), len(found) > PER_PAGE)


CHANGES = 200
"""Changes of a row that are told, the last ones."""


@dataclass(frozen=True)
class RowRead:
    """A row with what became of it, the last first; `names` are those of the people who changed it.
    `source` is the questionnaire and the entry that it came from, where the reader may see that;
    `gone` tells that the entry was deleted."""

    register: Register
    row: Row
    changes: tuple[RowChange, ...]
    names: Mapping[UUID, str]
    source: tuple[UUID, UUID] | None
    gone: bool


async def row(context: Context, account: Account, id: UUID, row_id: int) -> RowRead:
    """Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        register = (await registers.every(conn, [id])).get(id)
        found = await registers.row(conn, id, row_id)
        if register is None or found is None:
            raise NotFound("There is no such row.")
        one, questionnaire_id, entry_id = found
        changes = await registers.changes_of(conn, row_id, CHANGES)
        people = {change.account_id for change in changes if change.account_id}
        names = {p.id: p.name for p in await accounts.people(conn) if p.id in people}
        role = await role_in(conn, account, "questionnaire", questionnaire_id)
        entry = await entries.entry(conn, questionnaire_id, entry_id)
    may_see = reaches(role, IN_THING["read"]) and entry is not None
    source = (questionnaire_id, entry_id) if may_see else None
    return RowRead(register, one, tuple(changes), names, source, entry is None)
