"""What variables have to say of entries, worked out here from whole entries."""

from collections.abc import Iterator
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

from jotgate.core.common.values import Else
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import from_json
from jotgate.core.items import Item, inside, options_of
from jotgate.core.walking.plan import Plan

Told = dict[str, Any]

RENAMED = {"long": "long_2"}
"""What statistics programs keep for themselves."""


def told_of(entry: Entry, plan: Plan, zone: ZoneInfo) -> Told:
    """What an entry of an edition says, by the name of its variables; what says nothing is left
    out."""
    reader, found = Reader(plan), dict[str, Any]()
    found["entry_number"] = entry.number
    found["entry_edition"] = entry.edition
    found["entry_arrived"] = entry.arrived.replace(second=0, microsecond=0).astimezone(zone)
    for key, stored in entry.answers.items():
        item = plan.items[key]
        found |= dict(_said(RENAMED.get(key, key), item, from_json(item, stored), reader))
    return found


def _said(key: str, item: Item, value: Any, reader: Reader) -> Iterator[tuple[str, Any]]:
    match item.kind:
        case "pick_one":
            yield key, "else" if isinstance(value, Else) else value
            if isinstance(value, Else):
                yield f"{key}_else_words", value.words
        case "pick_many":
            picked = ["else" if isinstance(one, Else) else one for one in value]
            for code in (*(one.code for one in options_of(item)), "else"):
                yield f"{key}_{code}", code in picked
            yield from ((f"{key}_else_words", one.words) for one in value if isinstance(one, Else))
        case "rank":
            yield from ((f"{key}_{code}", place) for place, code in enumerate(value, 1))
        case "name" | "address":
            yield from ((f"{key}_{part}", said) for part, said in value.items())
        case "location":
            yield from ((f"{key}_{axis}", float(value[axis])) for axis in ("latitude", "longitude"))
        case "file":
            yield key, len(value)
            yield f"{key}_names", "; ".join(one.name for one in value)
        case "signature":
            yield key, "typed" if "typed" in value else "drawn"
            if "typed" in value:
                yield f"{key}_typed", value["typed"]
        case "roster":
            yield key, len(value)
        case "grid":
            for row, lines in value.items():
                for one in inside(item):
                    if one.key in lines[0]:
                        cells = _said(f"{key}_{row}_{one.key}", one, lines[0][one.key], reader)
                        yield from cells
        case _:
            yield key, _plain(value, reader.zone)


def _plain(value: Any, zone: ZoneInfo) -> Any:
    if isinstance(value, datetime):
        return value.astimezone(zone)
    return float(value) if isinstance(value, Decimal) else value


def as_text(value: Any) -> str:
    """As it stands in CSV, without what keeps it from being a formula."""
    match value:
        case bool():
            return "true" if value else "false"
        case float():
            return f"{Decimal(repr(value)):f}".removesuffix(".0")
        case datetime() | time():
            return value.isoformat(timespec="minutes")
        case date():
            return value.isoformat()
    return str(value)
