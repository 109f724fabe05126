"""What an entry took at the gate is given back when it is deleted."""

from jotgate.core.entries.entry import Entry
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import tallies
from jotgate.store.gate import admissions, places


async def give_back(conn: Connection, entry: Entry, stripe: int) -> None:
    """Give back the places of an entry that is about to go, and its time of its person."""
    id = entry.questionnaire_id
    taken = await admissions.of_entry(conn, id, entry.id)
    gate = await questionnaires.gate(conn, id, keep=True)
    if taken is not None and gate is not None:
        await places.locked(conn, id, taken.takes)
        if not gate.value.frees(entry.status):
            given = {cell: -amount for cell, amount in taken.takes.items()}
            await places.change(conn, id, taken=given)
        if taken.person is not None:
            await admissions.forget_time(conn, id, taken.person, entry.arrived)
    await tallies.take_off(conn, id, stripe)
