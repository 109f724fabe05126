"""Rows that rules file: a new one, or one that is there brought up to date."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from jotgate.core.common.errors import Unavailable
from jotgate.core.dispatch.effects import RowPlanned
from jotgate.core.dispatch.subject import Subject
from jotgate.core.entries.about import Thing
from jotgate.core.records.dispatch import Row, RowChange
from jotgate.core.registers.edits import differences
from jotgate.services.context import Context
from jotgate.services.dispatch.kept import keep
from jotgate.services.dispatch.not_done import NotDone
from jotgate.store.base import Connection
from jotgate.store.registers import history, registers, row_files, rows


class ColumnsChanged(Unavailable):
    """The columns of the register were changed just now: the entry is to be planned anew."""

    def __init__(self) -> None:
        super().__init__("The columns of the register were changed just now. Try again.")


@dataclass(frozen=True)
class Filed:
    """The row that was added, or the first of those that were changed."""

    id: int
    added: bool


async def alike(conn: Connection, effect: RowPlanned, lock: bool = False) -> list[Row]:
    """The rows that are alike in what an effect looks for, the oldest first."""
    if effect.alike is None:
        return []
    return await rows.alike(conn, effect.register_id, effect.alike, lock)


def meant(effect: RowPlanned, found: Sequence[Row]) -> Sequence[Row]:
    """Which of the rows that are alike an effect changes; none where one is added. Raises
    NotDone."""
    matching, by = effect.matching, effect.found_by
    if matching is None:
        return ()
    if not found:
        return _none(matching.none, by)
    if len(found) == 1:
        return found
    return _several(matching.several, found, by)


def _none(what: str, by: str) -> Sequence[Row]:
    if what == "add":
        return ()
    told = f"No row is alike in {by}."
    if what == "leave":
        raise NotDone(told, left_out=True)
    raise NotDone(f"{told} Add it to the register, then do this again.")


def _several(what: str, found: Sequence[Row], by: str) -> Sequence[Row]:
    match what:
        case "first":
            return found[:1]
        case "last":
            return found[-1:]
        case "all":
            return found
        case "add":
            return ()
    told = f"{len(found)} rows are alike in {by}."
    if what == "leave":
        raise NotDone(told, left_out=True)
    raise NotDone(f"{told} Leave one of them in the register, then do this again.")


async def file_row(
    context: Context,
    conn: Connection,
    subject: Subject,
    effect: RowPlanned,
    about: Thing | None,
    now: datetime,
) -> Filed:
    """Raises NotDone, ColumnsChanged."""
    entry, rule = subject.entry, effect.at.rule
    found = meant(effect, await alike(conn, effect, lock=True))
    if not found:
        source = (entry.questionnaire_id, entry.id, entry.number)
        id = await rows.file(
            conn, effect.register_id, effect.register.revision, effect.values, source, about, now
        )
        if id is None:
            raise ColumnsChanged
        change = RowChange(id, now, "filed", None, rule, entry.number, {}, effect.values)
        await history.note_changes(conn, [change])
        await row_files.add_files(conn, id, effect.files)
        await keep(context, conn, subject, effect, [id])
        return Filed(id, True)
    if not await registers.is_at(conn, effect.register_id, effect.register.revision):
        raise ColumnsChanged
    for row in found:
        cells = effect.brought(row.values)
        before, after = differences(row.values, cells)
        if before or after:
            await rows.put(conn, row.id, cells)
            await row_files.add_files(conn, row.id, effect.files)
            change = RowChange(row.id, now, "changed", None, rule, entry.number, before, after)
            await history.note_changes(conn, [change])
    await keep(context, conn, subject, effect, [row.id for row in found])
    return Filed(found[0].id, False)
