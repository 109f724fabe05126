"""The rows that an act files."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from jotgate.core.common.values import FileFacts, Value
from jotgate.core.conditions.condition import entries_of
from jotgate.core.dispatch.acts import Composed, FileRow, Fixed, FromEntry, Source
from jotgate.core.dispatch.effects import Effect, NotPlanned, Place, RowPlanned
from jotgate.core.dispatch.texts import Words, value_of
from jotgate.core.entries.stored import as_json
from jotgate.core.items import Item, holding
from jotgate.core.items.kinds import Holds
from jotgate.core.registers.cells import Cell, NotFit, Where, read_cell
from jotgate.core.registers.columns import PICKED, Column, ColumnType, Register
from jotgate.core.registers.values import with_computed


def rows(
    at: Place, act: FileRow, register: Register, words: Words, where: Where
) -> Iterator[Effect]:
    """One row, or one for each entry of a roster, with what belongs to all of them repeated."""
    if not act.per:
        yield _row(at, act, register, words, where)
        return
    each = entries_of(words.values.get(act.per))
    if not each:
        why = f"Nothing was entered under {act.per}, so there is no row to file."
        yield NotPlanned(at, "row", why, left_out=True)
    for part, entry in enumerate(each):
        inner = Words(words.reader, {**words.values, **entry}, words.facts, words.number)
        yield _row(replace(at, part=part), act, register, inner, where)


def _row(at: Place, act: FileRow, register: Register, words: Words, where: Where) -> Effect:
    values: dict[str, Cell] = {}
    files: list[FileFacts] = []
    for column in register.columns:
        source = act.columns.get(column.key)
        if source is None:
            continue
        try:
            if column.type == "files":
                sent = _files(source, words)
                files += sent
                if sent:
                    values[column.key] = [one.id for one in sent]
                continue
            cell = _cell(column, source, words, where)
        except NotFit as why:
            told = f"{column.label}: {why} Change the rule or the column, then do this again."
            return NotPlanned(at, "row", told)
        if cell is not None:
            values[column.key] = cell
    gone = sorted(set(act.columns) - {one.key for one in register.columns})
    if gone:
        told = f"{register.name} has no column {gone[0]} any more. Change the rule."
        return NotPlanned(at, "row", told)
    if act.matching is None:
        cells = with_computed(register.columns, values)
        return RowPlanned(at, register.id, cells, register, files=tuple(files), kept=act.kept)
    labels = {one.key: one.label for one in register.columns}
    alike = {key: values[key] for key in act.matching.columns if key in values}
    missing = [labels.get(key, key) for key in act.matching.columns if key not in alike]
    if missing:
        told = f"The row is found by {missing[0]}, which this entry leaves empty."
        return NotPlanned(at, "row", told)
    found_by = ", ".join(labels[key] for key in act.matching.columns)
    return RowPlanned(
        at, register.id, values, register, act.matching, alike, found_by, tuple(files), act.kept
    )


def _files(source: Source, words: Words) -> tuple[FileFacts, ...]:
    """The files that were sent to a question. Raises NotFit."""
    value = value_of(words.values, source.name) if isinstance(source, FromEntry) else ""
    each = value if isinstance(value, tuple) else () if value is None else (value,)
    files = tuple(one for one in each if isinstance(one, FileFacts))
    if len(files) != len(each):
        raise NotFit("Only files can go there.")
    return files


def _cell(column: Column, source: Source, words: Words, where: Where) -> Cell | None:
    """Raises NotFit."""
    if isinstance(source, Fixed):
        return read_cell(column, source.text, where)
    if isinstance(source, Composed):
        return read_cell(column, words.filled(source.text), where)
    value = value_of(words.values, source.name)
    if value is None:
        known = source.name in words.plain
        return read_cell(column, words.of(source.name), where) if known else None
    return read_cell(column, _given(column, value, words.of(source.name)), where)


def _given(column: Column, value: Value, said: str) -> object:
    """A value as its column takes it: in words, or as it is."""
    if column.type in ("text", "long_text"):
        return said
    stored = as_json(value)
    if column.type not in PICKED:
        return stored
    codes = {one.code for one in column.options}
    known = isinstance(stored, list) or stored in codes
    return stored if known and not isinstance(stored, Mapping) else said


COLUMNS: Mapping[Holds, tuple[ColumnType, ...]] = {
    "number": ("number", "entry"),
    "day": ("date",),
    "time": ("time",),
    "moment": ("date_time",),
    "truth": ("yes_no",),
    "pick": ("pick_one",),
    "picks": ("pick_many",),
    "order": ("pick_many",),
    "files": ("files",),
    "text": ("pick_one", "number", "date", "email", "phone", "web_address", "person", "entry"),
}
"""The types of column, beside texts, that can take what an item holds. A text may fit any of those
that are written, or not: that shows with each entry."""


def fitting(item: Item | None) -> tuple[ColumnType, ...]:
    """The column types that can take answers of `item`, or a fact of the visitor."""
    return ("text", "long_text", *COLUMNS.get(holding(item) if item else "text", ()))
