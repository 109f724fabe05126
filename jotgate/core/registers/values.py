"""Rows as conditions and formulas see them: columns as if they were questions, cells as answers."""

from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any

from jotgate.core.common.decimals import plain
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.conditions.formulas import compute
from jotgate.core.items import (
    Computed,
    Date,
    DateTime,
    Email,
    File,
    Item,
    LongText,
    Number,
    Option,
    PickMany,
    PickOne,
    ShortText,
    Time,
    WebAddress,
    YesNo,
)
from jotgate.core.registers.cells import Cell, Person
from jotgate.core.registers.columns import Column, ColumnType

LANGUAGE = "en"
"""Columns have one name; it stands under this language where they are seen as questions."""

_NEVER = Today(datetime(2000, 1, 1, 12, tzinfo=UTC))
"""Formulas of columns do not name today, so that what was computed stays true."""


def _picking(kind: type[Any], name: str) -> Callable[[Mapping[str, Any], Column], Item]:
    def made(called: Mapping[str, Any], column: Column) -> Item:
        options = tuple(
            Option(code=one.code, label=dict.fromkeys(called["text"], one.label))
            for one in column.options
        )
        item: Item = kind(kind=name, options=options, **called)
        return item

    return made


def _plain(kind: type[Any], name: str) -> Callable[[Mapping[str, Any], Column], Item]:
    def made(called: Mapping[str, Any], column: Column) -> Item:
        item: Item = kind(kind=name, **called)
        return item

    return made


def _computed(called: Mapping[str, Any], column: Column) -> Item:
    assert column.formula is not None
    return Computed(kind="computed", formula=column.formula, **called)


_ITEMS: Mapping[ColumnType, Callable[[Mapping[str, Any], Column], Item]] = {
    "text": _plain(ShortText, "short_text"),
    "long_text": _plain(LongText, "long_text"),
    "number": _plain(Number, "number"),
    "date": _plain(Date, "date"),
    "time": _plain(Time, "time"),
    "date_time": _plain(DateTime, "date_time"),
    "yes_no": _plain(YesNo, "yes_no"),
    "pick_one": _picking(PickOne, "pick_one"),
    "pick_many": _picking(PickMany, "pick_many"),
    "email": _plain(Email, "email"),
    "phone": _plain(ShortText, "short_text"),
    "web_address": _plain(WebAddress, "web_address"),
    "person": _picking(PickOne, "pick_one"),
    "files": _plain(File, "file"),
    "entry": _plain(Number, "number"),
    "computed": _computed,
}


def column_items(
    columns: Sequence[Column],
    people: Mapping[str, Person] | None = None,
    language: str = LANGUAGE,
) -> dict[str, Item]:
    """The columns as questions in a language, by key; people are picked among those of the
    office."""
    found: dict[str, Item] = {}
    for column in columns:
        if column.type == "person":
            each = [{"code": id, "label": one.name} for id, one in (people or {}).items()]
            if not each:
                continue
            column = Column.model_validate(
                {"key": column.key, "label": column.label, "type": "pick_one", "options": each}
            )
        called = {
            "key": column.key,
            "text": {language: column.label},
            "short_name": column.label,
        }
        found[column.key] = _ITEMS[column.type](called, column)
    return found


_VALUES: Mapping[ColumnType, Callable[[Any], Value]] = {
    "number": Decimal,
    "entry": Decimal,
    "date": date.fromisoformat,
    "time": time.fromisoformat,
    "date_time": datetime.fromisoformat,
    "pick_many": tuple,
    "files": tuple,
}


def value_of(column: Column, cell: Cell) -> Value:
    """A cell as an answer. A computed cell is a number where it reads as one."""
    if column.type == "computed":
        return _as_computed(column, cell)
    read = _VALUES.get(column.type)
    if read is not None:
        return read(cell)
    assert not isinstance(cell, list)
    return cell


def _as_computed(column: Column, cell: Cell) -> Value:
    assert column.formula is not None
    if column.formula.do != "first" and isinstance(cell, str):
        return Decimal(cell)
    return tuple(cell) if isinstance(cell, list) else cell


def values_of(columns: Sequence[Column], cells: Mapping[str, Cell]) -> dict[str, Value]:
    """What a row says, by column."""
    return {one.key: value_of(one, cells[one.key]) for one in columns if one.key in cells}


def with_computed(columns: Sequence[Column], cells: Mapping[str, Cell]) -> dict[str, Cell]:
    """The cells of a row with its computed ones as they follow from the others; one can follow from
    another that stands before it."""
    behind = [one for one in columns if one.formula is not None]
    found = dict(cells)
    if not behind:
        return found
    for one in behind:
        found.pop(one.key, None)
    values = values_of(columns, found)
    for one in behind:
        assert one.formula is not None
        result = compute(one.formula, values, {}, _NEVER)
        if result is not None:
            values[one.key] = result
            found[one.key] = _cell(result)
    return found


def _cell(value: Value) -> Cell:
    """What was computed, as a cell."""
    if isinstance(value, bool):
        return value
    if isinstance(value, Decimal):
        return plain(value)
    if isinstance(value, tuple):
        return [str(one) for one in value]
    if isinstance(value, datetime | time):
        return value.isoformat(timespec="minutes")
    return value.isoformat() if isinstance(value, date) else str(value)
