"""Contacts brought in from a table: looked at first, then written."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.contacts.bringing import proposed
from jotgate.core.contacts.fields import BUILT_IN
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import UploadedTable, Work
from jotgate.services.context import Context
from jotgate.services.staff.contacts.lists import sound_name
from jotgate.services.staff.rights import in_office
from jotgate.services.tables import tables
from jotgate.store import work
from jotgate.store.contacts import contacts, lists

Known = Literal["update", "keep"]
"""What happens to contacts that are there already: brought up to date, or kept as they are."""


async def take_table(
    context: Context, account: Account, name: str, body: bytes
) -> tuple[UploadedTable, dict[int, str]]:
    """A table of contacts, and which field each column probably holds."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        fields = await contacts.fields(conn)
    table = await tables.take(context, account, name, body)
    return table, proposed(table.columns, fields)


async def look(
    context: Context, account: Account, table_id: UUID, columns: Mapping[int, str]
) -> Work:
    """Have a table looked at by the worker: which rows are new, which are there already, which
    stand there twice, which cannot be contacts. Raises Invalid."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        table = await tables.own(conn, account, table_id)
        known = {*BUILT_IN, *(one.key for one in await contacts.fields(conn))}
        _suit(table, columns, known)
        said = {"table_id": str(table.id), "columns": [[at, key] for at, key in columns.items()]}
        return await tables.ask(context, conn, account, "look_at_contacts", table, said)


def _suit(table: UploadedTable, columns: Mapping[int, str], known: set[str]) -> None:
    faults = []
    held = list(columns.values())
    for number, key in columns.items():
        if key not in known or not 0 <= number < len(table.columns):
            message = f"There is no field {key}."
            faults.append(Fault(code="no_field", at=f"columns/{number}", message=message))
        elif held.count(key) > 1:
            message = "Another column holds this already."
            faults.append(Fault(code="twice", at=f"columns/{number}", message=message))
    if not faults and not {"name", "email", "phone", "key"} & set(held):
        message = "Say which column holds the name, the mail address, the phone number or the key."
        faults.append(Fault(code="nobody", at="columns", message=message))
    if faults:
        raise Invalid(faults[0].message, faults)


@dataclass(frozen=True)
class Bringing:
    """`list_id` is a list to put them on, `new_list` the name of one that is made for them."""

    table_id: UUID
    known: Known
    list_id: UUID | None
    new_list: str


async def bring(context: Context, account: Account, wanted: Bringing) -> Work:
    """Have the rows of a table that was looked at written. Raises Invalid, NotFound."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        table = await tables.own(conn, account, wanted.table_id)
        if wanted.list_id is not None and await lists.name_of(conn, wanted.list_id) is None:
            raise NotFound("There is no such list.")
        if wanted.new_list:
            name = sound_name(wanted.new_list)
            if name.casefold() in {one.name.casefold() for one in await lists.every(conn)}:
                message = f"There is a list named {name}. Choose it, or give another name."
                raise Invalid(message, [Fault(code="taken", at="new_list", message=message)])
        said = {
            "table_id": str(table.id),
            "known": wanted.known,
            "list_id": wanted.list_id and str(wanted.list_id),
            "new_list": wanted.new_list,
        }
        return await tables.ask(context, conn, account, "bring_contacts", table, said)


async def progress(context: Context, account: Account, work_id: UUID) -> Work:
    """Work at contacts that `account` asked for. Raises NotFound."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        found = await work.find(conn, work_id)
    if found is None or found.account_id != account.id or found.questionnaire_id is not None:
        raise NotFound("There is no such work.")
    return found
