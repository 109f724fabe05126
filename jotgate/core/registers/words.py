"""Cells in words, as they are read in a table, searched and exported."""

from collections.abc import Callable, Mapping
from datetime import date, datetime
from typing import Any

from jotgate.core.registers.cells import ANYWHERE, Cell, Where
from jotgate.core.registers.columns import Column, ColumnType


def cell_words(column: Column, cell: Cell | None, where: Where = ANYWHERE) -> str:
    """Empty where there is none. What reads back as the same cell, for all types that are
    written."""
    if cell is None:
        return ""
    said = _SAYING.get(column.type)
    if said is not None:
        return said(column, cell, where)
    if isinstance(cell, bool):
        return "Yes" if cell else "No"
    return cell if isinstance(cell, str) else ", ".join(cell)


def _picked(column: Column, cell: Any, where: Where) -> str:
    labels: dict[str, str] = {one.code: one.label for one in column.options}
    each = cell if isinstance(cell, list) else [cell]
    return ", ".join(labels.get(one, str(one)) for one in each)


def _day(column: Column, cell: Any, where: Where) -> str:
    found = date.fromisoformat(cell)
    return f"{found.day} {found:%b %Y}" if found.year > 999 else str(cell)


def _moment(column: Column, cell: Any, where: Where) -> str:
    try:
        return datetime.fromisoformat(cell).astimezone(where.zone).strftime("%Y-%m-%d %H:%M")
    except OverflowError:
        return str(cell)


def _person(column: Column, cell: Any, where: Where) -> str:
    known = where.people.get(cell)
    return known.name if known else str(cell)


def _files(column: Column, cell: Any, where: Where) -> str:
    return "1 file" if len(cell) == 1 else f"{len(cell)} files"


_SAYING: Mapping[ColumnType, Callable[[Column, Any, Where], str]] = {
    "pick_one": _picked,
    "pick_many": _picked,
    "date": _day,
    "date_time": _moment,
    "person": _person,
    "files": _files,
}
