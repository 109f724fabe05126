"""Registers: listing, adding, reading their rows."""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TypeVar
from uuid import UUID
from zoneinfo import ZoneInfo

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.common.values import FileFacts
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row, RowChange
from jotgate.core.registers.as_questionnaire import as_questionnaire, not_asked
from jotgate.core.registers.cells import Person, Where
from jotgate.core.registers.columns import Column, Register
from jotgate.core.registers.columns_changed import column_faults
from jotgate.core.rights import IN_THING, Right, reaches, rights_of
from jotgate.core.table_views import SavedView
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.dispatch.known import people
from jotgate.services.staff import questionnaires
from jotgate.services.staff.entries.entries import Download, download
from jotgate.services.staff.registers.kept import Kept, kept_beside
from jotgate.services.staff.rights import in_office, needs, role_in, roles
from jotgate.services.trail import note
from jotgate.store import views
from jotgate.store.accounts import accounts
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.registers import history, ordered, registers, row_files, rows

F = TypeVar("F")


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
        counts = await rows.counts(conn)
    return [
        RegisterLine(register, counts.get(id, 0), rights_of(role))
        for id, register in found.items()
        if (role := known.of(id))
    ]


async def add(context: Context, account: Account, name: str, columns: Sequence[Column]) -> Register:
    """Make a register. Raises Invalid for a taken name, or columns that do not go together."""
    in_office(account, "begin")
    refuse_faulty(columns)
    register = Register(id=context.ids.id(), name=" ".join(name.split()), columns=tuple(columns))
    with named(register.name):
        async with context.engine.begin() as conn:
            await registers.add(conn, register)
            await note(context, conn, account.id, "register_created", name=register.name)
    return register


def refuse_faulty(columns: Sequence[Column]) -> None:
    """Raise Invalid for columns that do not go together."""
    faults = list(column_faults(columns))
    if faults:
        raise Invalid(faults[0].message, faults)


@contextmanager
def named(name: str) -> Iterator[None]:
    """Raise Invalid where a register has the name already."""
    try:
        yield
    except AlreadyThere:
        message = f"There is a register named {name}. Give this one another name."
        raise Invalid(message, [Fault(code="taken", at="name", message=message)]) from None


@dataclass(frozen=True)
class RegisterRead:
    """A register as `rights` let somebody work in it: the views that they have, the people whom
    columns name, by id, and how many rows there are."""

    register: Register
    rights: tuple[Right, ...]
    rows: int
    views: tuple[SavedView, ...]
    people: Mapping[str, Person]


async def read(context: Context, account: Account, id: UUID) -> RegisterRead:
    """Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        register = there((await registers.every(conn, [id])).get(id))
        return RegisterRead(
            register,
            rights_of(await role_in(conn, account, "register", id)),
            await ordered.count(conn, id),
            tuple(await views.views_of(conn, ("register", id), account.id)),
            await named_people(context, conn, register),
        )


async def named_people(
    context: Context, conn: Connection, register: Register
) -> Mapping[str, Person]:
    """The people of the office by id, where columns of the register name them."""
    return await people(conn, context.clock.now()) if register.names_people else {}


def there(found: F | None) -> F:
    if found is None:
        raise NotFound("There is no such register.")
    return found


async def where_of(context: Context, conn: Connection, zone: str | None = None) -> Where:
    """Where staff write cells: in a time zone or that of the office, with its people."""
    zone = zone or (await office.current(context)).time_zone
    return Where(ZoneInfo(zone), await people(conn, context.clock.now()))


@dataclass(frozen=True)
class MadeOf:
    """A questionnaire that was made of a register, and the columns that it does not ask for."""

    id: UUID
    left_out: tuple[str, ...]


async def make_questionnaire(context: Context, account: Account, id: UUID) -> MadeOf:
    """Begin a questionnaire with a question for each column. Raises NotAllowed, NotFound."""
    in_office(account, "begin")
    register = (await read(context, account, id)).register
    found = await office.current(context)
    draft = as_questionnaire(register, found.languages[0], found.time_zone)
    made = await questionnaires.add(context, account, register.name, draft)
    return MadeOf(made, tuple(one.label for one in not_asked(register)))


async def remove(context: Context, account: Account, id: UUID, name: str) -> None:
    """Delete a register with its rows for good, once its `name` was written. Rules that file to it
    say so from then on. Raises NotAllowed, NotFound, Invalid."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "share", id, "register")
        register = there(await registers.locked(conn, id))
        if " ".join(name.split()) != register.name:
            message = f"Write {register.name} to delete it."
            raise Invalid(message, [Fault(code="not_named", at="name", message=message)])
        count = await ordered.count(conn, id)
        gone = await row_files.files_alone(conn, id)
        await registers.remove(conn, id)
        await note(context, conn, account.id, "register_removed", name=register.name, count=count)
    for file_id in gone:
        await context.files.remove(f"files/{file_id}")


CHANGES = 200
"""Changes of a row that are told, the last ones."""


@dataclass(frozen=True)
class RowRead:
    """A row with what became of it, the last first; `names` are those of the people of the office.
    `source` is the questionnaire and the entry that it came from, where the reader may see that;
    `gone` tells that the entry was deleted. `kept` are the restricted questions whose answers stand
    beside it, of those that the reader is cleared for; `named` are by column the entries that it
    names and the reader may see."""

    register: Register
    row: Row
    changes: tuple[RowChange, ...]
    names: Mapping[UUID, str]
    source: tuple[UUID, UUID] | None
    gone: bool
    files: tuple[FileFacts, ...]
    kept: tuple[Kept, ...]
    named: Mapping[str, UUID]


async def row(context: Context, account: Account, id: UUID, row_id: int) -> RowRead:
    """Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        register = (await registers.every(conn, [id])).get(id)
        found = await rows.row(conn, id, row_id)
        if register is None or found is None:
            raise NotFound("There is no such row.")
        one, questionnaire_id, entry_id = found
        changes = await history.changes_of(conn, row_id, CHANGES)
        everybody = await accounts.people(conn)
        source, gone = await _source(conn, account, questionnaire_id, entry_id)
        files = await row_files.files_of(conn, row_id)
        entries_named = await _entries_named(conn, account, register, one)
    names = {person.id: person.name for person in everybody}
    kept = await kept_beside(context, account, row_id) if register.cleared else ()
    told = (tuple(changes), names, source, gone, tuple(files), kept, entries_named)
    return RowRead(register, one, *told)


async def _entries_named(
    conn: Connection, account: Account, register: Register, row: Row
) -> dict[str, UUID]:
    found: dict[str, UUID] = {}
    for column in register.columns:
        if column.of is None or column.key not in row.values:
            continue
        if reaches(await role_in(conn, account, "questionnaire", column.of), IN_THING["read"]):
            id = await entries.id_of(conn, column.of, int(str(row.values[column.key])))
            found |= {column.key: id} if id else {}
    return found


async def _source(
    conn: Connection, account: Account, questionnaire_id: UUID | None, entry_id: UUID | None
) -> tuple[tuple[UUID, UUID] | None, bool]:
    """Where a row came from, if `account` may see that, and whether the entry is gone."""
    if questionnaire_id is None or entry_id is None:
        return None, False
    role = await role_in(conn, account, "questionnaire", questionnaire_id)
    entry = await entries.entry(conn, questionnaire_id, entry_id)
    may_see = reaches(role, IN_THING["read"]) and entry is not None
    return (questionnaire_id, entry_id) if may_see else None, entry is None


async def file(
    context: Context, account: Account, id: UUID, row_id: int, file_id: UUID, small: bool
) -> Download:
    """A file that stands in a row, or its preview as WebP. Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id, "register")
        found = await rows.row(conn, id, row_id)
        files = await row_files.files_of(conn, row_id) if found else []
    one = next((one for one in files if one.id == str(file_id)), None)
    if one is None:
        raise NotFound("There is no such file.")
    return await download(context, one, small)
