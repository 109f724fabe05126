"""What an item offers once the answers before it are known: options and rows that are shown."""

from typing import Any

from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds
from jotgate.core.items import Grid, Item, PickingPart


def as_offered(item: Item, values: Values, today: Today) -> Item:
    """`item` with the options, rows and columns that `values` leave to it, required or not."""
    changed: dict[str, Any] = {}
    when = getattr(item, "required_when", None)
    if when is not None and holds(when, values, today):
        changed["required"] = True
    if isinstance(item, PickingPart | Grid) and item.varies:
        changed |= _offered(item, values, today)
    if not changed:
        return item
    same = {name: getattr(item, name) for name in type(item).model_fields}
    settled: Item = type(item).model_construct(**{**same, **changed})
    return settled


def _offered(item: PickingPart | Grid, values: Values, today: Today) -> dict[str, Any]:
    changed: dict[str, Any] = {}
    if isinstance(item, Grid):
        changed["rows"] = tuple(row for row in item.rows if holds(row.shown_when, values, today))
        changed["columns"] = tuple(as_offered(column, values, today) for column in item.columns)
    else:
        changed["options"] = tuple(
            option for option in item.options if holds(option.shown_when, values, today)
        )
    return changed
