"""Values as they are stored and sent, in JSON: decimal text, ISO 8601, codes, lists, maps."""

from collections.abc import Callable, Mapping
from datetime import UTC, date, datetime, time, tzinfo
from decimal import Decimal
from typing import Any

from jotgate.core.answers.by_kind import RULES
from jotgate.core.common.decimals import plain
from jotgate.core.common.values import ELSE, Else, FileFacts, Value
from jotgate.core.items import Grid, Item, Roster, inside

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


def raw_again(value: Value, zone: tzinfo) -> Any:
    """A value as whoever gave it would answer it again, in the time zone of the questionnaire."""
    match value:
        case datetime():
            return value.astimezone(zone).replace(tzinfo=None).isoformat(timespec="minutes")
        case tuple():
            return [raw_again(one, zone) for one in value]
        case Mapping():
            return {key: raw_again(one, zone) for key, one in value.items()}
    return as_json(value)


def from_json(item: Item, stored: Any) -> Value:
    """The value of `item` that `as_json` wrote."""
    if item.kind == "roster":
        return _lines(item, stored)
    if item.kind == "grid":
        return {row: _lines(item, lines) for row, lines in stored.items()}
    return RULES[item.kind].read(item, stored)


def values_of(items: Mapping[str, Item], stored: Mapping[str, Any]) -> dict[str, Value]:
    """Stored answers by key as values; what `items` do not have is left out."""
    return {key: from_json(items[key], one) for key, one in stored.items() if key in items}


def _lines(item: Roster | Grid, lines: list[dict[str, Any]]) -> tuple[Value, ...]:
    by_key = {one.key: one for one in inside(item)}
    return tuple({key: from_json(by_key[key], one) for key, one in line.items()} for line in lines)
