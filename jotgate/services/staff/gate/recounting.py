"""Counting places and people anew from the entries, where a gate counts otherwise than before."""

from uuid import UUID

from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import values_of
from jotgate.core.gate.places import takes_of
from jotgate.core.gate.settings import Gate
from jotgate.core.walking.arrival import Came
from jotgate.services.context import Context
from jotgate.services.gate import person_of
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.gate import admissions, places

AT_ONCE = 1_000
"""Entries that are read at once."""


def is_counted_otherwise(before: Gate, after: Gate) -> bool:
    """Whether what was counted so far does not do for `after`."""
    ways = [{one.key: (one.by, one.amount) for one in gate.places} for gate in (before, after)]
    limits = [gate.per_person for gate in (before, after)]
    known = [(one.known_by, one.archived) if one else None for one in limits]
    return (
        any(ways[0].get(key) != way for key, way in ways[1].items())
        or (known[1] != known[0] and known[1] is not None)
        or before.statuses != after.statuses
    )


async def count_anew(context: Context, conn: Connection, id: UUID, gate: Gate) -> None:
    """Count what every entry takes by `gate`. Nothing is submitted meanwhile: the transaction has
    saved the gate, and holds the rows that a submission needs. Devices are not known afterwards,
    so that what was noted of them stays."""
    taken: dict[str, int] = {}
    before: int | None = None
    await admissions.forget_people(conn, id)
    while found := await entries.newest(conn, id, before, AT_ONCE):
        await _count(context, conn, id, gate, found, taken)
        before = found[-1].number
    await places.there(conn, id, taken)
    await places.put_taken(conn, id, taken)


async def _count(
    context: Context,
    conn: Connection,
    id: UUID,
    gate: Gate,
    found: list[Entry],
    taken: dict[str, int],
) -> None:
    limit = gate.per_person
    known = await admissions.people_of(conn, id, [one.id for one in found])
    rows: list[admissions.Row] = []
    for entry in found:
        plan = await context.plan(conn, id, entry.edition)
        takes = takes_of(gate.places, values_of(plan.items, entry.answers))
        came = Came(entry.link_id, entry.pass_id, entry.contact_id, entry.subject_id, entry.mail_id)
        person = person_of(limit, came, "") or known.get(entry.id) if limit else None
        for one in () if gate.frees(entry.status) else takes:
            taken[one.cell] = taken.get(one.cell, 0) + one.amount
        counts = limit is None or limit.archived or entry.archived is None
        rows.append(
            (
                entry.id,
                entry.arrived if counts else None,
                person,
                {one.cell: one.amount for one in takes},
            )
        )
    await admissions.put_all(conn, id, rows)
