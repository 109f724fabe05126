"""Rows that rules file: a new one, or one that is there brought up to date."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from jotgate.core.dispatch.effects import RowPlanned
from jotgate.core.dispatch.planning import Subject
from jotgate.core.entries.about import Thing
from jotgate.core.records.dispatch import Row, RowChange
from jotgate.core.registers.cells import Cell
from jotgate.store import registers
from jotgate.store.base import Connection


class NotFiled(Exception):
    """A row that was not filed, with why; `left_out` where the rule wants it so."""

    def __init__(self, why: str, left_out: bool = False) -> None:
        super().__init__(why)
        self.left_out = left_out


@dataclass(frozen=True)
class Filed:
    """The row that was added, or the first of those that were changed."""

    id: int
    added: bool


async def alike(conn: Connection, effect: RowPlanned, lock: bool = False) -> list[Row]:
    """The rows that are alike in what an effect looks for, the oldest first."""
    if effect.alike is None:
        return []
    return await registers.alike(conn, effect.register_id, effect.alike, lock)


def meant(effect: RowPlanned, found: Sequence[Row]) -> Sequence[Row]:
    """Which of the rows that are alike an effect changes; none where one is added. Raises
    NotFiled."""
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
        raise NotFiled(told, left_out=True)
    raise NotFiled(f"{told} Add it to the register, then do this again.")


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
        raise NotFiled(told, left_out=True)
    raise NotFiled(f"{told} Leave one of them in the register, then do this again.")


def brought(row: Row, values: dict[str, Cell]) -> tuple[dict[str, Cell], dict[str, Cell]]:
    """The cells of a row that change, as they are and as they become."""
    changed = {key: cell for key, cell in values.items() if row.values.get(key) != cell}
    return {key: row.values[key] for key in changed if key in row.values}, changed


async def file_row(
    conn: Connection, subject: Subject, effect: RowPlanned, about: Thing | None, now: datetime
) -> Filed:
    """Raises NotFiled."""
    entry, rule = subject.entry, effect.at.rule
    found = meant(effect, await alike(conn, effect, lock=True))
    if not found:
        source = (entry.questionnaire_id, entry.id, entry.number)
        id = await registers.file(conn, effect.register_id, effect.values, source, about, now)
        change = RowChange(id, now, None, rule, entry.number, None, effect.values)
        await registers.note_change(conn, change)
        return Filed(id, True)
    for row in found:
        before, after = brought(row, dict(effect.values))
        if after:
            await registers.put(conn, row.id, {**row.values, **after})
            change = RowChange(row.id, now, None, rule, entry.number, before, after)
            await registers.note_change(conn, change)
    return Filed(found[0].id, False)
