"""Passes asked for: one for each row of a table, or for each contact of a list."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.formats.table_in import folded, matched
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import UploadedTable, Work, WorkKind
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.given import can_be_given, names_of
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.links.named_links import newest_plan, suit
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.tables import tables
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.contacts import lists

MOST_USES = 10_000
PER_PAGE = 100


@dataclass(frozen=True)
class NewPasses:
    """A pass for each row of a table, or for each contact of a list. `columns` says by a column's
    number, from 0, what it brings: a key, or `key.part`; `values` are the same for all. `uses` None
    is as often as one likes; with `mail`, only contacts with a mail address get one."""

    name: str
    table_id: UUID | None
    columns: Mapping[int, str]
    values: Pairs
    expires: datetime | None
    uses: int | None
    list_id: UUID | None = None
    mail: bool = False


async def ask(context: Context, account: Account, id: UUID, wanted: NewPasses) -> Work:
    """Have passes made by the worker. Raises Invalid where what is asked for cannot be."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        return await ask_in(context, conn, account, id, wanted)


async def ask_in(
    context: Context,
    conn: Connection,
    account: Account,
    id: UUID,
    wanted: NewPasses,
    mailing_id: UUID | None = None,
) -> Work:
    """The same in the caller's transaction, for a mailing where its id is given."""
    now = context.clock.now()
    _, plan = await newest_plan(context, conn, id)
    count, columns = await _made_of(conn, account, wanted)
    _suits(plan, columns, wanted, now)
    constant = tuple((key, text) for key, text in wanted.values if text.strip())
    if constant:
        _constants_suit(context, plan, constant, set(wanted.columns.values()))
    said = _as_arguments(replace(wanted, values=constant))
    kind: WorkKind = "make_passes"
    if mailing_id is not None:
        kind, said = "make_mailing", {**said, "mailing_id": str(mailing_id)}
    one = Work(context.ids.id(), account.id, id, kind, "waiting", 0, count, said, {}, now)
    await work.ask(conn, one, context.queue)
    return one


def _as_arguments(wanted: NewPasses) -> dict[str, Any]:
    said: dict[str, Any] = asdict(wanted)
    for name in ("table_id", "list_id"):
        said[name] = said[name] and str(said[name])
    said["expires"] = wanted.expires and wanted.expires.isoformat()
    said["columns"] = [[number, name] for number, name in wanted.columns.items()]
    return said


async def _made_of(conn: Connection, account: Account, wanted: NewPasses) -> tuple[int, int]:
    """How many rows or contacts there are, and how many columns. Raises Invalid, NotFound."""
    if wanted.list_id is not None:
        in_office(account, "reach")
        found = await lists.reachable(conn, wanted.list_id, wanted.mail)
        return _some(len(found)), 0
    if wanted.table_id is None:
        raise Invalid("Choose a table or a list.")
    table = await tables.own(conn, account, wanted.table_id)
    return table.rows, len(table.columns)


def _some(count: int) -> int:
    """Raise Invalid where nobody can be reached."""
    if count:
        return count
    message = "Nobody on this list can be reached: it is empty, or all of them opted out."
    raise Invalid(message, [Fault(code="nobody", at="list_id", message=message)])


def _constants_suit(context: Context, plan: Plan, values: Pairs, columns: set[str]) -> None:
    try:
        suit(context, plan, values)
    except Invalid as wrong:
        keys = {name.partition(".")[0] for name in columns}
        left = [one for one in wrong.faults if one.code != "required" or one.at not in keys]
        if left:
            raise Invalid(wrong.message, left) from None


def _suits(plan: Plan, columns: int, wanted: NewPasses, now: datetime) -> None:
    known = {name for item in can_be_given(plan, stored=True).values() for name in names_of(item)}
    faults = [
        Fault(code="no_item", at=f"columns/{number}", message=f"There is nothing called {name}.")
        for number, name in wanted.columns.items()
        if name not in known or not 0 <= number < columns
    ]
    names = list(wanted.columns.values())
    faults += [
        Fault(code="twice", at=f"columns/{number}", message="Another column brings this already.")
        for number, name in wanted.columns.items()
        if names.count(name) > 1
    ]
    if not wanted.name.strip():
        faults.append(Fault(code="no_text", at="name", message="Give these passes a name."))
    if wanted.expires is not None and wanted.expires <= now:
        faults.append(Fault(code="past", at="expires", message="This moment is over."))
    if wanted.uses is not None and not 1 <= wanted.uses <= MOST_USES:
        message = f"Say how many entries each is good for, 1 to {MOST_USES:,}."
        faults.append(Fault(code="uses", at="uses", message=message))
    if faults:
        raise Invalid(faults[0].message, faults)


def proposed(plan: Plan, columns: Sequence[str]) -> dict[int, str]:
    """What each column of a table probably brings: by its key, its name or its short name."""
    first = plan.questionnaire.first_language
    names: dict[str, str] = {}
    for item in can_be_given(plan, stored=True).values():
        for name in names_of(item):
            part = name.partition(".")[2]
            words = [item.text.get(first, ""), item.short_name, item.key]
            for one in [f"{word} {part}".strip() for word in words if word] + ([part] * bool(part)):
                names.setdefault(folded(one), name)
    return matched(columns, names)


async def take_table(
    context: Context, account: Account, id: UUID, name: str, body: bytes
) -> tuple[UploadedTable, dict[int, str]]:
    """A table that passes are to be made of, and what its columns probably bring."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        _, plan = await newest_plan(context, conn, id)
    table = await tables.take(context, account, name, body)
    return table, proposed(plan, table.columns)


async def progress(context: Context, account: Account, id: UUID, work_id: UUID) -> Work:
    """Work at a questionnaire that `account` asked for. Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        found = await work.find(conn, work_id)
    if found is None or found.account_id != account.id or found.questionnaire_id != id:
        raise NotFound("There is no such work.")
    return found


def arguments(work: Work) -> NewPasses:
    """What a piece of work was asked for."""
    said: dict[str, Any] = {**work.arguments}
    said.pop("mailing_id", None)
    for name in ("table_id", "list_id"):
        said[name] = said[name] and UUID(said[name])
    said["expires"] = said["expires"] and datetime.fromisoformat(said["expires"])
    said["columns"] = dict(said["columns"])
    said["values"] = tuple((key, text) for key, text in said["values"])
    return NewPasses(**said)
