"""Values as they are stored and sent, in JSON: decimal text, ISO 8601, codes, lists, maps."""

from collections.abc import Callable, Mapping
from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any

from jotgate.core.common.decimals import plain
from jotgate.core.common.values import ELSE, Else, FileFacts, Value
from jotgate.core.conditions.formulas import First
from jotgate.core.items import Computed, Grid, Item, Roster, inside

Json = str | bool | int | list[Any] | dict[str, Any]
"""A value in JSON. Moments stand in UTC."""


def as_json(value: Value) -> Json:
    """`value` as it is stored and sent."""
    write = _WRITE.get(value.__class__)
    return write(value) if write is not None else value  # type: ignore[return-value]


def _map(value: Any) -> Json:
    return {key: as_json(one) for key, one in value.items()}


_WRITE: Mapping[type, Callable[[Any], Json]] = {
    Decimal: plain,
    time: lambda value: value.isoformat("minutes"),
    datetime: lambda value: value.astimezone(UTC).isoformat(timespec="minutes"),
    date: date.isoformat,
    tuple: lambda value: [as_json(one) for one in value],
    Else: lambda value: {ELSE: value.words},
    FileFacts: lambda value: {
        "id": value.id,
        "name": value.name,
        "size": value.size,
        "type": value.type,
    },
    dict: _map,
}
"""By class, looked up: asking a value for each class in turn costs far more."""


def from_json(item: Item, stored: Any) -> Value:
    """The value of `item` that `as_json` wrote."""
    read = _READ.get(item.kind)
    return read(item, stored) if read else stored


def values_of(items: Mapping[str, Item], stored: Mapping[str, Any]) -> dict[str, Value]:
    """Stored answers by key as values; what `items` do not have is left out."""
    return {key: from_json(items[key], one) for key, one in stored.items() if key in items}


def _picked(_: Item, stored: Any) -> Value:
    return Else(stored[ELSE]) if isinstance(stored, dict) else stored


def _lines(item: Roster | Grid, lines: list[dict[str, Any]]) -> tuple[Value, ...]:
    by_key = {one.key: one for one in inside(item)}
    return tuple({key: from_json(by_key[key], one) for key, one in line.items()} for line in lines)


def _computed(item: Computed, stored: Any) -> Value:
    """What a computed value is follows from its formula; a first answer keeps its own form."""
    if isinstance(item.formula, First):
        return tuple(stored) if isinstance(stored, list) else stored
    return Decimal(stored)


_READ: Mapping[str, Callable[[Any, Any], Value]] = {
    "number": lambda _, stored: Decimal(stored),
    "scale": lambda _, stored: Decimal(stored),
    "date": lambda _, stored: date.fromisoformat(stored),
    "time": lambda _, stored: time.fromisoformat(stored),
    "date_time": lambda _, stored: datetime.fromisoformat(stored),
    "pick_one": _picked,
    "pick_many": lambda item, stored: tuple(_picked(item, one) for one in stored),
    "rank": lambda _, stored: tuple(stored),
    "file": lambda _, stored: tuple(FileFacts(**one) for one in stored),
    "location": lambda _, stored: {axis: Decimal(one) for axis, one in stored.items()},
    "roster": _lines,
    "grid": lambda item, stored: {row: _lines(item, lines) for row, lines in stored.items()},
    "computed": _computed,
}
