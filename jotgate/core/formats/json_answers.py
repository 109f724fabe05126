"""The schema of one answer, kind by kind."""

from collections.abc import Callable, Mapping
from typing import Any

from jotgate.core.checking.composites import LONGEST_DRAWN, LONGEST_PART, countries
from jotgate.core.checking.file_kinds import MEGABYTE, TYPES
from jotgate.core.checking.picks import LONGEST_ELSE, ranked
from jotgate.core.checking.texts import LONGEST_ADDRESS
from jotgate.core.common.values import ELSE
from jotgate.core.conditions.formulas import First
from jotgate.core.items import (
    Address,
    Carried,
    Computed,
    File,
    Item,
    Location,
    LongText,
    Name,
    Number,
    PickMany,
    PickOne,
    Rank,
    Scale,
    ShortText,
)

Schema = dict[str, Any]

ONE_LINE = "^[^\\u0000-\\u001f\\u007f-\\u009f]*$"
LINES = "^[^\\u0000-\\u0008\\u000b-\\u001f\\u007f-\\u009f]*$"
CLOCK = "^([01][0-9]|2[0-3]):[0-5][0-9]$"


def answer_schema(item: Item) -> Schema:
    """The schema of an answer to `item`, which is neither a grid nor a roster."""
    return _SCHEMA[item.kind](item)


def _text(shortest: int | None, longest: int, pattern: str = ONE_LINE) -> Schema:
    found = {"type": "string", "minLength": max(shortest or 1, 1), "maxLength": longest}
    return {**found, "pattern": pattern}


def _closed(properties: Schema, required: list[str]) -> Schema:
    return {
        "type": "object",
        "properties": properties,
        "required": required,
        "minProperties": 1,
        "additionalProperties": False,
    }


def _short_text(item: ShortText) -> Schema:
    found = _text(item.shortest, item.longest or 1000)
    if item.pattern:
        found["allOf"] = [{"pattern": f"^(?:{item.pattern.expression})$"}]
    return found


def _long_text(item: LongText) -> Schema:
    return _text(item.shortest, item.longest or 20_000, LINES)


def _number(item: Number) -> Schema:
    return _range("number" if item.decimals else "integer", item.at_least, item.at_most)


def _scale(item: Scale) -> Schema:
    return _range("integer", item.low, item.high)


def _range(kind: str, low: Any, high: Any) -> Schema:
    found: Schema = {"type": kind}
    for name, limit in (("minimum", low), ("maximum", high)):
        if limit is not None:
            found[name] = int(limit) if limit == int(limit) else float(limit)
    return found


def _codes(item: PickOne | PickMany | Rank | Carried) -> list[str]:
    return [option.code for option in item.options]


ELSE_SCHEMA = _closed({ELSE: _text(None, LONGEST_ELSE)}, [ELSE])


def _pick_one(item: PickOne) -> Schema:
    listed: Schema = {"enum": _codes(item)}
    return {"anyOf": [listed, ELSE_SCHEMA]} if item.else_label else listed


def _pick_many(item: PickMany) -> Schema:
    """Codes, each once; an option that stands alone makes a list of one, which is enough."""
    most = item.most or len(item.options) + bool(item.else_label)
    among = {"minItems": item.fewest or 1, "maxItems": most}
    alone = [option.code for option in item.options if option.alone]
    listed: Schema = {"enum": _codes(item)}
    found: Schema = {"type": "array", "items": listed, "uniqueItems": True}
    if item.else_label:
        found["items"] = {"anyOf": [listed, ELSE_SCHEMA]}
        found |= {"contains": {"type": "object"}, "minContains": 0, "maxContains": 1}
    if not alone:
        return {**found, **among}
    others = {"items": {"not": {"enum": alone}}, **among}
    single = {"items": {"enum": alone}, "minItems": 1, "maxItems": 1}
    return {**found, "anyOf": [others, single]}


def _rank(item: Rank) -> Schema:
    count = ranked(item)
    found = {"type": "array", "items": {"enum": _codes(item)}, "uniqueItems": True}
    return {**found, "minItems": count, "maxItems": count}


def _parts(item: Name | Address) -> Schema:
    properties: Schema = {part: _text(None, LONGEST_PART) for part in item.parts}
    if isinstance(item, Address) and "country" in properties:
        properties["country"] = {"enum": sorted(item.countries or countries())}
    return _closed(properties, list(item.needed))


def _location(_: Location) -> Schema:
    degrees: Schema = {"type": "string", "pattern": r"^-?[0-9]{1,3}(\.[0-9]{1,5})?$"}
    return _closed({"latitude": degrees, "longitude": degrees}, ["latitude", "longitude"])


def _file(item: File) -> Schema:
    facts: Schema = {
        "id": {"type": "string"},
        "name": {"type": "string"},
        "size": {"type": "integer", "minimum": 1, "maximum": item.largest * MEGABYTE},
        "type": {"enum": [one for kind in item.kinds for one in TYPES[kind]]},
    }
    return {
        "type": "array",
        "items": _closed(facts, list(facts)),
        "minItems": 1,
        "maxItems": item.most,
    }


def _signature(_: Item) -> Schema:
    path = "^(M[0-9]{1,4} [0-9]{1,4}(L[0-9]{1,4} [0-9]{1,4})+)+$"
    drawn = {"type": "string", "pattern": path, "maxLength": LONGEST_DRAWN}
    typed = _text(None, LONGEST_PART)
    return {"oneOf": [_closed({"typed": typed}, ["typed"]), _closed({"drawn": drawn}, ["drawn"])]}


def _carried(item: Carried) -> Schema:
    return {"enum": _codes(item)} if item.options else _text(None, item.longest)


def _computed(item: Computed) -> Schema:
    return {} if isinstance(item.formula, First) else {"type": "number"}


def _always(schema: Schema) -> Callable[[Any], Schema]:
    return lambda _: schema


_SCHEMA: Mapping[str, Callable[[Any], Schema]] = {
    "short_text": _short_text,
    "long_text": _long_text,
    "email": _always({**_text(None, 254), "format": "email"}),
    "phone": _always({"type": "string", "pattern": "^\\+[1-9][0-9]{1,14}$"}),
    "web_address": _always({**_text(None, LONGEST_ADDRESS), "format": "uri"}),
    "number": _number,
    "scale": _scale,
    "date": _always({"type": "string", "format": "date"}),
    "time": _always({"type": "string", "pattern": CLOCK}),
    "date_time": _always({"type": "string", "format": "date-time"}),
    "yes_no": _always({"type": "boolean"}),
    "pick_one": _pick_one,
    "pick_many": _pick_many,
    "rank": _rank,
    "name": _parts,
    "address": _parts,
    "location": _location,
    "file": _file,
    "signature": _signature,
    "carried": _carried,
    "computed": _computed,
}
