"""Passes that were made: read again with their rows and links, revoked."""

from collections.abc import AsyncIterator, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.formats.table_in import AT_ONCE, Row
from jotgate.core.records.accounts import Account
from jotgate.core.records.links import Batch, Pass
from jotgate.core.records.work import UploadedTable
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.tables import tables
from jotgate.services.trail import note
from jotgate.store import questionnaires, work
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.entries import entries
from jotgate.store.links import passes

PER_PAGE = 100


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
        whose = await _rows_of_contacts(conn, [one for one, _ in found])
    rows = await tables.rows(context, table, after, PER_PAGE) if table else whose
    lines = [
        PassLine(one, rows[at] if at < len(rows) else [], tuple(numbers.get(one.id, ())))
        for at, (one, _) in enumerate(found[:PER_PAGE])
    ]
    columns = table.columns if table else OF_CONTACTS
    return BatchPage(batch, columns, tuple(lines), len(found) > PER_PAGE)


OF_CONTACTS = ("Name", "Mail address", "Key")
"""The columns of passes that were made for contacts."""


async def _rows_of_contacts(conn: Connection, found: Sequence[Pass]) -> list[Row]:
    known = await contacts.of_ids(conn, [one.contact_id for one in found if one.contact_id])
    whose = [known.get(one.contact_id) if one.contact_id else None for one in found]
    return [[one.name, one.email, one.key] if one else ["", "", ""] for one in whose]


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


async def link(context: Context, account: Account, id: UUID, pass_id: UUID) -> str:
    """The address of one pass, for whoever may make passes; that it was read is in the trail.
    Raises NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        found = await passes.with_hash(conn, id, pass_id)
        address = there(await questionnaires.summary(conn, id)).address
        read = link_of(context, *found, address) if found else ""
        if not found or not read:
            raise NotFound("This pass was revoked, or the key of its secret has gone.")
        batch = await _batch(conn, id, found[0].batch_id)
        await note(context, conn, account.id, "passes_exported", id, name=batch.name)
    return read


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
    if table is None:
        rows = _rows_with_contacts(context, id, batch_id, address)
        return LinkTable(batch.name, (*OF_CONTACTS, "Link"), rows)
    return LinkTable(
        batch.name, (*table.columns, "Link"), _rows(context, id, batch_id, table, address)
    )


async def _rows(
    context: Context, id: UUID, batch_id: UUID, table: UploadedTable, address: str
) -> AsyncIterator[list[Row]]:
    after = 0
    async for rows in tables.chunks(context, table):
        async with context.engine.connect() as conn:
            found = await passes.in_batch(conn, id, batch_id, after, len(rows))
        after += len(rows)
        links = [link_of(context, one, hash, address) for one, hash in found]
        yield [[*row, link] for row, link in zip(rows, links, strict=True)]


async def _rows_with_contacts(
    context: Context, id: UUID, batch_id: UUID, address: str
) -> AsyncIterator[list[Row]]:
    after = 0
    while True:
        async with context.engine.connect() as conn:
            found = await passes.in_batch(conn, id, batch_id, after, AT_ONCE)
            rows = await _rows_of_contacts(conn, [one for one, _ in found])
        if not found:
            return
        after = found[-1][0].number
        links = [link_of(context, one, hash, address) for one, hash in found]
        yield [[*row, link] for row, link in zip(rows, links, strict=True)]
