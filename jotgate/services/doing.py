"""The worker's side of work that takes a while: done once, all or nothing, with its progress."""

from collections.abc import Awaitable, Callable, Mapping
from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, JotGateError
from jotgate.core.records.work import Work, WorkKind
from jotgate.services import making_passes
from jotgate.services.context import Context
from jotgate.services.dispatch import replay_work
from jotgate.services.mailings import mailing
from jotgate.services.rounds import printing, releasing
from jotgate.services.staff.entries import entry_acts
from jotgate.services.tables import bringing_contacts, bringing_no_letters, bringing_rows, tables
from jotgate.services.tables.rows_wrong import RowsWrong
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.contacts import brought

KEPT = timedelta(days=7)
"""For how long the result of work can be looked at."""

_BY_KIND: Mapping[
    WorkKind, Callable[[Context, Connection, Work], Awaitable[Mapping[str, object]]]
] = {
    "make_passes": making_passes.make,
    "make_mailing": mailing.make,
    "look_at_contacts": bringing_contacts.look,
    "bring_contacts": bringing_contacts.bring,
    "bring_no_letters": bringing_no_letters.bring,
    "bring_rows": bringing_rows.bring,
    "replay": replay_work.replay,
    "entries": entry_acts.carry_out,
    "release": releasing.release,
    "print_letters": printing.print_letters,
}

TWICE = Fault(code="twice", at="table", message="Passes were made of this table already.")


async def do(context: Context, id: UUID) -> None:
    """Do a piece of work that was asked for; one that is done or failed is left alone."""
    faults: tuple[Fault, ...] = ()
    try:
        async with context.engine.begin() as conn:
            one = await work.find(conn, id)
            if one is None or one.state in ("done", "failed"):
                return
            result = await _BY_KIND[one.kind](context, conn, one)
            await work.end(conn, id, "done", dict(result), context.clock.now())
        return
    except RowsWrong as wrong:
        faults = wrong.faults
    except AlreadyThere:
        faults = (TWICE,)
    except JotGateError as error:
        if error.code == "away":
            raise
        faults = (Fault(code=error.code, at="table", message=error.message),)
    async with context.engine.begin() as conn:
        told = {"faults": [one.model_dump() for one in faults]}
        await work.end(conn, id, "failed", told, context.clock.now())
        one = await work.find(conn, id)
        if one is not None and one.kind == "make_mailing":
            await mailing.not_made(conn, one)


async def forget_old(context: Context) -> None:
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await work.forget(conn, now - KEPT)
        await brought.forget_old(conn, now - tables.KEPT)
    await printing.forget_old(context, now)
