"""What entries say in the columns of a table, as it is read for files: not whole entries, of which
files need little."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import ColumnElement, Text, cast, literal
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.table import TableColumn
from jotgate.store.entries.entries import entries
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import Looking

ARRIVED = "entry.arrived"


def said_in(look: Looking, shown: Sequence[TableColumn]) -> list[ColumnElement[Any]]:
    """The number, the edition, then what is said in each of the columns: facts as they are; answers
    as the text that is stored where all are text, else as JSON. Null where nothing is."""
    said = (_fact(look, one) if one.fact else _answer(one) for one in shown)
    return [entries.c.number, entries.c.edition, *said]


def _fact(look: Looking, column: TableColumn) -> ColumnElement[Any]:
    """An entry is in a file before it is in the copy that is searched."""
    if column.key == ARRIVED:
        return entries.c.arrived
    said = FACTS[column.key].at(look.today, look.table.terms)
    return cast(said, Text) if column.holds == "number" else said


def _answer(column: TableColumn) -> ColumnElement[Any]:
    key = literal(column.key, Text)
    if column.is_stored_as_text:
        return entries.c.answers.op("->>", return_type=Text())(key)
    return cast(entries.c.answers.op("->", return_type=JSONB())(key), Text)
