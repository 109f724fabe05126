"""Restricted answers kept beside the rows that a rule files, in registers for cleared eyes."""

from collections.abc import Sequence

from jotgate.core.dispatch.effects import RowPlanned
from jotgate.core.dispatch.subject import Subject
from jotgate.core.entries.display import Reader
from jotgate.core.entries.stored import values_of
from jotgate.core.items.staff_names import staff_name
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of, seal_cell
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.registers import row_secrets
from jotgate.store.registers.row_secrets import Secret


async def keep(
    context: Context, conn: Connection, subject: Subject, effect: RowPlanned, rows: Sequence[int]
) -> None:
    """Keep what the act wants kept beside each of its rows, as the entry says it by now."""
    if not effect.kept or not effect.register.cleared:
        return
    entry, plan = subject.entry, subject.plan
    found = await entries.sealed(conn, entry.questionnaire_id, [entry.id])
    values = values_of(plan.items, (await restricted_of(context, entry.id, found)).answers)
    reader, first = Reader(plan), plan.questionnaire.first_language
    for row in rows:
        made = []
        for key in effect.kept:
            item = plan.items.get(key)
            said = reader.reads(item, values[key]) if item and key in values else ""
            label = staff_name(item, first) if item else key
            sealed = await seal_cell(context, row, entry.questionnaire_id, key, said)
            made.append(Secret(entry.questionnaire_id, key, label, sealed))
        await row_secrets.put(conn, row, made)


async def is_kept(conn: Connection, effect: RowPlanned, subject: Subject, row: int) -> bool:
    """Whether all that the act wants kept stands beside a row."""
    if not effect.kept or not effect.register.cleared:
        return True
    return set(effect.kept) <= await row_secrets.keys_of(conn, row, subject.entry.questionnaire_id)
