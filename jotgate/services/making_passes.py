"""What the worker does to make passes: every row looked at, then all stored, or none."""

import asyncio
from collections.abc import AsyncIterator, Sequence
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import today_in
from jotgate.core.formats.table_in import AT_ONCE, Row
from jotgate.core.records.links import Batch, Pass
from jotgate.core.records.work import UploadedTable, Work
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.given import Giving
from jotgate.core.walking.plan import Plan
from jotgate.services.arrivals import seal_values, secrets_of
from jotgate.services.context import Context
from jotgate.services.staff.links.named_links import newest_plan
from jotgate.services.staff.links.passes import NewPasses, arguments
from jotgate.services.tables import tables
from jotgate.services.tables.rows_wrong import RowsWrong
from jotgate.services.trail import note
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.contacts import lists
from jotgate.store.links import passes

GONE = Fault(code="gone", at="table", message="The table is no longer there.")
NOBODY = Fault(code="nobody", at="list", message="Nobody on this list can be reached.")

MOST_FAULTS = 100
"""Faults of rows that are told; after that nobody reads on."""


Rows = AsyncIterator[list[tuple[Row, UUID | None]]]
"""Rows of a table, some at a time, or contacts, of which there is no row."""


async def _of_table(context: Context, table: UploadedTable) -> Rows:
    async for rows in tables.chunks(context, table):
        yield [(row, None) for row in rows]


async def _of_contacts(ids: Sequence[UUID]) -> Rows:
    for at in range(0, len(ids), AT_ONCE):
        yield [([], id) for id in ids[at : at + AT_ONCE]]


class _Making:
    """Makes the passes of one batch, chunk by chunk. `faults` are those of the rows so far."""

    def __init__(self, context: Context, plan: Plan, batch: Batch, wanted: NewPasses) -> None:
        self.context, self.batch, self.wanted = context, batch, wanted
        today = today_in(plan.questionnaire.time_zone, context.clock.now())
        self.giving = Giving(plan, today, stored=True)
        self.faults: list[Fault] = []
        self.made = 0

    async def each(self, rows: Rows, work_id: UUID) -> AsyncIterator[tuple[Pass, bytes]]:
        async for some in rows:
            for one in await asyncio.to_thread(self._of_rows, some):
                yield one
            if len(self.faults) >= MOST_FAULTS:
                break
            await self._told(work_id)
        if self.faults:
            raise RowsWrong(self.faults[:MOST_FAULTS])

    async def _told(self, work_id: UUID) -> None:
        async with self.context.single.connect() as conn:
            await work.advance(conn, work_id, self.made, self.context.clock.now())

    def _of_rows(self, rows: Sequence[tuple[Row, UUID | None]]) -> list[tuple[Pass, bytes]]:
        return [self._of_row(row, contact_id) for row, contact_id in rows]

    def _of_row(self, row: Row, contact_id: UUID | None) -> tuple[Pass, bytes]:
        self.made += 1
        given = tuple((name, row[n]) for n, name in self.wanted.columns.items() if row[n])
        values = (*given, *self.wanted.values)
        self.faults += row_faults(self.giving, values, self.made)
        context, batch = self.context, self.batch
        id = context.ids.id()
        secret = secrets_of(context, batch.questionnaire_id, id)[0]
        one = Pass(
            id=id,
            questionnaire_id=batch.questionnaire_id,
            batch_id=batch.id,
            number=self.made,
            contact_id=contact_id,
            sealed=seal_values(context, id, values),
            expires=batch.expires,
            uses=batch.uses,
            used=0,
            revoked=None,
        )
        return one, hash_of(secret)


def row_faults(giving: Giving, values: Pairs, number: int) -> list[Fault]:
    """What is wrong with the values of row `number` below the names of the columns."""
    at = f"rows/{number + 1}"
    found = [
        one.model_copy(update={"at": at, "message": f"{one.at}: {one.message}"})
        for one in giving.faults(values)
    ]
    found += [
        Fault(code="required", at=at, message=f"{key}: this row has none.")
        for key in giving.missing(values)
    ]
    return found


async def make(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Make what `one` asks for, in the transaction of `conn`; its result. Raises RowsWrong."""
    wanted = arguments(one)
    if wanted.list_id is not None:
        ids = await lists.reachable(conn, wanted.list_id, wanted.mail)
        if not ids:
            raise RowsWrong([NOBODY])
        id, count, rows = context.ids.id(), len(ids), _of_contacts(ids)
    else:
        table = wanted.table_id and await work.table(conn, wanted.table_id)
        if not table:
            raise RowsWrong([GONE])
        # A batch goes by the id of the table that it was made of, whose rows are read with it.
        id, count, rows = table.id, table.rows, _of_table(context, table)
        await work.keep_table(conn, id)
    made = await _batch(context, conn, one, wanted, (id, count, rows))
    return {"batch_id": str(id), "passes": made}


async def for_contacts(
    context: Context, conn: Connection, one: Work, name: str, ids: Sequence[UUID]
) -> UUID:
    """A pass for each of these contacts, good for one entry, made as part of the work `one`; the id
    of their batch. Raises RowsWrong."""
    wanted = NewPasses(name, None, {}, (), None, 1)
    id = context.ids.id()
    await _batch(context, conn, one, wanted, (id, len(ids), _of_contacts(ids)))
    return id


async def _batch(
    context: Context, conn: Connection, one: Work, wanted: NewPasses, of: tuple[UUID, int, Rows]
) -> int:
    """The passes of a batch with this id, so many, of these rows; how many were made."""
    assert one.questionnaire_id is not None
    id, count, rows = of
    _, plan = await newest_plan(context, conn, one.questionnaire_id)
    batch = Batch(
        id=id,
        questionnaire_id=one.questionnaire_id,
        name=" ".join(wanted.name.split()),
        made=context.clock.now(),
        by=one.account_id,
        passes=count,
        expires=wanted.expires,
        uses=wanted.uses,
    )
    await passes.add_batch(conn, batch)
    making = _Making(context, plan, batch, wanted)
    await passes.add(conn, making.each(rows, one.id))
    who, where = one.account_id, one.questionnaire_id
    await note(context, conn, who, "passes_made", where, name=batch.name, count=making.made)
    return making.made
