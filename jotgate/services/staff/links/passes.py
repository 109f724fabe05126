"""Passes: made for the rows of a table, read again with their links, revoked."""

from collections.abc import AsyncIterator, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.formats.table_in import Row
from jotgate.core.records.accounts import Account
from jotgate.core.records.links import Batch, Pass
from jotgate.core.records.work import UploadedTable, Work
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.given import can_be_given, names_of
from jotgate.core.walking.plan import Plan
from jotgate.services import tables
from jotgate.services.arrivals import hash_of, secrets_of
from jotgate.services.context import Context
from jotgate.services.staff.links.named_links import newest_plan, suit
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import entries, questionnaires, work
from jotgate.store.base import Connection
from jotgate.store.links import passes

MOST_USES = 10_000
PER_PAGE = 100


@dataclass(frozen=True)
class NewPasses:
    """A pass for each row of a table. `columns` says by a column's number, from 0, what it brings:
    a key, or `key.part`; `values` are the same for all. `uses` None is as often as one likes."""

    name: str
    table_id: UUID
    columns: Mapping[int, str]
    values: Pairs
    expires: datetime | None
    uses: int | None


async def ask(context: Context, account: Account, id: UUID, wanted: NewPasses) -> Work:
    """Have passes made by the worker. Raises Invalid where what is asked for cannot be."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        table = await tables.own(conn, account, wanted.table_id)
        _, plan = await newest_plan(context, conn, id)
        _suits(plan, table, wanted, now)
        constant = tuple((key, text) for key, text in wanted.values if text.strip())
        if constant:
            _constants_suit(context, plan, constant, set(wanted.columns.values()))
        said = {**asdict(replace(wanted, values=constant)), "table_id": str(table.id)}
        said["expires"] = wanted.expires and wanted.expires.isoformat()
        said["columns"] = [[number, name] for number, name in wanted.columns.items()]
        one = Work(
            context.ids.id(), account.id, id, "make_passes", "waiting", 0, table.rows, said, {}, now
        )
        await work.ask(conn, one, context.queue)
    return one


def _constants_suit(context: Context, plan: Plan, values: Pairs, columns: set[str]) -> None:
    try:
        suit(context, plan, values)
    except Invalid as wrong:
        keys = {name.partition(".")[0] for name in columns}
        left = [one for one in wrong.faults if one.code != "required" or one.at not in keys]
        if left:
            raise Invalid(wrong.message, left) from None


def _suits(plan: Plan, table: UploadedTable, wanted: NewPasses, now: datetime) -> None:
    known = {name for item in can_be_given(plan, stored=True).values() for name in names_of(item)}
    faults = [
        Fault(code="no_item", at=f"columns/{number}", message=f"There is nothing called {name}.")
        for number, name in wanted.columns.items()
        if name not in known or not 0 <= number < len(table.columns)
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
    found: dict[int, str] = {}
    first = plan.questionnaire.first_language
    names: dict[str, str] = {}
    for item in can_be_given(plan, stored=True).values():
        for name in names_of(item):
            part = name.partition(".")[2]
            words = [item.text.get(first, ""), item.short_name, item.key]
            for one in [f"{word} {part}".strip() for word in words if word] + ([part] * bool(part)):
                names.setdefault(_folded(one), name)
    for number, column in enumerate(columns):
        name = names.get(_folded(column), "")
        if name and name not in found.values():
            found[number] = name
    return found


def _folded(name: str) -> str:
    return " ".join("".join(one if one.isalnum() else " " for one in name.casefold()).split())


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


async def _batch(conn: Connection, id: UUID, batch_id: UUID) -> Batch:
    found = await passes.batch(conn, id, batch_id)
    if found is None:
        raise NotFound("There are no such passes.")
    return found


@dataclass(frozen=True)
class PassLine:
    """A pass with the row that it was made for, and the numbers of the entries that it brought."""

    one: Pass
    row: Row
    entries: tuple[int, ...]


@dataclass(frozen=True)
class BatchPage:
    batch: Batch
    columns: tuple[str, ...]
    lines: tuple[PassLine, ...]
    more: bool


async def page(
    context: Context, account: Account, id: UUID, batch_id: UUID, after: int
) -> BatchPage:
    """Passes of a batch from the one after number `after` on."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        batch = await _batch(conn, id, batch_id)
        found = await passes.in_batch(conn, id, batch_id, after, PER_PAGE + 1)
        table = await work.table(conn, batch_id)
        numbers = await entries.by_passes(conn, id, [one.id for one, _ in found])
    rows = await tables.rows(context, table, after, PER_PAGE) if table else []
    lines = [
        PassLine(one, rows[at] if at < len(rows) else [], tuple(numbers.get(one.id, ())))
        for at, (one, _) in enumerate(found[:PER_PAGE])
    ]
    columns = table.columns if table else ()
    return BatchPage(batch, columns, tuple(lines), len(found) > PER_PAGE)


async def revoke(
    context: Context, account: Account, id: UUID, batch_id: UUID, pass_id: UUID | None
) -> int:
    """Revoke one pass, or all of a batch; how many worked until now."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        batch = await _batch(conn, id, batch_id)
        count = await passes.revoke(conn, id, batch_id, pass_id, context.clock.now())
        if count:
            await note(
                context, conn, account.id, "passes_revoked", id, name=batch.name, count=count
            )
    return count


@dataclass(frozen=True)
class LinkTable:
    """A batch as the table that it was made of, each row with its link behind it; no link for a
    pass that was revoked. Rows come some at a time."""

    name: str
    head: tuple[str, ...]
    rows: AsyncIterator[list[Row]]


async def with_links(context: Context, account: Account, id: UUID, batch_id: UUID) -> LinkTable:
    """The links of a batch, for whoever may make passes; that they were read is in the trail."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        batch = await _batch(conn, id, batch_id)
        table = await work.table(conn, batch_id)
        address = there(await questionnaires.summary(conn, id)).address
        await note(context, conn, account.id, "passes_exported", id, name=batch.name)
    base = f"{context.public_url.rstrip('/')}/p/{address}"
    columns = table.columns if table else ()
    return LinkTable(batch.name, (*columns, "Link"), _rows(context, id, batch_id, table, base))


async def _rows(
    context: Context, id: UUID, batch_id: UUID, table: UploadedTable | None, base: str
) -> AsyncIterator[list[Row]]:
    after = 0
    async for rows in tables.chunks(context, table) if table else _nothing():
        async with context.engine.connect() as conn:
            found = await passes.in_batch(conn, id, batch_id, after, len(rows))
        after += len(rows)
        links = [_link(context, one, hash, base) for one, hash in found]
        yield [[*row, link] for row, link in zip(rows, links, strict=True)]


async def _nothing() -> AsyncIterator[list[Row]]:
    none: tuple[list[Row], ...] = ()
    for rows in none:
        yield rows


def _link(context: Context, one: Pass, hash: bytes | None, base: str) -> str:
    """The address of a pass; nothing where it was revoked, or the key of its secret has gone."""
    if hash is None:
        return ""
    for secret in secrets_of(context, one.questionnaire_id, one.id):
        if hash_of(secret) == hash:
            return f"{base}/{secret}"
    return ""


def arguments(work: Work) -> NewPasses:
    """What a piece of work was asked for."""
    said: dict[str, Any] = {**work.arguments}
    said["table_id"] = UUID(said["table_id"])
    said["expires"] = said["expires"] and datetime.fromisoformat(said["expires"])
    said["columns"] = dict(said["columns"])
    said["values"] = tuple((key, text) for key, text in said["values"])
    return NewPasses(**said)
