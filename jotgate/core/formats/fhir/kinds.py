"""Which kind of ours an item of FHIR is, and its limits and options."""

import re
from collections.abc import Callable, Iterator, Mapping
from decimal import Decimal
from typing import Any, Protocol

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.common.wording import Text
from jotgate.core.formats.fhir import terms
from jotgate.core.formats.fhir.terms import controlled, extended

_TYPES: Mapping[str, str] = {
    "string": "short_text",
    "text": "long_text",
    "url": "web_address",
    "decimal": "number",
    "integer": "number",
    "date": "date",
    "time": "time",
    "dateTime": "date_time",
    "boolean": "yes_no",
    "attachment": "file",
    "display": "note",
}
_CODE = re.compile(r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$")

_VALUES = frozenset({"valueCoding", "valueString", "valueInteger", "valueDate", "valueTime"})

Item = Mapping[str, Any]


class Texts(Protocol):
    """`codes` leads from a linkId and a code of FHIR to the code that an option got."""

    codes: dict[str, dict[str, str]]

    def text(self, part: Mapping[str, Any], name: str) -> Text: ...


def kind_of(item: Item) -> str:
    """Our kind; `group` for questions in a row, empty where we have none like it."""
    found = str(item.get("type"))
    if extended(item, terms.HIDDEN) and found == "string":
        return "carried"
    if found == "group":
        return "roster" if item.get("repeats") else "group"
    if found in ("choice", "open-choice"):
        return "pick_many" if item.get("repeats") else "pick_one"
    if found == "integer" and controlled(item) == "slider":
        low, high = extended(item, terms.MIN_VALUE), extended(item, terms.MAX_VALUE)
        if low in (0, 1) and isinstance(high, int) and 2 <= high <= 10:
            return "scale"
    return _TYPES.get(found, "")


def members_of(item: Item, kind: str, texts: Texts) -> tuple[dict[str, Any], list[str]]:
    """The members that `kind` has of its own, and what of `item` they leave out."""
    left = list(_unused(item, kind))
    read = _READ.get(kind)
    members = read(item, texts) if read else {}
    placeholder = extended(item, terms.ENTRY_FORMAT)
    typed = kind in ("short_text", "long_text", "web_address", "number")
    if placeholder and typed:
        members["placeholder"] = texts.text({"text": placeholder}, "text")
    return {name: value for name, value in members.items() if value is not None}, left


def _unused(item: Item, kind: str) -> Iterator[str]:
    """What is read of other kinds only."""
    if item.get("repeats") and kind not in ("pick_many", "roster", "file"):
        yield "that it can be answered several times"
    if item.get("maxLength") and kind not in ("short_text", "long_text"):
        yield "maxLength"
    if extended(item, terms.HIDDEN) and kind != "carried":
        yield "that it is hidden"
    bounded = ("number", "scale", "date", "time")
    for name in (terms.MIN_VALUE, terms.MAX_VALUE):
        if extended(item, name) is not None and kind not in bounded:
            yield name.rpartition("/")[2]
    options = item.get("answerOption") or []
    if any(not any(one.startswith("value") for one in option) for option in options):
        yield "options of a type that it does not have"


def _text(item: Item, texts: Texts) -> dict[str, Any]:
    most = 1000 if item.get("type") == "string" else 20_000
    longest, shortest = item.get("maxLength"), extended(item, terms.MIN_LENGTH)
    regex = extended(item, terms.REGEX)
    members: dict[str, Any] = {
        "longest": min(longest, most) if isinstance(longest, int) and longest > 0 else None,
        "shortest": shortest if isinstance(shortest, int) and 0 <= shortest <= most else None,
    }
    if regex and item.get("type") == "string":
        members["pattern"] = {"expression": str(regex)[:500]}
    return members


def _number(item: Item, texts: Texts) -> dict[str, Any]:
    whole = item.get("type") == "integer"
    decimals = extended(item, terms.DECIMALS)
    unit = extended(item, terms.UNIT)
    places = decimals if isinstance(decimals, int) and 0 < decimals <= 6 else 6
    return {
        "decimals": 0 if whole else places,
        "at_least": _decimal(extended(item, terms.MIN_VALUE)),
        "at_most": _decimal(extended(item, terms.MAX_VALUE)),
        "unit": texts.text(unit, "display") if isinstance(unit, dict) else None,
    }


def _decimal(number: Any) -> str | None:
    if isinstance(number, bool) or not isinstance(number, int | float):
        return None
    return str(round(Decimal(str(number)), 6).normalize()) if number else "0"


def _days(item: Item, texts: Texts) -> dict[str, Any]:
    low, high = extended(item, terms.MIN_VALUE), extended(item, terms.MAX_VALUE)
    length = 5 if item.get("type") == "time" else 10
    edges = {"earliest": low, "latest": high}
    return {name: str(edge)[:length] for name, edge in edges.items() if edge}


def _picks(item: Item, texts: Texts) -> dict[str, Any]:
    codes: set[str] = {"else"}
    options = []
    for option in item.get("answerOption") or []:
        if not any(name in _VALUES for name in option):
            continue
        coding = option.get("valueCoding") or {}
        plain = next((str(v) for n, v in option.items() if n.startswith("value")), "")
        label = texts.text(coding, "display") or texts.text(
            {"text": coding.get("code") or plain}, "text"
        )
        code = str(coding.get("code") or "")
        if not _CODE.match(code) or code in codes:
            code = key_from(code or next(iter(label.values()), ""), codes, "option")
        codes.add(code)
        texts.codes.setdefault(str(item.get("linkId")), {})[str(coding.get("code") or plain)] = code
        alone = bool(extended(option, terms.EXCLUSIVE)) and bool(item.get("repeats"))
        options.append({"code": code, "label": label, "alone": alone})
    members: dict[str, Any] = {"options": options}
    if item.get("type") == "open-choice":
        members["else_label"] = texts.text({"text": "Other"}, "text")
    if item.get("repeats"):
        members["fewest"] = extended(item, terms.MIN_OCCURS) or None
        members["most"] = extended(item, terms.MAX_OCCURS)
    else:
        looks = {control: look for look, control in terms.LOOKS.items()}
        members["look"] = looks.get(controlled(item), "buttons" if len(options) <= 6 else "list")
    return members


def _scale(item: Item, texts: Texts) -> dict[str, Any]:
    return {"low": extended(item, terms.MIN_VALUE), "high": extended(item, terms.MAX_VALUE)}


def _roster(item: Item, texts: Texts) -> dict[str, Any]:
    fewest, most = extended(item, terms.MIN_OCCURS), extended(item, terms.MAX_OCCURS)
    return {"fewest": fewest or 0, "most": most if most is not None else 10}


def _file(item: Item, texts: Texts) -> dict[str, Any]:
    size = extended(item, terms.MAX_SIZE)
    most = extended(item, terms.MAX_OCCURS)
    largest = max(1, min(int(size), 25)) if isinstance(size, int | float) else None
    return {"largest": largest, "most": most if item.get("repeats") and most else 1}


_READ: Mapping[str, Callable[[Item, Texts], dict[str, Any]]] = {
    "short_text": _text,
    "long_text": _text,
    "number": _number,
    "date": _days,
    "time": _days,
    "pick_one": _picks,
    "pick_many": _picks,
    "scale": _scale,
    "roster": _roster,
    "file": _file,
}
