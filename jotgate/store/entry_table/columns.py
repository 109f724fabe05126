"""What entries say in the columns of a table, as it is read for files: not whole entries, of which
files need little."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import ColumnElement, Text, cast, func, literal
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.table import TableColumn
from jotgate.store.entries.entry_tables import entries
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import Looking

ARRIVED = "entry.arrived"


def said_in(look: Looking, shown: Sequence[TableColumn]) -> list[ColumnElement[Any]]:
    """The number, the edition, then as text what is said in each of the columns: facts as
    PostgreSQL writes them, moments in UTC (ISO 8601, without the zone); answers as the text that is
    stored where all are text, else as JSON. Null where nothing is."""
    said = (_fact(look, one) if one.fact else _answer(one) for one in shown)
    return [entries.c.number, entries.c.edition, *said]


def left_empty() -> ColumnElement[Any]:
    """The keys of what was asked and left empty, each between commas; null where that was not
    noted."""
    return literal(",").concat(func.array_to_string(entries.c.left_empty, ",").concat(","))


def _fact(look: Looking, column: TableColumn) -> ColumnElement[Any]:
    """An entry is in a file before it is in the copy that is searched."""
    fact = FACTS[column.key]
    said = fact.at(look.today, look.table.terms)
    if column.key == ARRIVED:
        said = entries.c.arrived
    if fact.held == "moment":
        return func.to_char(func.timezone("UTC", said), 'YYYY-MM-DD"T"HH24:MI:SS.US')
    return cast(said, Text)


def _answer(column: TableColumn) -> ColumnElement[Any]:
    key = literal(column.key, Text)
    if column.is_stored_as_text:
        return entries.c.answers.op("->>", return_type=Text())(key)
    return cast(entries.c.answers.op("->", return_type=JSONB())(key), Text)
